"""The one order in which rows are locked: slots of profiles, posts, deliveries, each by id.

Whoever needs several takes them in this order, each kind at once, before anything is decided: two who act at the same
time then wait for each other, and never each for the other. See docs/delivery.md.
"""

from collections.abc import Iterable

from django.db import connection
from django.db.models import QuerySet

from menudo.base.problems import NotFound
from menudo.people.here import Here
from menudo.people.models import Brand
from menudo.posts.models import Delivery, Post

# The first half of the advisory locks' keys (two 32-bit numbers); the second is the profile's id.
_SLOTS = 0x51075


def lock_slots(profiles: Iterable[int]) -> None:
    """Nobody else chooses among the free slots of the profiles until the transaction ends. It holds up no sending: that
    takes the profiles' rows."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT pg_advisory_xact_lock(%s, (id & 2147483647)::int) FROM (SELECT unnest(%s::bigint[]) AS id ORDER BY 1) AS wanted",
            [_SLOTS, sorted(set(profiles))],
        )


def lock_posts(brand: Brand | int, ids: Iterable[int]) -> dict[int, Post]:
    """Those of the brand's posts that are there and not in the bin, locked, by id. Their campaigns are read with them."""
    found = Post.objects.select_for_update(of=("self",), no_key=True).filter(
        brand=brand, pk__in=set(ids), binned__isnull=True
    )
    return {post.pk: post for post in found.select_related("campaign", "brand").order_by("pk")}


def lock_post(place: Here, post: Post | int) -> Post:
    """The post, locked. Raises NotFound where it has gone to the bin meanwhile, isn't there or is another brand's."""
    id = post.pk if isinstance(post, Post) else post
    found = lock_posts(place.brand, [id])
    if id not in found:
        raise NotFound()
    return found[id]


def lock_deliveries(deliveries: QuerySet[Delivery]) -> dict[int, Delivery]:
    """Those that the query finds, by id in order; their posts, profiles and brands are read with them. What is in the bin
    isn't found. Their posts are locked with all their deliveries, since what one does may concern its sisters."""
    posts = set(deliveries.order_by().values_list("post_id", flat=True))
    locked = Post.objects.select_for_update(no_key=True).filter(pk__in=posts, binned__isnull=True)
    there = list(locked.order_by("pk").values_list("pk", flat=True))
    lock_deliveries_of(there)
    rows = deliveries.filter(post__in=there).order_by("pk")
    # Prefetched, not joined: of thousands of deliveries many share a post or a profile, and then the object too.
    return {row.pk: row for row in rows.prefetch_related("post__campaign", "profile", "brand")}


def lock_deliveries_of(posts: Iterable[int]) -> None:
    """All deliveries of posts that the caller has locked."""
    rows = Delivery.objects.select_for_update(no_key=True).filter(post__in=list(posts))
    list(rows.order_by("pk").values_list("pk"))


def lock_delivery(delivery: Delivery) -> Delivery:
    """The delivery, locked with its post. Raises NotFound where it is gone or in the bin by now."""
    found = lock_deliveries(Delivery.objects.filter(pk=delivery.pk))
    if delivery.pk not in found:
        raise NotFound()
    return found[delivery.pk]
