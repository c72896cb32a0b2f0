"""Go back to an earlier state of a post, as its history has it."""

from dataclasses import replace

from menudo.base.problems import Conflict, NotFound
from menudo.history.models import Entry
from menudo.library.models import Asset, LinkTags
from menudo.people.here import Here
from menudo.posts.actions.save import may_write, save_content
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Post
from menudo.posts.serializers import load_post_content
from menudo.profiles.models import Profile
from menudo_core.networks.content import PostContent


def go_back(place: Here, post: Post, entry_id: int, began: int) -> Post:
    """The post as it was after the entry: its wording and versions; profiles, times, labels and campaign stay. A change
    like any other.

    Raises NotFound, Conflict, Stale, and what saving a post raises.
    """
    may_write(place, post)
    entry = Entry.objects.filter(brand_id=place.brand.pk, kind="post", object_id=post.pk, pk=entry_id).first()
    if entry is None:
        raise NotFound()
    if not has_state(entry):
        raise Conflict("That entry doesn't say how the post was.")
    earlier = load_post_content(entry.after)
    known = set(Profile.objects.filter(brand=place.brand).values_list("pk", flat=True))
    versions = {key: own for key, own in earlier.versions.items() if key[1] is None or key[1] in known}
    earlier = replace(earlier, versions=versions)
    _is_there_still(place, earlier)
    with change_posts(place, posts=[post.pk]) as change:
        row = change.post(post.pk, began)
        present = change.content(row)
        save_content(place, change, row, replace(earlier, labels=present.labels, campaign_id=present.campaign_id))
    return row


def has_state(entry: Entry) -> bool:
    """Whether one can go back to how the post was after the entry."""
    return entry.verb in ("make", "write") and isinstance(entry.after.get("versions"), list)


def _is_there_still(place: Here, content: PostContent) -> None:
    """Raises Conflict where what it used is deleted by now."""
    presets = {part.link_tags for part in content.parts() if part.link_tags}
    if LinkTags.objects.filter(brand=place.brand, pk__in=presets).count() < len(presets):
        raise Conflict("The link tags it had then are deleted.")
    wanted = content.assets()
    gone = len(wanted) - Asset.objects.filter(brand=place.brand, pk__in=wanted).count()
    if gone:
        raise Conflict(f"{gone} of the pictures it had then {'is' if gone == 1 else 'are'} deleted for good.")
