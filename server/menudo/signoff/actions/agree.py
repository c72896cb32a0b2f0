"""Sign a post off: what was held for it may go out."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.rehold import rehold
from menudo.posts.models import Delivery, Post
from menudo.posts.reads import state_now
from menudo_core.signoff.states import PostState


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
        rehold(Delivery.objects.filter(post=post))
        record(place.brand.pk, place.actor, "agree", "post", post.pk, "signed off the post")
        tell(place.brand.pk, "post", post.pk)
    return post
