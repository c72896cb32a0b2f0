"""Turning what someone said into the instant a delivery is due, and into a job."""

from collections.abc import Iterable
from datetime import datetime
from zoneinfo import ZoneInfo

from procrastinate.contrib.django import app

from menudo.base.clock import for_the_engine
from menudo.base.problems import Invalid
from menudo.posts.models import Delivery
from menudo_core.timing.due import BadTime, due_at
from menudo_core.timing.walltimes import Resolved


def read_wall(wall: str, pointer: str) -> datetime:
    """A wall time without offset (ISO 8601). Raises Invalid."""
    try:
        read = datetime.fromisoformat(wall.strip())
    except ValueError:
        raise Invalid.at(pointer, "Write a day and a time, for instance 2026-11-25T12:00.", "unreadable") from None
    if read.tzinfo is not None:
        raise Invalid.at(pointer, "Leave the offset out: the time is meant in the brand's zone.", "offset")
    if not 1971 <= read.year <= 9000:
        raise Invalid.at(pointer, "Write a year between 1971 and 9000.", "far")
    return read.replace(second=0, microsecond=0)


def resolve_due(wall: datetime, zone: ZoneInfo, now: datetime, pointer: str) -> Resolved:
    """The instant of a wall time that may be planned. Raises Invalid, with the reason at the field."""
    try:
        return due_at(wall, zone, now)
    except BadTime as bad:
        raise Invalid.at(pointer, bad.words, bad.code) from bad


def put_job(delivery: Delivery, at: datetime | None = None) -> None:
    """Defer the job that sends a delivery, in the caller's transaction. Stale jobs do nothing, so none is taken back.

    `at` None: the delivery's own time.
    """
    put_jobs([(delivery.pk, at or delivery.due_at)])


def put_jobs(deliveries: Iterable[tuple[int, datetime | None]]) -> None:
    """Defer the jobs of many deliveries (id and instant, None: at once), in the caller's transaction: one statement."""
    job = app.configure_task("send", queue="send").job
    jobs = [
        job.evolve(scheduled_at=for_the_engine(at) if at else None, task_kwargs={"delivery": id})
        for id, at in deliveries
    ]
    if jobs:
        app.job_manager.batch_defer_jobs(jobs)
