"""Tell those on whom a sign-off waits: once for each time a post is put up, and once more after an answer of theirs."""

from collections.abc import Iterable
from zlib import crc32

from menudo.notices.actions.notify import notify
from menudo.people.capabilities import May
from menudo.people.models import Brand
from menudo.people.who_may import who_may
from menudo.posts.actions.watch import called
from menudo.posts.models import Post
from menudo.posts.signing import Signing
from menudo_core.signoff.agreement import Sign

_EACH = 5


def ask(brand: Brand, standings: Iterable[tuple[Post, list[Signing]]], by: int | None) -> int:
    """A notice to each person asked just now, except `by`; of many posts at once, one. How many were told.

    Part of the caller's transaction. However often a wording is changed before somebody answers, they are told once.
    """
    waiting = [(post, found, _asked(found)) for post, found in standings if post.up_at is not None]
    waiting = [one for one in waiting if one[2]]
    if not waiting:
        return 0
    may = set(_may(brand))
    whom: dict[int, list[tuple[Post, str]]] = {}
    for post, found, asked in waiting:
        people = may if None in asked else {int(key[1:]) for key in asked if key and key[0] == "u"} & may
        for user in people - {by}:
            last = max((a.pk for s in found for a in s.answers if a.signer == f"u{user}"), default=0)
            up = int(post.up_at.timestamp()) if post.up_at else 0
            whom.setdefault(user, []).append((post, f"sign:{post.pk}:{up}:{last}"))
    told = 0
    for user, theirs in whom.items():
        if len(theirs) > _EACH:
            key = f"sign:many:{crc32('/'.join(key for _, key in theirs).encode())}"
            words = f"{len(theirs)} posts of {brand.name} wait for you to sign off"
            told += notify([user], brand.pk, "sign", key, words, f"/{brand.slug}/sign")
            continue
        for post, key in theirs:
            words = f"{called(post)} waits for you to sign off"
            told += notify([user], brand.pk, "sign", key, words, f"/{brand.slug}/sign?post={post.pk}")
    return told


def _asked(found: list[Signing]) -> frozenset[str | None]:
    return frozenset[str | None]().union(*(s.standing.asked for s in found if s.standing.sign is Sign.WAITS))


def _may(brand: Brand) -> Iterable[int]:
    return who_may(brand, May.SIGN_OFF)
