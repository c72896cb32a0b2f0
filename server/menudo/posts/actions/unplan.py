"""Take a delivery off the calendar, or call it off for good."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.schedule import snapshot, take_off, write_deliveries
from menudo.posts.locking import lock_delivery
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery_out
from menudo_core.signoff.states import Event, NotPossible


def unplan(place: Here, delivery: Delivery, began: int) -> tuple[Delivery, int]:
    """Back to the tray: the delivery keeps its post and has no time. Returns it and the entry that undoes it."""
    return _off(place, delivery, began, Event.UNPLAN, "took {} off the calendar")


def call_off(place: Here, delivery: Delivery, began: int) -> tuple[Delivery, int]:
    """It won't go out; it stays on the calendar as called off. Returns it and the entry that undoes it."""
    return _off(place, delivery, began, Event.CALL_OFF, "called {} off")


def _off(place: Here, delivery: Delivery, began: int, event: Event, words: str) -> tuple[Delivery, int]:
    place.needs(May.PUBLISH)
    with transaction.atomic():
        delivery = lock_delivery(delivery)
        unchanged(began, delivery.revision, delivery_out(delivery).model_dump(mode="json"))
        if delivery.reason_code == "unsure":
            raise Conflict("It may have gone out. Look at the profile first, and say whether it is there.")
        before = snapshot(delivery)
        try:
            take_off(delivery, event)
        except NotPossible as error:
            raise Conflict(f"That can't be done. {error}") from error
        write_deliveries([delivery])
        entry = record(place.brand.pk, place.actor, event, "delivery", delivery.pk, words.format(delivery.profile.handle),
                       {str(delivery.pk): before})  # fmt: skip
        tell(place.brand.pk, "delivery", delivery.pk)
    return delivery, entry.pk
