"""Look again at where sign-off stands, after something that it depends on has changed."""

from collections.abc import Iterable

from menudo.base.live import tell
from menudo.base.rows import write_fields
from menudo.people.models import Brand
from menudo.posts.actions.ask import ask
from menudo.posts.actions.rehold import rehold
from menudo.posts.locking import lock_deliveries_of
from menudo.posts.models import Delivery, Post
from menudo.posts.signing import Signing, signings
from menudo_core.signoff.agreement import Sign
from menudo_core.signoff.states import DeliveryState, PostState, post_state

# What is out, or off for good, isn't anybody's to sign any more.
_OVER = {DeliveryState.PUBLISHED, DeliveryState.DOWN, DeliveryState.OFF}
_AT_ONCE = 500


def resign(brand: Brand, posts: Iterable[int], by: int | None = None) -> int:
    """Write what sign-off says of every delivery of the posts, and of the posts; hold and release accordingly, and tell
    those who are asked now (but not `by`, whose doing it is).

    Part of the caller's transaction, which has the posts locked. How many deliveries stand otherwise than before.
    """
    wanted, changed = sorted(set(posts)), 0
    lock_deliveries_of(wanted)
    for start in range(0, len(wanted), _AT_ONCE):
        changed += _some(brand, wanted[start : start + _AT_ONCE], by)
    return changed


def moved(brand: Brand, posts: Iterable[int], by: int | None = None) -> None:
    """After other times: sign-off is asked for again where the brand's rule says so. Part of the caller's transaction."""
    if brand.needs_signoff and brand.moving_asks:
        resign(brand, posts, by)


def as_left(before: dict[str, dict]) -> dict[str, dict]:
    """What an undo puts back, with the revisions that the whole step has left: holding and releasing are part of it."""
    for id, revision in Delivery.objects.filter(pk__in=[int(id) for id in before]).values_list("pk", "revision"):
        before[str(id)]["revision"] = revision
    return before


def _some(brand: Brand, wanted: list[int], by: int | None) -> int:
    posts = list(Post.objects.filter(brand=brand, pk__in=wanted).select_related("campaign").order_by("pk"))
    deliveries, moved = [], []
    for post in posts:
        post.brand = brand
    found = signings(brand, posts)
    for post in posts:
        standings = found[post.pk]
        for one in standings:
            delivery = one.delivery
            if delivery.signing != one.standing.sign:
                delivery.signing = one.standing.sign
                deliveries.append(delivery)
        state = state_of(post, standings)
        if state != post.state:
            post.state = state
            moved.append(post)
    write_fields(deliveries, ["signing"])
    write_fields(moved, ["state"])
    rehold(Delivery.objects.filter(post__in=wanted))
    ask(brand, [(post, found[post.pk]) for post in posts if post.state == PostState.UP], by)
    if moved:
        tell(brand.pk, "post", moved[0].pk if len(moved) == 1 else 0)
    return len(deliveries)


def state_of(post: Post, standings: Iterable[Signing]) -> PostState:
    """The post's state, from where its deliveries stand; those that are over have no say while others are there."""
    signs = [s for s in standings if s.delivery.state not in _OVER]
    return post_state(post.up_at is not None, [Sign(s.standing.sign) for s in signs])
