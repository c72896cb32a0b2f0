"""Go back to an earlier state of a post, as its history has it."""

from dataclasses import replace

from menudo.base.problems import ConflictError, NotFoundError
from menudo.base.sentences import say
from menudo.history.models import HistoryEvent
from menudo.library.models import Asset, LinkTags
from menudo.people.context import BrandContext
from menudo.posts.actions.save_post import change_content, require_writable
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Post
from menudo.posts.serializers import load_post_content
from menudo.profiles.models import Profile
from menudo_core.networks.content import PostContent


def restore_version(context: BrandContext, post: Post, entry_id: int, revision: int) -> Post:
    """The post as it was after the entry: its wording and versions; profiles, times, labels and campaign stay. A change
    like any other.

    Raises NotFoundError, ConflictError, StaleRevisionError, and what saving a post raises.
    """
    require_writable(context, post)
    entry = HistoryEvent.objects.filter(brand_id=context.brand.pk, kind="post", object_id=post.pk, pk=entry_id).first()
    if entry is None:
        raise NotFoundError()
    if not has_state(entry):
        raise ConflictError(say("version.unknown"))
    earlier = load_post_content(entry.after)
    known = set(Profile.objects.filter(brand=context.brand).values_list("pk", flat=True))
    versions = {key: overrides for key, overrides in earlier.versions.items() if key[1] is None or key[1] in known}
    earlier = replace(earlier, versions=versions)
    _require_parts_exist(context, earlier)
    with change_posts(context, posts=[post.pk]) as change:
        row = change.post(post.pk, revision)
        present = change.content(row)
        change_content(context, change, row, replace(earlier, labels=present.labels, campaign_id=present.campaign_id))
    return row


def has_state(entry: HistoryEvent) -> bool:
    """Whether one can go back to how the post was after the entry."""
    return entry.verb in ("make", "write") and isinstance(entry.after.get("versions"), list)


def _require_parts_exist(context: BrandContext, content: PostContent) -> None:
    """Raises ConflictError where what it used is deleted by now."""
    presets = {part.link_tags for part in content.parts() if part.link_tags}
    if LinkTags.objects.filter(brand=context.brand, pk__in=presets).count() < len(presets):
        raise ConflictError(say("version.no_link_tags"))
    wanted = content.asset_ids()
    gone = len(wanted) - Asset.objects.filter(brand=context.brand, pk__in=wanted).count()
    if gone:
        raise ConflictError(say("version.pictures_gone", count=gone))
