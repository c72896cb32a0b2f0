"""By hand: a person published it, didn't, or will later."""

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Invalid
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.actions.resign import moved
from menudo.posts.actions.schedule import set_due, write_deliveries
from menudo.posts.kept import as_sent
from menudo.posts.locking import lock_delivery
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery_out
from menudo.posts.saying import Sayings, content_for
from menudo.posts.signing import sign_of
from menudo.profiles.standing import pauses_of
from menudo_core.signoff.agreement import Sign
from menudo_core.signoff.holds import HELD_WORDS, Hold
from menudo_core.signoff.states import DeliveryState, Event, NotPossible, after
from menudo_core.text.clean import unusable
from menudo_core.text.links import is_web_address


def done(place: Here, delivery: Delivery, url: str, began: int) -> Delivery:
    """It is published; `url` is where (may be empty). What was sent is kept as it stands now."""
    url = url.strip()
    if url and not is_web_address(url):
        raise Invalid.at("/url", "That is not a whole web address. Copy it from the post, or leave it empty.")
    with transaction.atomic():
        row = _waiting(place, delivery, began, Event.DONE)
        # Everything that takes an agreement away holds it as well; should anything ever not, here is the last look.
        if sign_of(row, Sayings.of(row.post, row.brand)) not in (Sign.NONE, Sign.AGREED):
            raise Conflict(HELD_WORDS[Hold.SIGNOFF])
        row.remote_url, row.published_at = url[:500], clock.now()
        row.sent = as_sent(content_for(row))
        _keep(place, row, "publish", f"published {row.profile.handle}'s post by hand")
    return row


def not_done(place: Here, delivery: Delivery, why: str, began: int) -> Delivery:
    """It won't be published; `why` is kept with it. It stays on the calendar as called off."""
    why = why.strip()
    if not why or unusable(why):
        raise Invalid.at("/why", unusable(why) or "Say in a few words why not.", "missing")
    with transaction.atomic():
        row = _waiting(place, delivery, began, Event.CALL_OFF)
        row.reason, row.reason_code = f"Not published by hand: {why}"[:500], "not_done"
        _keep(place, row, "call_off", f"did not publish {row.profile.handle}'s post: {why}")
    return row


def later(place: Here, delivery: Delivery, wall: str, began: int) -> Delivery:
    """At another wall time of the brand's: the person is told again then."""
    with transaction.atomic():
        row = _locked(place, delivery, began)
        due = resolve_due(read_wall(wall, "/wall"), place.zone, clock.now(), "/wall")
        try:
            set_due(row, due.instant, place.zone, Event.MOVE, pauses_of([place.brand.pk]))
            write_deliveries([row])
        except NotPossible as error:
            raise Conflict(str(error)) from error
        moved(place.brand, [row.post_id], place.user.pk)
        row.refresh_from_db()
        record(
            place.brand.pk,
            place.actor,
            "move",
            "delivery",
            row.pk,
            f"put {row.profile.handle}'s post off to {due.wall:%a %d %b, %H:%M}",
        )
        tell(place.brand.pk, "delivery", row.pk)
    return row


def _locked(place: Here, delivery: Delivery, began: int) -> Delivery:
    if delivery.profile.keeper_id != place.user.pk:
        place.needs(May.PUBLISH)
    row = lock_delivery(delivery)
    unchanged(began, row.revision, delivery_out(row).model_dump(mode="json"))
    if row.state != DeliveryState.HAND:
        held = HELD_WORDS[Hold(row.held_for)] if row.state == DeliveryState.HELD and row.held_for else ""
        raise Conflict(held or "It isn't waiting to be published by hand.")
    return row


def _waiting(place: Here, delivery: Delivery, began: int, event: Event) -> Delivery:
    row = _locked(place, delivery, began)
    row.state = after(DeliveryState(row.state), event)
    return row


def _keep(place: Here, row: Delivery, verb: str, words: str) -> None:
    row.revision += 1
    row.save()
    record(place.brand.pk, place.actor, verb, "delivery", row.pk, words)
    tell(place.brand.pk, "delivery", row.pk)
