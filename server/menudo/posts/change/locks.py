"""The one order in which things are locked: the brand's gate, slots of profiles, posts, deliveries, each by id.

Whoever needs several takes them in this order, each kind at once, before anything is decided: two who act at the same
time then wait for each other, and never each for the other. See docs/delivery.md.
"""

from collections.abc import Iterable

from django.db import connection
from django.db.models import QuerySet

from menudo.posts.models import Delivery, Post

# The first half of the advisory locks' keys (two 32-bit numbers); the second is the brand's or the profile's id.
_GATE, _SLOTS = 0x6A7E, 0x51075


def pass_gate(brand: int) -> None:
    """Whoever changes the brand's posts goes in together with others who do, and waits for whoever has shut the gate."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock_shared(%s, (%s & 2147483647)::int)", [_GATE, brand])


def shut_gate(brands: Iterable[int]) -> None:
    """Nobody changes the brands' posts until the transaction ends, and those who do just now have finished: whoever changes
    what holds them (a pause, a connection, rules of sign-off) sees all of them, and is seen by all that follow. Must be
    taken before any post or delivery is locked."""
    with connection.cursor() as cursor:
        for brand in sorted(set(brands)):
            cursor.execute("SELECT pg_advisory_xact_lock(%s, (%s & 2147483647)::int)", [_GATE, brand])


def lock_slots(profiles: Iterable[int]) -> None:
    """Nobody else chooses among the free slots of the profiles until the transaction ends. It holds up no sending: that
    takes the profiles' rows."""
    wanted = sorted(set(profiles))
    if not wanted:
        return
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT pg_advisory_xact_lock(%s, (id & 2147483647)::int) FROM (SELECT unnest(%s::bigint[]) AS id ORDER BY 1) AS wanted",
            [_SLOTS, wanted],
        )


def lock_posts(posts: QuerySet[Post]) -> list[int]:
    """The ids of the posts that the query finds, locked, and all their deliveries with them: what is done to one may
    concern its sisters."""
    ids = list(posts.select_for_update(of=("self",), no_key=True).order_by("pk").values_list("pk", flat=True))
    lock_deliveries(Delivery.objects.filter(post__in=ids))
    return ids


def lock_deliveries(deliveries: QuerySet[Delivery]) -> list[int]:
    """The ids of the deliveries that the query finds, locked. Who goes on to their posts locks those first: see lock_posts."""
    rows = deliveries.select_for_update(of=("self",), no_key=True).order_by("pk")
    return list(rows.values_list("pk", flat=True))
