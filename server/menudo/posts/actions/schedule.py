"""Give deliveries a time or take it from them: decided in memory, then written together with their jobs."""

from collections.abc import Collection
from datetime import UTC, datetime
from typing import Any
from zoneinfo import ZoneInfo

from menudo.base.rows import write_fields
from menudo.posts.actions.due import put_jobs
from menudo.posts.holding import why_held
from menudo.posts.models import Delivery, Post
from menudo.profiles.standing import Pauses
from menudo_core.signoff.states import DeliveryState, Event, after
from menudo_core.timing.walltimes import wall_in

# What changes when a delivery is given another time, or none.
_FIELDS = (
    "profile", "state", "due_at", "wall", "zone", "delay", "sway", "seed", "was_due", "held_for", "not_before", "tries",
    "reason", "reason_code", "step", "revision",
)  # fmt: skip


def set_due(delivery: Delivery, at: datetime, zone: ZoneInfo, event: Event, pauses: Pauses) -> None:
    """Give a delivery its instant and the state that `event` leads to, held when something stands in its way. Nothing is
    written: see write_deliveries. Its post, profile and brand are read with it. Raises NotPossible."""
    state = after(DeliveryState(delivery.state), event)
    delivery.due_at = at
    delivery.wall = wall_in(at, zone).replace(tzinfo=UTC)
    delivery.zone = zone.key
    if event is Event.MOVE:
        # Where somebody puts it is where it goes: what stagger and sway had made of it is no more.
        delivery.delay = delivery.sway = 0
        delivery.seed = None
    why = why_held(delivery, pauses)
    if why is not None and state is DeliveryState.PLANNED:
        state = after(state, Event.HOLD)
    elif why is None and state is DeliveryState.HELD:
        state = after(state, Event.RELEASE)
    delivery.state, delivery.held_for = state, why or ""
    delivery.not_before = None
    delivery.reason = delivery.reason_code = ""
    delivery.tries = 0
    _take_back(delivery)
    delivery.revision += 1


def take_off(delivery: Delivery, event: Event) -> None:
    """What UNPLAN or CALL_OFF makes of a delivery. Nothing is written: see write_deliveries. Raises NotPossible."""
    delivery.state = after(DeliveryState(delivery.state), event)
    if event is Event.UNPLAN:
        delivery.was_due = delivery.due_at
        delivery.delay = delivery.sway = 0
        delivery.seed = None
        delivery.due_at = delivery.wall = None
        delivery.reason = delivery.reason_code = ""
    delivery.not_before = None
    delivery.held_for = ""
    _take_back(delivery)
    delivery.revision += 1


def _take_back(delivery: Delivery) -> None:
    """Planned anew or taken off, it is in nobody's hand any more."""
    if delivery.step == Delivery.Step.HAND:
        delivery.step = Delivery.Step.NONE


def write_deliveries(deliveries: Collection[Delivery]) -> None:
    """Write what was decided of deliveries that are locked, and the jobs of those that are planned: three statements,
    however many there are. Their posts are read with them."""
    rows = sorted(deliveries, key=lambda delivery: delivery.pk)
    write_fields(rows, _FIELDS)
    timed = [row for row in rows if row.due_at is not None]
    if aside := {row.post_id for row in timed if row.post.aside}:
        # Planned is answered, whoever did it: taken off again it waits in the tray as any draft does.
        Post.objects.filter(pk__in=aside).update(aside=False)
    put_jobs((row.pk, row.due_at) for row in rows if row.state == DeliveryState.PLANNED)


def snapshot(delivery: Delivery) -> dict[str, Any]:
    """What an undo puts back."""
    return {
        "state": delivery.state,
        "due_at": delivery.due_at.isoformat() if delivery.due_at else None,
        "wall": delivery.wall.isoformat() if delivery.wall else None,
        "zone": delivery.zone,
        "reason": delivery.reason,
        "reason_code": delivery.reason_code,
        "held_for": delivery.held_for,
        "delay": delivery.delay,
        "sway": delivery.sway,
        "seed": delivery.seed,
        "was_due": delivery.was_due.isoformat() if delivery.was_due else None,
        "handed": delivery.step == Delivery.Step.HAND,
        "revision": delivery.revision + 1,
    }
