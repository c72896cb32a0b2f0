"""Put posts up for sign-off, one or many at once; and take one back."""

from collections.abc import Sequence
from dataclasses import replace

from menudo.base.problems import ConflictError, Fault, ForbiddenError, InvalidError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.watch import title_for, title_of
from menudo.posts.change.decision import Decision, PostStatus
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo_core.signoff.states import PostEvent, PostState, post_accepts

_NOT_YOURS = "This is someone else's post. Its author puts it up and takes it back."
_WHY_NOT = {
    PostState.UP: "It is up for sign-off already.",
    PostState.SIGNED: "It is signed off already.",
    PostState.DRAFT: "It isn't up for sign-off.",
}


def request_signoff(context: BrandContext, wanted: Sequence[tuple[int, int]]) -> tuple[int, list[tuple[int, str]]]:
    """Each (post, revision) is put up. How many were, and which were left and why; the only one that can't raises why."""
    context.require(Capability.WRITE)
    with change_posts(context, posts=[post_id for post_id, _ in wanted]) as change:
        if not context.brand.needs_signoff:
            raise ConflictError(say("signoff.none_needed_planned", brand=context.brand.name))
        statuses: dict[int, PostStatus] = {}
        left: list[tuple[int, str]] = []
        for post_id, revision in wanted:
            words = _refusal(context, change, post_id, revision, len(wanted) == 1)
            if words:
                left.append((post_id, words))
            else:
                statuses[post_id] = replace(change.status(change.posts[post_id]), requested_at=change.now)
        if not statuses:
            raise InvalidError(faults=[Fault(f"/posts/{n}", words, "left") for n, (_, words) in enumerate(left)])
        change.apply(Decision(statuses=statuses))
        for post_id in statuses:
            change.record("put_up", "post", post_id, say("signoff.requested", post=title_of(change.posts[post_id])))
    return len(statuses), left


def withdraw_request(context: BrandContext, post: Post, revision: int) -> Post:
    """It isn't asked for any more; it is a draft again. What is planned of it is held until it is signed off."""
    with change_posts(context, posts=[post.pk]) as change:
        row = change.post(post.pk, revision)
        context.require(Capability.WRITE)
        if not may_request(context, row):
            raise ForbiddenError(_NOT_YOURS)
        if not post_accepts(PostState(row.state), PostEvent.WITHDRAW):
            raise ConflictError(say("signoff.not_up"))
        if not context.brand.needs_signoff:
            raise ConflictError(say("signoff.none_needed", brand=context.brand.name))
        change.apply(Decision(statuses={row.pk: replace(change.status(row), requested_at=None)}))
        change.record("withdraw", "post", row.pk, say("signoff.withdrawn", post=title_of(row)))
    return row


def _refusal(context: BrandContext, change: PostChange, post_id: int, revision: int, alone: bool) -> str:
    post = change.posts.get(post_id)
    if post is None:
        return "It isn't there any more."
    if post.revision != revision:
        if alone:
            change.post(post_id, revision)
        return f"{title_for(post)}: someone changed it meanwhile."
    if not may_request(context, post):
        return f"{title_for(post)}: {_NOT_YOURS}"
    if not post_accepts(PostState(post.state), PostEvent.PUT_UP):
        return f"{title_for(post)}: {_WHY_NOT[PostState(post.state)]}"
    if not change.deliveries_of(post):
        return f"{title_for(post)}: choose at least one profile first."
    return ""


def may_request(context: BrandContext, post: Post) -> bool:
    """Whether the person may put the post up and take it back."""
    is_own = post.author_id == context.user.pk or bool(
        context.capabilities & {Capability.EDIT_OTHERS, Capability.PUBLISH}
    )
    return Capability.WRITE in context.capabilities and is_own
