"""Save a post: what it says, and the profiles it is for."""

from collections.abc import Collection

from menudo.base.problems import ConflictError, ForbiddenError
from menudo.base.sentences import Sentence, say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.watch import notify_watchers, title_of
from menudo.posts.change.decision import Decision, NewPost
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo.posts.schemas import PostIn
from menudo.posts.serializers import load_post_content, store_post_content
from menudo.posts.validation import validate_post
from menudo_core.networks.content import PostContent
from menudo_core.signoff.states import DeliveryState
from menudo_core.text.lines import first_line

_REMOVABLE_STATES = {DeliveryState.UNPLANNED, DeliveryState.OFF}


def create_post(context: BrandContext, data: PostIn) -> Post:
    """A new draft. Raises InvalidError."""
    context.require(Capability.WRITE)
    validate_post(context, data)
    return create_draft(context, load_post_content(data.model_dump()), data.profiles)


def create_draft(
    context: BrandContext, content: PostContent, profiles: Collection[int], begun: Sentence | None = None
) -> Post:
    """A new draft of the person's own that says this. `begun` tells the history what it was begun from."""
    with change_posts(context) as change:
        [post] = change.create([NewPost(content, sorted(set(profiles)), context.user)])
        change.apply()
        change.record(
            "make",
            "post",
            post.pk,
            begun or say("draft.begun", post=_title_of(content)),
            after=store_post_content(content),
        )
    return post


def save_post(context: BrandContext, post: Post, data: PostIn, revision: int) -> Post:
    """Save a changed post. Raises StaleRevisionError when it has moved on since `revision`; nothing is half kept."""
    require_writable(context, post)
    with change_posts(context, posts=[post.pk]) as change:
        row = change.post(post.pk, revision)
        validate_post(context, data)
        change_content(context, change, row, load_post_content(data.model_dump()), data.profiles)
    return row


def require_writable(context: BrandContext, post: Post) -> None:
    """Raises ForbiddenError unless the person may change the post."""
    context.require(Capability.WRITE)
    if post.author_id != context.user.pk and Capability.EDIT_OTHERS not in context.capabilities:
        raise ForbiddenError(say("post.not_yours"))


def change_content(
    context: BrandContext, change: PostChange, post: Post, content: PostContent, profiles: Collection[int] | None = None
) -> None:
    """The post says this from now on, and goes to these profiles (None: the same). Raises ConflictError."""
    before, after = store_post_content(change.content(post)), store_post_content(content)
    present = {delivery.profile_id: delivery for delivery in change.deliveries_of(post)}
    wanted = {*present} if profiles is None else {*profiles}
    for profile_id in present.keys() - wanted:
        if present[profile_id].state not in _REMOVABLE_STATES:
            state = present[profile_id].state.replace("_", " ")
            raise ConflictError(say("delivery.on_calendar", profile=present[profile_id].profile.handle, state=state))
    # Who holds the page to publish it by hand sees other words than there are: what they say of it is stale.
    shown = [d.pk for d in present.values() if d.state == DeliveryState.HAND] if after != before else []
    change.apply(Decision(contents={post.pk: content}, profiles={post.pk: wanted}, revised_deliveries=shown))
    if after == before:
        return
    change.record(
        "write", "post", post.pk, say("post.changed", post=_title_of(content)), before=before, after=after, join=True
    )
    # However often one writes in a day, those who watch are told once.
    day = change.now.astimezone(context.zone).date()
    key = f"changed:{post.pk}:{context.user.pk}:{day}"
    author = post.author_id != context.user.pk
    told = say("post.changed_by", name=context.user.name, post=title_of(post))
    notify_watchers(context.brand, post, "changed", key, told, but=[context.user.pk], author=author)


def _title_of(content: PostContent) -> str:
    return first_line(content.title or content.master.text)[:80]
