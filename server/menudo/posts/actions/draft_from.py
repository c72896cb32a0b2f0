"""Make drafts of pictures: each says its caption, so that a bundle can be laid out."""

from collections.abc import Collection, Mapping

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.history.actions.record import entry, record_all
from menudo.library.actions.arrange import chosen
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.add_deliveries import add_deliveries
from menudo.posts.actions.cards import write_all_cards
from menudo.posts.models import Post
from menudo.profiles.models import Profile
from menudo_core.text.placeholders import blanks


def draft_from(place: Here, assets: list[int], profiles: list[int]) -> list[Post]:
    """One draft a picture, in their order, for the profiles given; they wait in the tray. Raises Invalid.

    Pictures whose caption has blanks still are refused, all named: none is made, so that none is forgotten.
    """
    place.needs(May.WRITE)
    known = set(Profile.objects.filter(brand=place.brand, pk__in=profiles).values_list("pk", flat=True))
    if missing := [i for i, id in enumerate(profiles) if id not in known]:
        raise Invalid.at(f"/profiles/{missing[0]}", "This profile isn't one of this brand's.", "foreign")
    with transaction.atomic():
        posts = list(draft_all(place, dict.fromkeys(assets, sorted(known))).values())
        tell(place.brand.pk, "post", 0)
    return posts


def draft_all(place: Here, profiles: Mapping[int, Collection[int]]) -> dict[int, Post]:
    """A draft of each picture (by its id) for its profiles of this brand, by picture: a dozen statements, however many
    there are. Part of the caller's transaction. Raises Invalid."""
    place.needs(May.WRITE)
    if not profiles:
        return {}
    found = chosen(place, list(profiles))
    if open_ones := [a.name for a in found if blanks(a.caption)]:
        words = f"There are blanks to fill in still: {', '.join(open_ones[:5])}{' …' if len(open_ones) > 5 else ''}."
        raise Invalid.at("/ids", words, "blank")
    wanted = {id for ids in profiles.values() for id in ids}
    known = set(Profile.objects.filter(brand=place.brand, pk__in=wanted).values_list("pk", flat=True))
    posts = Post.objects.bulk_create(
        Post(brand=place.brand, author=place.user, master={"text": a.caption, "media": [a.pk]}) for a in found
    )
    made = {asset.pk: post for asset, post in zip(found, posts, strict=True)}
    add_deliveries(
        place.brand.pk,
        [(post.pk, id) for asset, post in made.items() for id in sorted(known & set(profiles[asset]))],
    )
    write_all_cards(place.brand, posts)
    record_all(
        entry(
            place.brand.pk, place.actor, "make", "post", made[asset.pk].pk, f"began a draft of {asset.name}",
            after={"title": "", "master": made[asset.pk].master, "versions": []},
        )
        for asset in found
    )  # fmt: skip
    return made
