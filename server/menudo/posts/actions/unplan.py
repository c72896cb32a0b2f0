"""Take a delivery off the calendar, or call it off for good."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.plan import snapshot
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery_out
from menudo_core.signoff.states import DeliveryState, Event, NotPossible, after


def unplan(place: Here, delivery: Delivery, began: int) -> tuple[Delivery, int]:
    """Back to the tray: the delivery keeps its post and has no time. Returns it and the entry that undoes it."""
    return _off(place, delivery, began, Event.UNPLAN, "took {} off the calendar")


def call_off(place: Here, delivery: Delivery, began: int) -> tuple[Delivery, int]:
    """It won't go out; it stays on the calendar as called off. Returns it and the entry that undoes it."""
    return _off(place, delivery, began, Event.CALL_OFF, "called {} off")


def _off(place: Here, delivery: Delivery, began: int, event: Event, words: str) -> tuple[Delivery, int]:
    place.needs(May.PUBLISH)
    with transaction.atomic():
        delivery = Delivery.objects.select_for_update(of=("self",)).select_related("profile").get(pk=delivery.pk)
        unchanged(began, delivery.revision, delivery_out(delivery).model_dump(mode="json"))
        if delivery.reason_code == "unsure":
            raise Conflict("It may have gone out. Look at the profile first, and say whether it is there.")
        before = snapshot(delivery)
        try:
            take_off(delivery, event)
        except NotPossible as error:
            raise Conflict(f"That can't be done. {error}") from error
        entry = record(place.brand.pk, place.actor, event, "delivery", delivery.pk, words.format(delivery.profile.handle),
                       {str(delivery.pk): before})  # fmt: skip
        tell(place.brand.pk, "delivery", delivery.pk)
    return delivery, entry.pk


def take_off(delivery: Delivery, event: Event) -> None:
    """Write what UNPLAN or CALL_OFF makes of a delivery whose row is locked. Raises NotPossible."""
    delivery.state = after(DeliveryState(delivery.state), event)
    if event is Event.UNPLAN:
        delivery.was_due = delivery.due_at
        delivery.delay = delivery.sway = 0
        delivery.seed = None
        delivery.due_at = delivery.wall = None
        delivery.reason = delivery.reason_code = ""
    delivery.not_before = None
    delivery.held_for = ""
    delivery.revision += 1
    delivery.save()
