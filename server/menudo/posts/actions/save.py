"""Save a post: what it says, and the profiles it is for."""

from collections.abc import Collection

from menudo.base.problems import Conflict, Forbidden
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.watch import called, tell_watchers
from menudo.posts.change.decision import Decision, NewPost
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.faults import allowed
from menudo.posts.models import Post
from menudo.posts.schemas import PostIn
from menudo.posts.serializers import load_post_content, store_post_content
from menudo_core.networks.content import PostContent
from menudo_core.signoff.states import DeliveryState
from menudo_core.text.lines import first_line

_LOOSE = {DeliveryState.UNPLANNED, DeliveryState.OFF}


def make(place: Here, data: PostIn) -> Post:
    """A new draft. Raises Invalid."""
    place.needs(May.WRITE)
    allowed(place, data)
    return make_draft(place, load_post_content(data.model_dump()), data.profiles)


def make_draft(place: Here, content: PostContent, profiles: Collection[int], words: str = "") -> Post:
    """A new draft of the person's own that says this. `words` tell the history what it was begun from."""
    with change_posts(place) as change:
        [post] = change.create([NewPost(content, sorted(set(profiles)), place.user)])
        change.apply()
        words = words or f"began {_name(content)}"
        change.record("make", "post", post.pk, words, after=store_post_content(content))
    return post


def save(place: Here, post: Post, data: PostIn, began: int) -> Post:
    """Save a changed post. Raises Stale when it has moved on since `began`; nothing is half kept."""
    may_write(place, post)
    with change_posts(place, posts=[post.pk]) as change:
        row = change.post(post.pk, began)
        allowed(place, data)
        save_content(place, change, row, load_post_content(data.model_dump()), data.profiles)
    return row


def may_write(place: Here, post: Post) -> None:
    """Raises Forbidden unless the person may change the post."""
    place.needs(May.WRITE)
    if post.author_id != place.user.pk and May.EDIT_OTHERS not in place.capabilities:
        raise Forbidden("This is someone else's post, and you may only change your own. Ask its coordinator.")


def save_content(
    place: Here, change: PostChange, post: Post, content: PostContent, profiles: Collection[int] | None = None
) -> None:
    """The post says this from now on, and goes to these profiles (None: the same). Raises Conflict."""
    before, after = store_post_content(change.content(post)), store_post_content(content)
    present = {delivery.profile_id: delivery for delivery in change.deliveries_of(post)}
    wanted = {*present} if profiles is None else {*profiles}
    for id in present.keys() - wanted:
        if present[id].state not in _LOOSE:
            state = present[id].state.replace("_", " ")
            raise Conflict(f"{present[id].profile.handle} is {state} already. Take it off the calendar first.")
    # Who holds the page to publish it by hand sees other words than there are: what they say of it is stale.
    shown = [d.pk for d in present.values() if d.state == DeliveryState.HAND] if after != before else []
    change.apply(Decision(contents={post.pk: content}, profiles={post.pk: wanted}, revised_deliveries=shown))
    if after == before:
        return
    change.record("write", "post", post.pk, f"changed {_name(content)}", before=before, after=after, join=True)
    # However often one writes in a day, those who watch are told once.
    day = change.now.astimezone(place.zone).date()
    key = f"changed:{post.pk}:{place.user.pk}:{day}"
    author = post.author_id != place.user.pk
    words = f"{place.user.name} changed {called(post)}"
    tell_watchers(place.brand, post, "changed", key, words, but=[place.user.pk], author=author)


def _name(content: PostContent) -> str:
    line = first_line(content.title or content.master.text)
    return f"“{line[:80]}”" if line else "a post"
