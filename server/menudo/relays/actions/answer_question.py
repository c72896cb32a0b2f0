"""Answer what a relay asks: it goes out as the relay says, or is thrown away; make a draft of what it only told."""

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import ConflictError
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.bin_post import DELETABLE_STATES, binned_status
from menudo.posts.actions.plan_post import blocking_reasons
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import PostChange, System, change_posts
from menudo.posts.models import Post
from menudo.relays.actions.run_relay import draft_for_target, plan_draft
from menudo.relays.adaptation import prepare_item
from menudo.relays.evaluation import mark_seen
from menudo.relays.models import Firing, SeenItem
from menudo_core.relays.guard import Verdict
from menudo_core.signoff.states import DeliveryState


def answer_question(context: BrandContext, firing_id: int, yes: bool) -> Post | None:
    """The draft that was asked about is planned, as it stands now, for every profile it goes to, or put in the bin.
    Raises NotFoundError, ConflictError."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        firing = firing_of(context, firing_id, lock=True)
        if firing.verdict != Firing.Asked.ASKED:
            raise ConflictError(say("relay.answered"))
        with change_posts(context, posts=[firing.post_id or 0], slots_of=[firing.relay.target_id]) as change:
            post = change.posts.get(firing.post_id or 0)
            if yes:
                _send_off(change, firing, post)
            elif post is not None and all(d.state in DELETABLE_STATES for d in change.deliveries_of(post)):
                change.apply(Decision(statuses={post.pk: binned_status(change, post)}))
            firing.verdict = Verdict.FIRES.value if yes else Firing.Asked.DECLINED
            firing.save(update_fields=["verdict"])
            change.record(
                "answer_relay", "post", firing.post_id or 0, say("relay.let_go" if yes else "relay.thrown_away")
            )
        publish_change(context.brand.pk, "relay", firing.relay_id)
        publish_change(context.brand.pk, "post", firing.post_id or 0)
    return post if yes else None


def _send_off(change: PostChange, firing: Firing, post: Post | None) -> None:
    if post is None:
        raise ConflictError(say("relay.draft_gone"))
    loose = [d for d in change.deliveries_of(post) if d.state == DeliveryState.UNPLANNED]
    if firing.relay.target_id not in {delivery.profile_id for delivery in loose}:
        raise ConflictError(say("relay.draft_planned"))
    # Those that were added to it go along, or nothing goes: none is left behind unseen.
    if stops := blocking_reasons(change, loose):
        raise ConflictError(next(iter(stops.values())))
    plan_draft(change, firing.relay, post)


def create_draft(context: BrandContext, firing_id: int) -> Post:
    """A draft of what a relay only told of; the same one when asked again. Raises NotFoundError, ConflictError."""
    context.require(Capability.WRITE)
    firing = firing_of(context, firing_id)
    if firing.post_id is not None:
        return Post.objects.get(pk=firing.post_id)
    if firing.verdict != Firing.Asked.TOLD:
        raise ConflictError(say("relay.nothing"))
    made = prepare_item(context, firing.relay, firing.item)
    if made is None:
        raise ConflictError(say("relay.used_up"))
    with change_posts(System(context.brand)) as change:
        firing = firing_of(context, firing_id, lock=True)
        if firing.post_id is not None:
            return Post.objects.get(pk=firing.post_id)
        firing.post = draft_for_target(change, context, firing.relay, firing.item, made)
        firing.message = made.message.id
        firing.save(update_fields=["post", "message"])
        if not SeenItem.objects.filter(profile=firing.relay.target, origin=firing.item.origin).exists():
            mark_seen(firing.relay.target, firing.item, firing)
    return firing.post


def firing_of(context: BrandContext, firing_id: int, lock: bool = False) -> Firing:
    """A firing of one of the brand's relays. Raises NotFoundError."""
    firings = Firing.objects.select_for_update(of=("self",), no_key=True) if lock else Firing.objects
    return first_or_404(
        firings.select_related("relay__target", "relay__brand", "relay__run_as", "item").filter(
            relay__brand=context.brand, pk=firing_id
        )
    )
