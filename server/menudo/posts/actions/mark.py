"""Put labels on posts and take them off, and gather posts in a campaign: one or many at once."""

from collections.abc import Sequence

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.history.actions.record import record
from menudo.labels.models import Label
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.campaigns import campaign_of
from menudo.posts.actions.resign import resign
from menudo.posts.models import Post


def mark(
    place: Here, posts: Sequence[int], put: Sequence[int], off: Sequence[int], campaign: int | None, changes: bool
) -> int:
    """Labels `put` and taken `off`; `changes` says whether the campaign is set (to none, with None). How many posts.

    Wording stays as it is; a rule of sign-off may ask for what has a label now. Raises Invalid for what isn't the brand's, NotFound for a campaign.
    """
    place.needs(May.WRITE)
    known = set(Label.objects.filter(brand=place.brand, pk__in=[*put, *off]).values_list("pk", flat=True))
    if foreign := [i for i, id in enumerate(put) if id not in known]:
        raise Invalid.at(f"/put/{foreign[0]}", "This label isn't one of this brand's.", "foreign")
    gathered = campaign_of(place, campaign) if changes and campaign is not None else None
    mine = Post.objects.filter(brand=place.brand, pk__in=posts, binned__isnull=True)
    if May.EDIT_OTHERS not in place.capabilities:
        mine = mine.filter(author=place.user)
    with transaction.atomic():
        found = list(mine.select_for_update(no_key=True).order_by("pk"))
        if not found:
            raise Invalid.at("/posts", "None of these posts is there and yours to change.", "none")
        Post.labels.through.objects.filter(post__in=found, label_id__in=off).delete()
        pairs = [Post.labels.through(post_id=p.pk, label_id=id) for p in found for id in put]
        Post.labels.through.objects.bulk_create(pairs, ignore_conflicts=True)
        if changes:
            Post.objects.filter(pk__in=[p.pk for p in found]).update(campaign=gathered)
        resign(place.brand, [post.pk for post in found], place.user.pk)
        for post in found:
            record(place.brand.pk, place.actor, "mark", "post", post.pk, "changed its labels or campaign", join=True)
        tell(place.brand.pk, "post", found[0].pk if len(found) == 1 else 0)
    return len(found)
