"""Move a delivery to another time."""

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.actions.resign import as_left, moved
from menudo.posts.actions.schedule import set_due, snapshot, write_deliveries
from menudo.posts.actions.watch import tell_moved
from menudo.posts.locking import lock_delivery
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery_out
from menudo.profiles.standing import pauses_of
from menudo_core.signoff.states import DeliveryState, Event, NotPossible, after


def move(place: Here, delivery: Delivery, wall: str, began: int) -> tuple[Delivery, int]:
    """Give a planned delivery another wall time, in the brand's zone. The delivery and the entry that undoes it.

    Wording and sign-off stay as they are. Must be called inside no transaction; takes the row's lock.
    """
    place.needs(May.PUBLISH)
    with transaction.atomic():
        delivery = lock_delivery(delivery)
        unchanged(began, delivery.revision, delivery_out(delivery).model_dump(mode="json"))
        try:
            after(DeliveryState(delivery.state), Event.MOVE)
        except NotPossible as error:
            raise Conflict(f"It can't be moved. {error}") from error
        due = resolve_due(read_wall(wall, "/wall"), place.zone, clock.now(), "/wall")
        before = snapshot(delivery)
        set_due(delivery, due.instant, place.zone, Event.MOVE, pauses_of([place.brand.pk]))
        write_deliveries([delivery])
        moved(place.brand, [delivery.post_id], place.user.pk)
        words = f"moved {delivery.profile.handle} to {due.wall:%a} {due.wall.day} {due.wall:%b, %H:%M}"
        tell_moved(place, [delivery.post_id], words)
        entry = record(
            place.brand.pk, place.actor, "move", "delivery", delivery.pk, words, as_left({str(delivery.pk): before})
        )
        tell(place.brand.pk, "delivery", delivery.pk)
        delivery.refresh_from_db()
    return delivery, entry.pk
