"""Answer what a relay asks: it goes out as the relay says, or is thrown away; make a draft of what it only told."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.rows import the_one
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.bin import LOOSE, in_bin
from menudo.posts.actions.plan import stopped_by
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import PostChange, System, change_posts
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
        if leg.verdict != Leg.Asked.ASKED:
            raise Conflict("That was answered already.")
        with change_posts(place, posts=[leg.post_id or 0], slots_of=[leg.relay.target_id]) as change:
            post = change.posts.get(leg.post_id or 0)
            if yes:
                _send_off(change, leg, post)
            elif post is not None and all(d.state in LOOSE for d in change.deliveries_of(post)):
                change.apply(Decision(statuses={post.pk: in_bin(change, post)}))
            leg.verdict = Verdict.FIRES.value if yes else Leg.Asked.DECLINED
            leg.save(update_fields=["verdict"])
            words = f"{'let it go out' if yes else 'threw away'} what a relay asked about"
            change.record("answer_relay", "post", leg.post_id or 0, words)
        tell(place.brand.pk, "relay", leg.relay_id)
        tell(place.brand.pk, "post", leg.post_id or 0)
    return post if yes else None


def _send_off(change: PostChange, leg: Leg, post: Post | None) -> None:
    if post is None:
        raise Conflict("Its draft isn't there any more.")
    loose = [d for d in change.deliveries_of(post) if d.state == DeliveryState.UNPLANNED]
    if leg.relay.target_id not in {delivery.profile_id for delivery in loose}:
        raise Conflict("Its draft was planned by itself, or isn't for that profile any more.")
    # Those that were added to it go along, or nothing goes: none is left behind unseen.
    if stops := stopped_by(change, loose):
        raise Conflict(next(iter(stops.values())))
    send_off(change, leg.relay, post)


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
    with change_posts(System(place.brand)) as change:
        leg = leg_of(place, id, lock=True)
        if leg.post_id is not None:
            return Post.objects.get(pk=leg.post_id)
        leg.post = draft(change, place, leg.relay, leg.appeared, made)
        leg.message = made.message.id
        leg.save(update_fields=["post", "message"])
        if not Had.objects.filter(profile=leg.relay.target, origin=leg.appeared.origin).exists():
            note_had(leg.relay.target, leg.appeared, leg)
    return leg.post


def leg_of(place: Here, id: int, lock: bool = False) -> Leg:
    """A leg of one of the brand's relays. Raises NotFound."""
    legs = Leg.objects.select_for_update(of=("self",)) if lock else Leg.objects
    return the_one(
        legs.select_related("relay__target", "relay__brand", "relay__by", "appeared").filter(
            relay__brand=place.brand, pk=id
        )
    )
