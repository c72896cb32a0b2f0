"""Put a post in the bin, and take it out again."""

from dataclasses import replace

from django.conf import settings
from django.db import transaction

from menudo.base import clock
from menudo.base.problems import Conflict, NotFound
from menudo.library.models import Use
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.change.decision import Decision, PostStatus
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo_core.signoff.states import DeliveryState

LOOSE = (DeliveryState.UNPLANNED, DeliveryState.OFF)


def put_in_bin(place: Here, post: Post) -> None:
    """A draft goes to the bin; what is planned or published doesn't. Raises Conflict."""
    _own_or_delete(place, post)
    with change_posts(place, posts=[post.pk]) as change:
        row = change.post(post.pk)
        if row.evergreen:
            raise Conflict("It is a turn of a rota. Take it out of the rota first.")
        if busy := sum(delivery.state not in LOOSE for delivery in change.deliveries_of(row)):
            raise Conflict(f"{busy} of its deliveries are on the calendar. Take them off first.")
        change.apply(Decision(statuses={row.pk: in_bin(change, row)}))
        change.record("bin", "post", row.pk, "put a post in the bin")


def in_bin(change: PostChange, post: Post) -> PostStatus:
    """How a post stands that goes to the bin."""
    return replace(change.status(post), deleted_at=change.now, aside=False)


def restore(place: Here, id: int) -> Post:
    """Out of the bin again, as it was. Raises NotFound."""
    with change_posts(place, posts=[id], binned=True) as change:
        post = change.post(id)
        if post.binned is None:
            raise NotFound()
        _own_or_delete(place, post)
        change.apply(Decision(statuses={id: replace(change.status(post), deleted_at=None)}))
        change.record("restore", "post", id, "took a post out of the bin")
    return post


def empty() -> int:
    """Delete for good what has been in the bin for its time. How many."""
    over = Post.objects.filter(binned__lt=clock.now() - settings.BIN)
    ids = list(over.values_list("pk", flat=True)[:500])
    with transaction.atomic():
        Use.objects.filter(post_id__in=ids).delete()
        Post.objects.filter(pk__in=ids).delete()
    return len(ids)


def _own_or_delete(place: Here, post: Post) -> None:
    place.needs(May.WRITE if post.author_id == place.user.pk else May.DELETE)
