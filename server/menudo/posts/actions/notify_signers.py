"""Tell those on whom a sign-off waits: once for each time a post is put up, and once more after an answer of theirs."""

from collections.abc import Iterable
from zlib import crc32

from menudo.base.sentences import say
from menudo.notices.actions.notify import notify
from menudo.people.capabilities import Capability
from menudo.people.models import Brand
from menudo.people.queries import members_with
from menudo.posts.actions.watch import title_of
from menudo.posts.models import Post
from menudo.posts.signoff_state import DeliverySignoff
from menudo_core.signoff.agreement import SignoffState

_NAMED_ONE_BY_ONE = 5


def notify_signers(brand: Brand, standings: Iterable[tuple[Post, list[DeliverySignoff]]], by: int | None) -> int:
    """A notice to each person asked just now, except `by`; of many posts at once, one. How many were told.

    Part of the caller's transaction. However often a wording is changed before somebody answers, they are told once.
    """
    waiting = [(post, found, _signers_asked(found)) for post, found in standings if post.requested_at is not None]
    waiting = [one for one in waiting if one[2]]
    if not waiting:
        return 0
    may = set(_approvers(brand))
    whom: dict[int, list[tuple[Post, str]]] = {}
    for post, found, asked in waiting:
        people = may if None in asked else {int(key[1:]) for key in asked if key and key[0] == "u"} & may
        for user in people - {by}:
            last = max((a.pk for s in found for a in s.answers if a.signer == f"u{user}"), default=0)
            up = int(post.requested_at.timestamp()) if post.requested_at else 0
            whom.setdefault(user, []).append((post, f"sign:{post.pk}:{up}:{last}"))
    count = 0
    for user, theirs in whom.items():
        if len(theirs) > _NAMED_ONE_BY_ONE:
            key = f"sign:many:{crc32('/'.join(key for _, key in theirs).encode())}"
            told = say("sign.many_wait", count=len(theirs), brand=brand.name)
            count += notify([user], brand.pk, "sign", key, told, f"/{brand.slug}/sign")
            continue
        for post, key in theirs:
            told = say("sign.waits", post=title_of(post))
            count += notify([user], brand.pk, "sign", key, told, f"/{brand.slug}/sign?post={post.pk}")
    return count


def _signers_asked(found: list[DeliverySignoff]) -> frozenset[str | None]:
    return frozenset[str | None]().union(*(s.status.asked for s in found if s.status.state is SignoffState.WAITS))


def _approvers(brand: Brand) -> Iterable[int]:
    return members_with(brand, Capability.SIGN_OFF)
