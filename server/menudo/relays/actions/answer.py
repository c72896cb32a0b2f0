"""Answer what a relay asks: it goes out as the relay says, or is thrown away; make a draft of what it only told."""

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.rows import the_one
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.plan import stopped_by
from menudo.posts.locking import lock_deliveries, lock_posts, lock_slots
from menudo.posts.models import Post
from menudo.relays.actions.carry import draft, send_off
from menudo.relays.judging import note_had
from menudo.relays.models import Had, Leg
from menudo.relays.shaping import make
from menudo_core.relays.guard import Verdict
from menudo_core.signoff.states import DeliveryState


def answer(place: Here, id: int, yes: bool) -> Post | None:
    """The draft that was asked about is planned, as it stands now, for every profile it goes to, or put in the bin.
    Raises NotFound, Conflict."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        leg = leg_of(place, id, lock=True)
        lock_slots([leg.relay.target_id])
        if leg.verdict != Leg.Asked.ASKED:
            raise Conflict("That was answered already.")
        post = lock_posts(place.brand, [leg.post_id or 0]).get(leg.post_id or 0)
        if yes:
            if post is None:
                raise Conflict("Its draft isn't there any more.")
            loose = lock_deliveries(post.deliveries.filter(state=DeliveryState.UNPLANNED)).values()
            if leg.relay.target_id not in {delivery.profile_id for delivery in loose}:
                raise Conflict("Its draft was planned by itself, or isn't for that profile any more.")
            # Those that were added to it go along, or nothing goes: none is left behind unseen.
            if stops := [words for delivery in loose if (words := stopped_by(delivery))]:
                raise Conflict(stops[0])
            send_off(place, leg.relay, post)
            leg.verdict = Verdict.FIRES.value
        else:
            if (
                post is not None
                and not post.deliveries.exclude(state__in=[DeliveryState.UNPLANNED, DeliveryState.OFF]).exists()
            ):
                post.binned, post.aside = clock.now(), False
                post.save(update_fields=["binned", "aside"])
            leg.verdict = Leg.Asked.DECLINED
        leg.save(update_fields=["verdict"])
        words = f"{'let it go out' if yes else 'threw away'} what a relay asked about"
        record(place.brand.pk, place.actor, "answer_relay", "post", leg.post_id or 0, words)
        tell(place.brand.pk, "relay", leg.relay_id)
        tell(place.brand.pk, "post", leg.post_id or 0)
    return post if yes else None


def make_draft(place: Here, id: int) -> Post:
    """A draft of what a relay only told of; the same one when asked again. Raises NotFound, Conflict."""
    place.needs(May.WRITE)
    leg = leg_of(place, id)
    if leg.post_id is not None:
        return Post.objects.get(pk=leg.post_id)
    if leg.verdict != Leg.Asked.TOLD:
        raise Conflict("Nothing is to be made of that.")
    made = make(place, leg.relay, leg.appeared)
    if made is None:
        raise Conflict("All messages of the relay are used up.")
    with transaction.atomic():
        leg = leg_of(place, id, lock=True)
        if leg.post_id is not None:
            return Post.objects.get(pk=leg.post_id)
        leg.post = draft(place, leg.relay, leg.appeared, made)
        leg.message = made.message.id
        leg.save(update_fields=["post", "message"])
        if not Had.objects.filter(profile=leg.relay.target, origin=leg.appeared.origin).exists():
            note_had(leg.relay.target, leg.appeared, leg)
        tell(place.brand.pk, "post", leg.post.pk)
    return leg.post


def leg_of(place: Here, id: int, lock: bool = False) -> Leg:
    """A leg of one of the brand's relays. Raises NotFound."""
    legs = Leg.objects.select_for_update(of=("self",)) if lock else Leg.objects
    return the_one(
        legs.select_related("relay__target", "relay__brand", "relay__by", "appeared").filter(
            relay__brand=place.brand, pk=id
        )
    )
