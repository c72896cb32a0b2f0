"""Where deliveries stand: as their rows and the history have it, and as the core has it."""

from collections.abc import Mapping
from datetime import UTC, datetime
from typing import Any

from menudo.posts.models import Delivery
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.schedule import Schedule, SendStep
from menudo_core.signoff.states import DeliveryState


def load_schedule(delivery: Delivery) -> Schedule:
    """Where a delivery's row says that it stands."""
    return Schedule(
        profile_id=delivery.profile_id,
        state=DeliveryState(delivery.state),
        due_at=delivery.due_at,
        wall_time=delivery.wall_time.replace(tzinfo=None) if delivery.wall_time else None,
        zone=delivery.zone,
        delay=delivery.delay,
        jitter=delivery.jitter,
        seed=delivery.seed,
        was_due=delivery.was_due,
        held_for=Hold(delivery.held_for) if delivery.held_for else None,
        not_before=delivery.not_before,
        tries=delivery.tries,
        reason=delivery.reason,
        reason_code=delivery.reason_code,
        step=SendStep(delivery.step),
    )


# What write_schedule writes of a row.
SCHEDULE_FIELDS = (
    "profile",
    "state",
    "due_at",
    "wall_time",
    "zone",
    "delay",
    "jitter",
    "seed",
    "was_due",
    "held_for",
    "not_before",
    "tries",
    "reason",
    "reason_code",
    "step",
)


def write_schedule(delivery: Delivery, schedule: Schedule) -> None:
    """Have a row in memory say where the delivery stands; its profile is set by whoever has it."""
    delivery.state = schedule.state
    delivery.due_at = schedule.due_at
    delivery.wall_time = schedule.wall_time.replace(tzinfo=UTC) if schedule.wall_time else None
    delivery.zone = schedule.zone
    delivery.delay, delivery.jitter, delivery.seed = schedule.delay, schedule.jitter, schedule.seed
    delivery.was_due, delivery.not_before = schedule.was_due, schedule.not_before
    delivery.held_for = schedule.held_for or ""
    delivery.tries, delivery.reason, delivery.reason_code = schedule.tries, schedule.reason, schedule.reason_code
    delivery.step = Delivery.Step(schedule.step.value)


def store_schedule(schedule: Schedule) -> dict[str, Any]:
    """What an undo puts back, as the history keeps it."""
    return {
        "state": schedule.state.value,
        "due_at": _store_instant(schedule.due_at),
        "wall": _store_instant(schedule.wall_time.replace(tzinfo=UTC) if schedule.wall_time else None),
        "zone": schedule.zone,
        "reason": schedule.reason,
        "reason_code": schedule.reason_code,
        "held_for": schedule.held_for or "",
        "delay": schedule.delay,
        "sway": schedule.jitter,
        "seed": schedule.seed,
        "was_due": _store_instant(schedule.was_due),
        "handed": schedule.in_hand,
    }


def load_stored_schedule(kept: Mapping[str, Any], present: Schedule) -> Schedule:
    """What an undo puts back in place of `present`; entries of earlier versions may lack some of it."""
    wall_time, held_for = _load_instant(kept["wall"]), kept.get("held_for", "")
    return Schedule(
        profile_id=kept.get("profile", present.profile_id),
        state=DeliveryState(kept["state"]),
        due_at=_load_instant(kept["due_at"]),
        wall_time=wall_time.replace(tzinfo=None) if wall_time else None,
        zone=kept["zone"],
        delay=kept.get("delay", 0),
        jitter=kept.get("sway", 0),
        seed=kept.get("seed"),
        was_due=_load_instant(kept.get("was_due")),
        held_for=Hold(held_for) if held_for else None,
        not_before=present.not_before,
        tries=present.tries,
        reason=kept["reason"],
        reason_code=kept["reason_code"],
        step=SendStep.HAND if kept.get("handed") else present.step,
    )


def _store_instant(instant: datetime | None) -> str | None:
    return instant.isoformat() if instant else None


def _load_instant(kept: str | None) -> datetime | None:
    return datetime.fromisoformat(kept) if kept else None
