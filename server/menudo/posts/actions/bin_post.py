"""Put a post in the bin, and take it out again."""

from dataclasses import replace

from django.conf import settings
from django.db import transaction

from menudo.base import clock
from menudo.base.problems import ConflictError, NotFoundError
from menudo.base.sentences import say
from menudo.library.models import Use
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision, PostStatus
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo_core.signoff.states import DeliveryState

DELETABLE_STATES = (DeliveryState.UNPLANNED, DeliveryState.OFF)


def bin_post(context: BrandContext, post: Post) -> None:
    """A draft goes to the bin; what is planned or published doesn't. Raises ConflictError."""
    _require_deletable(context, post)
    with change_posts(context, posts=[post.pk]) as change:
        row = change.post(post.pk)
        if row.evergreen:
            raise ConflictError(say("post.is_turn"))
        if busy := sum(delivery.state not in DELETABLE_STATES for delivery in change.deliveries_of(row)):
            raise ConflictError(say("post.busy", count=busy))
        change.apply(Decision(statuses={row.pk: binned_status(change, row)}))
        change.record("bin", "post", row.pk, say("post.binned"))


def binned_status(change: PostChange, post: Post) -> PostStatus:
    """How a post stands that goes to the bin."""
    return replace(change.status(post), deleted_at=change.now, aside=False)


def restore_post(context: BrandContext, post_id: int) -> Post:
    """Out of the bin again, as it was. Raises NotFoundError."""
    with change_posts(context, posts=[post_id], binned=True) as change:
        post = change.post(post_id)
        if post.deleted_at is None:
            raise NotFoundError()
        _require_deletable(context, post)
        change.apply(Decision(statuses={post_id: replace(change.status(post), deleted_at=None)}))
        change.record("restore", "post", post_id, say("post.restored"))
    return post


def empty_bin() -> int:
    """Delete for good what has been in the bin for its time. How many."""
    over = Post.objects.filter(deleted_at__lt=clock.now() - settings.BIN)
    ids = list(over.values_list("pk", flat=True)[:500])
    with transaction.atomic():
        Use.objects.filter(post_id__in=ids).delete()
        Post.objects.filter(pk__in=ids).delete()
    return len(ids)


def _require_deletable(context: BrandContext, post: Post) -> None:
    context.require(Capability.WRITE if post.author_id == context.user.pk else Capability.DELETE)
