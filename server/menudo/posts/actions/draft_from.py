"""Make drafts of pictures: each says its caption, so that a bundle can be laid out."""

from collections.abc import Collection, Mapping

from menudo.base.problems import Invalid
from menudo.history.actions.record import entry, record_all
from menudo.library.actions.arrange import chosen
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.change.decision import NewPost
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo.posts.serializers import store_post_content
from menudo.profiles.models import Profile
from menudo_core.networks.content import Content, PostContent
from menudo_core.text.placeholders import blanks


def draft_from(place: Here, assets: list[int], profiles: list[int]) -> list[Post]:
    """One draft a picture, in their order, for the profiles given; they wait in the tray. Raises Invalid.

    Pictures whose caption has blanks still are refused, all named: none is made, so that none is forgotten.
    """
    place.needs(May.WRITE)
    known = set(Profile.objects.filter(brand=place.brand, pk__in=profiles).values_list("pk", flat=True))
    if missing := [i for i, id in enumerate(profiles) if id not in known]:
        raise Invalid.at(f"/profiles/{missing[0]}", "This profile isn't one of this brand's.", "foreign")
    with change_posts(place) as change:
        return list(draft_all(place, change, dict.fromkeys(assets, sorted(known))).values())


def draft_all(place: Here, change: PostChange, profiles: Mapping[int, Collection[int]]) -> dict[int, Post]:
    """A draft of each picture (by its id) for its profiles of this brand, by picture. Raises Invalid."""
    place.needs(May.WRITE)
    if not profiles:
        return {}
    found = chosen(place, list(profiles))
    if open_ones := [a.name for a in found if blanks(a.caption)]:
        words = f"There are blanks to fill in still: {', '.join(open_ones[:5])}{' …' if len(open_ones) > 5 else ''}."
        raise Invalid.at("/ids", words, "blank")
    wanted = {id for ids in profiles.values() for id in ids}
    known = set(Profile.objects.filter(brand=place.brand, pk__in=wanted).values_list("pk", flat=True))
    contents = {a.pk: PostContent(master=Content(a.caption, (a.pk,))) for a in found}
    posts = change.create(
        [NewPost(contents[a.pk], sorted(known & set(profiles[a.pk])), place.user) for a in found]
    )  # fmt: skip
    record_all(
        entry(
            place.brand.pk, place.actor, "make", "post", post.pk, f"began a draft of {asset.name}",
            after=store_post_content(contents[asset.pk]),
        )
        for asset, post in zip(found, posts, strict=True)
    )  # fmt: skip
    return {asset.pk: post for asset, post in zip(found, posts, strict=True)}
