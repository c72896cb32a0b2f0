"""Make drafts of pictures: each says its caption, so that a bundle can be laid out."""

import uuid

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.history.actions.record import record
from menudo.library.actions.arrange import chosen
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.save import wording_of
from menudo.posts.models import Delivery, Post
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
        found = chosen(place, assets)
        if open_ones := [a.name for a in found if blanks(a.caption)]:
            words = (
                f"There are blanks to fill in still: {', '.join(open_ones[:5])}{' …' if len(open_ones) > 5 else ''}."
            )
            raise Invalid.at("/ids", words, "blank")
        posts = []
        for asset in found:
            master = {"text": asset.caption, "media": [asset.pk]}
            post = Post.objects.create(brand=place.brand, author=place.user, master=master)
            Delivery.objects.bulk_create(
                [Delivery(post=post, profile_id=id, brand=place.brand, key=uuid.uuid4()) for id in sorted(known)]
            )
            write_cards(post)
            words = f"began a draft of {asset.name}"
            record(place.brand.pk, place.actor, "make", "post", post.pk, words, after=wording_of(post))
            posts.append(post)
        tell(place.brand.pk, "post", 0)
    return posts
