"""What may not go out just now, looked at in one place: sign-off, connection, pauses."""

from collections.abc import Collection, Iterable
from datetime import datetime

from menudo.posts.models import Delivery
from menudo.posts.serializers_schedule import load_schedule, write_schedule
from menudo.profiles.pauses import Pauses, is_usable
from menudo_core.signoff.agreement import SignoffState
from menudo_core.signoff.holds import Hold, hold_reason
from menudo_core.signoff.schedule import apply_hold
from menudo_core.signoff.states import DeliveryState

OPEN_STATES = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]
SIGNED_STATES = (SignoffState.NONE, SignoffState.AGREED)


def hold_for(delivery: Delivery, pauses: Pauses, at: datetime | None = None) -> Hold | None:
    """What stands in the way of the delivery at `at` (None: when it is due). Its profile is read with it."""
    instant = at or delivery.due_at
    signed = delivery.signoff_state in SIGNED_STATES
    paused = instant is not None and pauses.at(delivery.profile, instant) is not None
    return hold_reason(signed, is_usable(delivery.profile), paused)


def refresh_holds(
    deliveries: Iterable[Delivery], pauses: Pauses, now: datetime, fresh: Collection[int] = ()
) -> list[Delivery]:
    """Have the rows in memory be held or released; those that stand otherwise than before. `fresh`: the ids of those that
    have just been given their time."""
    changed = []
    for delivery in deliveries:
        if delivery.state not in OPEN_STATES:
            continue
        schedule = load_schedule(delivery)
        why = hold_for(delivery, pauses, now if schedule.in_hand else None)
        after = apply_hold(schedule, why, now, delivery.pk in fresh)
        if after != schedule:
            write_schedule(delivery, after)
            changed.append(delivery)
    return changed
