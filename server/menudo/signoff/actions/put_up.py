"""Put posts up for sign-off, one or many at once; and take one back."""

from collections.abc import Sequence

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Fault, Forbidden, Invalid, Stale
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.resign import resign
from menudo.posts.actions.watch import called
from menudo.posts.locking import lock_post, lock_posts
from menudo.posts.models import Post
from menudo.posts.reads import state_now
from menudo_core.signoff.states import PostEvent, PostState, post_takes

_NOT_YOURS = "This is someone else's post. Its author puts it up and takes it back."
_WHY_NOT = {
    PostState.UP: "It is up for sign-off already.",
    PostState.SIGNED: "It is signed off already.",
    PostState.DRAFT: "It isn't up for sign-off.",
}


def put_up(place: Here, wanted: Sequence[tuple[int, int]]) -> tuple[int, list[tuple[int, str]]]:
    """Each (post, revision) is put up. How many were, and which were left and why; the only one that can't raises why."""
    place.needs(May.WRITE)
    if not place.brand.needs_signoff:
        raise Conflict(f"{place.brand.name} needs no sign-off: what is planned goes out.")
    with transaction.atomic():
        rows = lock_posts(place.brand, [id for id, _ in wanted])
        put: list[Post] = []
        left: list[tuple[int, str]] = []
        for id, revision in wanted:
            words = _why_not(place, rows.get(id), revision, len(wanted) == 1)
            if words:
                left.append((id, words))
                continue
            post = rows[id]
            post.up_at = clock.now()
            post.revision += 1
            post.save(update_fields=["up_at", "revision"])
            record(place.brand.pk, place.actor, "put_up", "post", post.pk, f"put {called(post)} up for sign-off")
            put.append(post)
        if not put:
            raise Invalid(faults=[Fault(f"/posts/{n}", words, "left") for n, (_, words) in enumerate(left)])
        resign(place.brand, [post.pk for post in put], place.user.pk)
        tell(place.brand.pk, "post", put[0].pk if len(put) == 1 else 0)
    return len(put), left


def withdraw(place: Here, post: Post, began: int) -> Post:
    """It isn't asked for any more; it is a draft again. What is planned of it is held until it is signed off."""
    with transaction.atomic():
        post = lock_post(place, post)
        unchanged(began, post.revision, state_now(post))
        place.needs(May.WRITE)
        if not yours(place, post):
            raise Forbidden(_NOT_YOURS)
        if not post_takes(PostState(post.state), PostEvent.WITHDRAW):
            raise Conflict("It isn't up for sign-off.")
        if not place.brand.needs_signoff:
            raise Conflict(f"{place.brand.name} needs no sign-off.")
        post.up_at = None
        post.revision += 1
        post.save(update_fields=["up_at", "revision"])
        resign(place.brand, [post.pk], place.user.pk)
        record(place.brand.pk, place.actor, "withdraw", "post", post.pk, f"took {called(post)} back from sign-off")
        tell(place.brand.pk, "post", post.pk)
        post.refresh_from_db()
    return post


def _why_not(place: Here, post: Post | None, revision: int, alone: bool) -> str:
    if post is None:
        return "It isn't there any more."
    if post.revision != revision:
        if alone:
            raise Stale(present=state_now(post))
        return f"{called(post)}: someone changed it meanwhile."
    if not yours(place, post):
        return f"{called(post)}: {_NOT_YOURS}"
    if not post_takes(PostState(post.state), PostEvent.PUT_UP):
        return f"{called(post)}: {_WHY_NOT[PostState(post.state)]}"
    if not post.deliveries.exists():
        return f"{called(post)}: choose at least one profile first."
    return ""


def yours(place: Here, post: Post) -> bool:
    """Whether the person may put the post up and take it back."""
    own = post.author_id == place.user.pk or bool(place.capabilities & {May.EDIT_OTHERS, May.PUBLISH})
    return May.WRITE in place.capabilities and own
