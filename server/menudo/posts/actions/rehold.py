"""Look again at what is planned and held, after something that it depends on has changed."""

from django.db.models import QuerySet

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.rows import write_fields
from menudo.posts.actions.due import put_jobs
from menudo.posts.holding import why_held
from menudo.posts.models import Delivery
from menudo.profiles.standing import pauses_of
from menudo_core.signoff.states import DeliveryState, Event, after

_OPEN = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]


def rehold(deliveries: QuerySet[Delivery]) -> int:
    """Hold what may no longer go out and release what may again; part of the caller's transaction. How many changed.

    What is held past its time is left to be missed: it must not go out late in silence. What was handed to a person is
    held and released whatever its time: it goes out only when they say so.
    """
    rows = list(
        deliveries.filter(state__in=_OPEN)
        .select_for_update(of=("self",), no_key=True)
        .prefetch_related("profile")
        .order_by("pk")
    )
    pauses = pauses_of({row.brand_id for row in rows})
    now, changed = clock.now(), []
    for row in rows:
        handed = row.step == Delivery.Step.HAND
        why = why_held(row, pauses, now if handed else None)
        late = row.due_at is not None and row.due_at <= now
        if row.held_for == (why or "") or (why is None and late and not handed):
            continue
        if why is None:
            row.state = after(DeliveryState.HELD, Event.RELEASE)
        elif row.state != DeliveryState.HELD:
            row.state = after(DeliveryState(row.state), Event.HOLD)
        row.held_for = why or ""
        row.revision += 1
        changed.append(row)
    write_fields(changed, ["state", "held_for", "revision"])
    put_jobs((row.pk, row.due_at) for row in changed if row.state == DeliveryState.PLANNED)
    for brand in {row.brand_id for row in changed}:
        tell(brand, "delivery", 0)
    return len(changed)
