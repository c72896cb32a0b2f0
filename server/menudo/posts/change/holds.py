"""What may not go out just now, looked at in one place: sign-off, connection, pauses."""

from collections.abc import Collection, Iterable
from datetime import datetime

from django.db.models import QuerySet

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.rows import write_fields
from menudo.posts.actions.enqueue_delivery import enqueue_deliveries
from menudo.posts.change.locks import lock_deliveries, shut_gate
from menudo.posts.models import Delivery
from menudo.posts.serializers_schedule import load_schedule, write_schedule
from menudo.profiles.pauses import Pauses, is_usable, pauses_of
from menudo_core.signoff.agreement import SignoffState
from menudo_core.signoff.holds import Hold, hold_reason
from menudo_core.signoff.schedule import apply_hold
from menudo_core.signoff.states import DeliveryState

_OPEN = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]


def hold_for(delivery: Delivery, pauses: Pauses, at: datetime | None = None) -> Hold | None:
    """What stands in the way of the delivery at `at` (None: when it is due). Its profile is read with it."""
    instant = at or delivery.due_at
    signed = delivery.signoff_state in (SignoffState.NONE, SignoffState.AGREED)
    paused = instant is not None and pauses.at(delivery.profile, instant) is not None
    return hold_reason(signed, is_usable(delivery.profile), paused)


def refresh_holds(
    deliveries: Iterable[Delivery], pauses: Pauses, now: datetime, fresh: Collection[int] = ()
) -> list[Delivery]:
    """Have the rows in memory be held or released; those that stand otherwise than before. `fresh`: the ids of those that
    have just been given their time."""
    changed = []
    for delivery in deliveries:
        if delivery.state not in _OPEN:
            continue
        schedule = load_schedule(delivery)
        why = hold_for(delivery, pauses, now if schedule.in_hand else None)
        after = apply_hold(schedule, why, now, delivery.pk in fresh)
        if after != schedule:
            write_schedule(delivery, after)
            changed.append(delivery)
    return changed


def recompute_holds(deliveries: QuerySet[Delivery]) -> int:
    """Hold what may no longer go out and release what may again, after something beside the posts has changed: a pause, a
    connection. Part of the caller's transaction, which has locked no posts. How many changed."""
    shut_gate(deliveries.order_by().values_list("brand_id", flat=True).distinct())
    rows = deliveries.filter(state__in=_OPEN)
    found = list(Delivery.objects.filter(pk__in=lock_deliveries(rows)).prefetch_related("profile").order_by("pk"))
    changed = refresh_holds(found, pauses_of({row.brand_id for row in found}), clock.now())
    for row in changed:
        row.revision += 1
    write_fields(changed, ["state", "held_for", "revision"])
    enqueue_deliveries((row.pk, row.due_at) for row in changed if row.state == DeliveryState.PLANNED)
    for brand in {row.brand_id for row in changed}:
        publish_change(brand, "delivery", 0)
    return len(changed)
