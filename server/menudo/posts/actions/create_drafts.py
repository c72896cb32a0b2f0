"""Make drafts of pictures: each says its caption, so that a bundle can be laid out."""

from collections.abc import Collection, Mapping

from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.history.actions.record_event import build_event, record_events
from menudo.library.actions.arrange_assets import assets_by_ids
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import NewPost
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo.posts.serializers import store_post_content
from menudo.profiles.models import Profile
from menudo_core.networks.content import Content, PostContent
from menudo_core.text.placeholders import count_blanks


def create_drafts(context: BrandContext, assets: list[int], profiles: list[int]) -> list[Post]:
    """One draft a picture, in their order, for the profiles given; they wait in the tray. Raises InvalidError.

    Pictures whose caption has blanks still are refused, all named: none is made, so that none is forgotten.
    """
    context.require(Capability.WRITE)
    known = set(Profile.objects.filter(brand=context.brand, pk__in=profiles).values_list("pk", flat=True))
    if missing := [i for i, profile_id in enumerate(profiles) if profile_id not in known]:
        raise InvalidError.at(f"/profiles/{missing[0]}", say("profile.foreign"))
    with change_posts(context) as change:
        return list(draft_each(context, change, dict.fromkeys(assets, sorted(known))).values())


def draft_each(context: BrandContext, change: PostChange, profiles: Mapping[int, Collection[int]]) -> dict[int, Post]:
    """A draft of each picture (by its id) for its profiles of this brand, by picture. Raises InvalidError."""
    context.require(Capability.WRITE)
    if not profiles:
        return {}
    found = assets_by_ids(context, list(profiles))
    if open_ones := [a.name for a in found if count_blanks(a.caption)]:
        names = ", ".join(open_ones[:5]) + (" …" if len(open_ones) > 5 else "")
        raise InvalidError.at("/ids", say("caption.blanks", names=names))
    wanted = {asset_id for ids in profiles.values() for asset_id in ids}
    known = set(Profile.objects.filter(brand=context.brand, pk__in=wanted).values_list("pk", flat=True))
    contents = {a.pk: PostContent(master=Content(a.caption, (a.pk,))) for a in found}
    posts = change.create([NewPost(contents[a.pk], sorted(known & set(profiles[a.pk])), context.user) for a in found])
    record_events(
        build_event(
            context.brand.pk,
            context.actor,
            "make",
            "post",
            post.pk,
            say("draft.from_asset", name=asset.name),
            after=store_post_content(contents[asset.pk]),
        )
        for asset, post in zip(found, posts, strict=True)
    )
    return {asset.pk: post for asset, post in zip(found, posts, strict=True)}
