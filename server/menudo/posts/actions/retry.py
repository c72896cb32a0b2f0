"""Trouble, mended: send again, or say what was found at the network."""

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Invalid
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import put_job
from menudo.posts.actions.rehold import rehold
from menudo.posts.locking import lock_delivery
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery_out
from menudo.profiles.standing import pauses_of, usable
from menudo_core.signoff.states import DeliveryState, Event, NotPossible, after
from menudo_core.text.links import is_web_address


def retry(place: Here, delivery: Delivery, began: int) -> Delivery:
    """Send a delivery in trouble again, now. One that may have gone out must be settled instead."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        delivery = _locked(delivery, began)
        if delivery.reason_code == "unsure":
            raise Conflict("It may have gone out. Look at the profile first, and say whether it is there.")
        if not usable(delivery.profile):
            raise Conflict(f"{delivery.profile.handle} must be reconnected first.")
        if pauses_of([delivery.brand_id]).at(delivery.profile, clock.now()):
            raise Conflict(f"{delivery.profile.handle} is paused. End the pause first.")
        _again(place, delivery)
    return delivery


def settle(place: Here, delivery: Delivery, is_there: bool, url: str, began: int) -> Delivery:
    """A person looked at the network: the post is there (published), or it isn't (sent again)."""
    place.needs(May.PUBLISH)
    if is_there and url and not is_web_address(url):
        raise Invalid.at("/url", "That is not a whole web address. Copy it from the post, or leave it empty.")
    with transaction.atomic():
        delivery = _locked(delivery, began)
        if delivery.reason_code != "unsure":
            raise Conflict("Menudo knows what came of this one.")
        if not is_there:
            # A person has looked: what was begun is forgotten, so that the network isn't asked again.
            delivery.step = Delivery.Step.NONE
            _again(place, delivery)
            return delivery
        delivery.state = after(DeliveryState(delivery.state), Event.FOUND)
        delivery.remote_url, delivery.published_at = url, clock.now()
        delivery.sent = delivery.trying or delivery.sent
        delivery.reason = delivery.reason_code = ""
        delivery.revision += 1
        delivery.save()
        record(
            place.brand.pk,
            place.actor,
            "settle",
            "delivery",
            delivery.pk,
            f"found {delivery.profile.handle}'s post at the network",
        )
        tell(place.brand.pk, "delivery", delivery.pk)
    return delivery


def _locked(delivery: Delivery, began: int) -> Delivery:
    row = lock_delivery(delivery)
    unchanged(began, row.revision, delivery_out(row).model_dump(mode="json"))
    return row


def _again(place: Here, delivery: Delivery) -> None:
    try:
        delivery.state = after(DeliveryState(delivery.state), Event.RETRY)
    except NotPossible as error:
        raise Conflict(f"It can't be sent again. {error}") from error
    delivery.reason = delivery.reason_code = ""
    delivery.tries = 0
    delivery.not_before = None
    delivery.revision += 1
    delivery.save()
    put_job(delivery, clock.now())
    rehold(Delivery.objects.filter(pk=delivery.pk))
    delivery.refresh_from_db()
    record(place.brand.pk, place.actor, "retry", "delivery", delivery.pk, f"sent {delivery.profile.handle} again")
    tell(place.brand.pk, "delivery", delivery.pk)
