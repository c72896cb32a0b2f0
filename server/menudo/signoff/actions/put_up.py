"""Put posts up for sign-off, one or many at once; and take one back."""

from collections.abc import Sequence
from dataclasses import replace

from menudo.base.problems import Conflict, Fault, Forbidden, Invalid
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.watch import called
from menudo.posts.change.decision import Decision, PostStatus
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
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
    with change_posts(place, posts=[id for id, _ in wanted]) as change:
        if not place.brand.needs_signoff:
            raise Conflict(f"{place.brand.name} needs no sign-off: what is planned goes out.")
        statuses: dict[int, PostStatus] = {}
        left: list[tuple[int, str]] = []
        for id, revision in wanted:
            words = _why_not(place, change, id, revision, len(wanted) == 1)
            if words:
                left.append((id, words))
            else:
                statuses[id] = replace(change.status(change.posts[id]), requested_at=change.now)
        if not statuses:
            raise Invalid(faults=[Fault(f"/posts/{n}", words, "left") for n, (_, words) in enumerate(left)])
        change.apply(Decision(statuses=statuses))
        for id in statuses:
            change.record("put_up", "post", id, f"put {called(change.posts[id])} up for sign-off")
    return len(statuses), left


def withdraw(place: Here, post: Post, began: int) -> Post:
    """It isn't asked for any more; it is a draft again. What is planned of it is held until it is signed off."""
    with change_posts(place, posts=[post.pk]) as change:
        row = change.post(post.pk, began)
        place.needs(May.WRITE)
        if not yours(place, row):
            raise Forbidden(_NOT_YOURS)
        if not post_takes(PostState(row.state), PostEvent.WITHDRAW):
            raise Conflict("It isn't up for sign-off.")
        if not place.brand.needs_signoff:
            raise Conflict(f"{place.brand.name} needs no sign-off.")
        change.apply(Decision(statuses={row.pk: replace(change.status(row), requested_at=None)}))
        change.record("withdraw", "post", row.pk, f"took {called(row)} back from sign-off")
    return row


def _why_not(place: Here, change: PostChange, id: int, revision: int, alone: bool) -> str:
    post = change.posts.get(id)
    if post is None:
        return "It isn't there any more."
    if post.revision != revision:
        if alone:
            change.post(id, revision)
        return f"{called(post)}: someone changed it meanwhile."
    if not yours(place, post):
        return f"{called(post)}: {_NOT_YOURS}"
    if not post_takes(PostState(post.state), PostEvent.PUT_UP):
        return f"{called(post)}: {_WHY_NOT[PostState(post.state)]}"
    if not change.deliveries_of(post):
        return f"{called(post)}: choose at least one profile first."
    return ""


def yours(place: Here, post: Post) -> bool:
    """Whether the person may put the post up and take it back."""
    own = post.author_id == place.user.pk or bool(place.capabilities & {May.EDIT_OTHERS, May.PUBLISH})
    return May.WRITE in place.capabilities and own
