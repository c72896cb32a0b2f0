"""Put a post in the bin, and take it out again."""

from django.conf import settings
from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, NotFound
from menudo.history.actions.record import record
from menudo.library.models import Use
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.locking import lock_post
from menudo.posts.models import Post
from menudo_core.signoff.states import DeliveryState

_LOOSE = [DeliveryState.UNPLANNED, DeliveryState.OFF]


def put_in_bin(place: Here, post: Post) -> None:
    """A draft goes to the bin; what is planned or published doesn't."""
    _own_or_delete(place, post)
    with transaction.atomic():
        post = lock_post(place, post)
        if post.evergreen:
            raise Conflict("It is a turn of a rota. Take it out of the rota first.")
        busy = post.deliveries.exclude(state__in=_LOOSE).count()
        if busy:
            raise Conflict(f"{busy} of its deliveries are on the calendar. Take them off first.")
        post.binned, post.aside = clock.now(), False
        post.save(update_fields=["binned", "aside"])
        record(place.brand.pk, place.actor, "bin", "post", post.pk, "put a post in the bin")
        tell(place.brand.pk, "post", post.pk)


def restore(place: Here, id: int) -> Post:
    """Out of the bin again, as it was."""
    with transaction.atomic():
        post = (
            Post.objects.select_for_update(no_key=True).filter(brand=place.brand, pk=id, binned__isnull=False).first()
        )
        if post is None:
            raise NotFound()
        _own_or_delete(place, post)
        post.binned = None
        post.save(update_fields=["binned"])
        record(place.brand.pk, place.actor, "restore", "post", post.pk, "took a post out of the bin")
        tell(place.brand.pk, "post", post.pk)
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
