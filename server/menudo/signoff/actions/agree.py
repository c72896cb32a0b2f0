"""Sign a post off: what was held for it may go out."""

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import put_job
from menudo.posts.models import Post
from menudo.posts.reads import state_now
from menudo_core.signoff.states import DeliveryState, Event, PostState, after


def agree(place: Here, post: Post, began: int) -> Post:
    """Agree to a post as it stands in revision `began`; its held deliveries are planned, those too late are left to be missed."""
    place.needs(May.SIGN_OFF)
    with transaction.atomic():
        post = Post.objects.select_for_update().get(pk=post.pk)
        unchanged(began, post.revision, state_now(post))
        if post.state == PostState.SIGNED:
            raise Conflict("It is signed off already.")
        post.state = PostState.SIGNED
        post.revision += 1
        post.save(update_fields=["state", "revision"])
        for delivery in post.deliveries.select_for_update().filter(state=DeliveryState.HELD, due_at__gt=clock.now()):
            delivery.state = after(DeliveryState.HELD, Event.RELEASE)
            delivery.revision += 1
            delivery.save(update_fields=["state", "revision"])
            put_job(delivery)
        record(place.brand.pk, place.actor, "agree", "post", post.pk, "signed off the post")
        tell(place.brand.pk, "post", post.pk)
    return post
