"""Let posts go to profiles: deliveries without a time."""

from collections.abc import Collection

from django.db import connection

from menudo.posts.models import Delivery

_INSERT = """
INSERT INTO posts_delivery (post_id, profile_id, brand_id, key, state, zone, held_for, step, tries, lease_by, reason,
    reason_code, remote_url, headline, pictures, revision)
SELECT post, profile, %s, gen_random_uuid(), 'unplanned', '', '', '', 0, '', '', '', '', '', 0, 1
FROM unnest(%s::bigint[], %s::bigint[]) WITH ORDINALITY AS given (post, profile, place) ORDER BY place
RETURNING id
"""


def add_deliveries(brand: int, pairs: Collection[tuple[int, int]]) -> list[int]:
    """A delivery for each (post, profile), in their order: their ids. Part of the caller's transaction, which has the posts
    locked, and writes their cards afterwards. One statement: Django's bulk_create takes a second for thousands, of which
    each is the same but for its post and profile."""
    if not pairs:
        return []
    posts, profiles = zip(*pairs, strict=True)
    with connection.cursor() as cursor:
        cursor.execute(_INSERT, [brand, list(posts), list(profiles)])
        return [id for (id,) in cursor.fetchall()]


def deliveries_of(ids: Collection[int]) -> list[Delivery]:
    """Those deliveries, by id, with what is read with any: their posts, profiles and brand."""
    found = Delivery.objects.filter(pk__in=ids).order_by("pk")
    return list(found.prefetch_related("post__campaign", "profile", "brand"))
