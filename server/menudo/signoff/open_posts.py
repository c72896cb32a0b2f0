"""Posts whose sign-off may still change: something of theirs isn't out, or off for good."""

from django.db.models import F, Min, Q, QuerySet

from menudo.posts.change.holds import OPEN_STATES
from menudo.posts.models import Delivery, Post
from menudo.posts.signoff_state import FINAL_STATES


def open_posts(brand: int) -> QuerySet[Post]:
    """The brand's open posts, those in the bin left out."""
    return Post.objects.filter(pk__in=_open_deliveries(brand).values("post_id"))


def posts_due_first(brand: int, most: int) -> list[int]:
    """The ids of the open posts of which something goes out first; those of which nothing is to go out come last."""
    due = Min("due_at", filter=Q(state__in=OPEN_STATES))
    posts = _open_deliveries(brand).order_by().values("post_id").annotate(due=due)
    return list(posts.order_by(F("due").asc(nulls_last=True), "post_id").values_list("post_id", flat=True)[:most])


def _open_deliveries(brand: int) -> QuerySet[Delivery]:
    return Delivery.objects.filter(brand=brand, post__deleted_at__isnull=True).exclude(state__in=FINAL_STATES)
