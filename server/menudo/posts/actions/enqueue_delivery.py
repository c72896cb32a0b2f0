"""Turning what someone said into the instant a delivery is due, and into a job."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from menudo.base import clock
from menudo.base.engine import defer_jobs
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.posts.models import Delivery
from menudo_core.timing.due import InvalidTimeError, due_at
from menudo_core.timing.walltimes import ResolvedTime

# Whoever looks for work looks past every job that isn't due yet: with tens of thousands of them in line each look took a tenth of a
# second. What is due later gets its job when its time comes near (`delivery.actions.sweep.enqueue_ahead`).
AHEAD = timedelta(hours=2)


def parse_wall_time(wall_time: str, pointer: str) -> datetime:
    """A wall time without offset (ISO 8601). Raises InvalidError."""
    try:
        read = datetime.fromisoformat(wall_time.strip())
    except ValueError:
        raise InvalidError.at(pointer, say("time.unreadable")) from None
    if read.tzinfo is not None:
        raise InvalidError.at(pointer, say("time.offset"))
    if not 1971 <= read.year <= 9000:
        raise InvalidError.at(pointer, say("time.far_year"))
    return read.replace(second=0, microsecond=0)


def resolve_due(wall_time: datetime, zone: ZoneInfo, now: datetime, pointer: str) -> ResolvedTime:
    """The instant of a wall time that may be planned. Raises InvalidError, with the reason at the field."""
    try:
        return due_at(wall_time, zone, now)
    except InvalidTimeError as bad:
        raise InvalidError.at(pointer, bad.words, bad.code) from bad


def enqueue_delivery(delivery: Delivery, at: datetime | None = None) -> None:
    """Defer the job that sends a delivery, in the caller's transaction, if it is due soon. Stale jobs do nothing, so none is taken back.

    `at` None: the delivery's own time.
    """
    enqueue_deliveries([(delivery.pk, at or delivery.due_at)])


def enqueue_deliveries(deliveries: Iterable[tuple[int, datetime | None]]) -> None:
    """Defer the jobs of many deliveries (id and instant, None: at once), in the caller's transaction: one statement."""
    until = clock.now() + AHEAD
    near = [(at, {"delivery": delivery_id}) for delivery_id, at in deliveries if at is None or at <= until]
    defer_jobs("send", "send", near)
