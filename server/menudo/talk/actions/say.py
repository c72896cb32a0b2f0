"""Say something at a post: on the whole, on a version, or on a field; change it, and settle it."""

import re
from dataclasses import dataclass

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Forbidden, Invalid
from menudo.base.rows import the_one
from menudo.history.actions.record import record
from menudo.notices.actions.notify import notify
from menudo.people.here import Here
from menudo.people.models import Brand, Membership, User
from menudo.posts.actions.watch import called, spot, tell_watchers
from menudo.posts.models import Post
from menudo.talk.models import Remark
from menudo_core.text.clean import unusable

FIELDS = frozenset({"", "text", "media", "link", "first_comment", "fields", "time"})
MOST = 4000
_LETTER = re.compile(r"\w")


@dataclass(frozen=True, slots=True)
class On:
    """What a remark is on: a network's version (or one profile's), and a field of it; nothing said: the whole post."""

    network: str = ""
    profile: int | None = None
    field: str = ""


WHOLE = On()


def say(place: Here, post: Post, words: str, on: On, shared: bool = False) -> Remark:
    """A remark of a person of the brand. Who is mentioned, who watches and the author are told. Raises Invalid."""
    words = fit(words)
    with transaction.atomic():
        return put_remark(place.brand, post, place.user.pk, place.user.name, words, on, shared)


def put_remark(
    brand: Brand, post: Post, user: int | None, name: str, words: str, on: On, shared: bool = False
) -> Remark:
    """Keep a remark and tell of it, once each; part of the caller's transaction. `user` None: a client by link. `shared`:
    clients by link see it; they always see what one of them said."""
    if on.field not in FIELDS:
        raise Invalid.at("/field", "There is no such field.")
    networks = set(post.deliveries.values_list("profile__network", flat=True))
    if on.network and on.network not in networks:
        raise Invalid.at("/network", "The post doesn't go to this network.", "foreign")
    named = mentioned(brand, words)
    remark = Remark.objects.create(
        post=post, user_id=user, name=name, text=words, shared=shared or user is None, network=on.network, profile_id=on.profile, field=on.field,
        mentions=sorted(named), at=clock.now(),
    )  # fmt: skip
    path = spot(brand, post.pk, f"remark-{remark.pk}")
    short = words if len(words) <= 140 else f"{words[:139]}…"
    notify(
        named - {user},
        brand.pk,
        "mention",
        f"mention:{remark.pk}",
        f"{name} mentions you at {called(post)}: {short}",
        path,
    )
    tell_watchers(
        brand, post, "remark", f"remark:{remark.pk}", f"{name} at {called(post)}: {short}", but={*named, user}
    )
    tell(brand.pk, "remarks", post.pk)
    return remark


def change(place: Here, post: Post, id: int, words: str) -> Remark:
    """Other words for one's own remark; that it was changed is shown. Who is newly mentioned is told."""
    words = fit(words)
    with transaction.atomic():
        remark = _own(place, post, id)
        named = mentioned(place.brand, words)
        fresh = named - set(remark.mentions) - {place.user.pk}
        remark.text, remark.edited, remark.mentions = words, clock.now(), sorted(named)
        remark.save(update_fields=["text", "edited", "mentions"])
        told = f"{place.user.name} mentions you at {called(post)}: {words[:140]}"
        notify(
            fresh, place.brand.pk, "mention", f"mention:{remark.pk}", told, spot(place.brand, post.pk, f"remark-{id}")
        )
        tell(place.brand.pk, "remarks", post.pk)
    return remark


def take_back(place: Here, post: Post, id: int) -> None:
    """One's own remark goes for good."""
    with transaction.atomic():
        _own(place, post, id).delete()
        tell(place.brand.pk, "remarks", post.pk)


def settle(place: Here, post: Post, id: int, settled: bool) -> Remark:
    """It is dealt with, or after all not."""
    with transaction.atomic():
        remark = _one(post, id)
        if (remark.resolved is not None) == settled:
            raise Conflict("Somebody did that already.")
        remark.resolved = clock.now() if settled else None
        remark.resolved_by = place.user.name if settled else ""
        remark.save(update_fields=["resolved", "resolved_by"])
        verb = "settled a remark" if settled else "opened a remark again"
        record(place.brand.pk, place.actor, "settle_remark", "post", post.pk, f"{verb} at {called(post)}")
        tell(place.brand.pk, "remarks", post.pk)
    return remark


def fit(words: str) -> str:
    """Words fit to keep. Raises Invalid."""
    words = words.strip()
    if not words:
        raise Invalid.at("/text", "Write something first.", "missing")
    if bad := unusable(words):
        raise Invalid.at("/text", bad)
    if len(words) > MOST:
        raise Invalid.at("/text", f"That is {len(words)} characters; a remark has at most {MOST}.", "long")
    return words


def mentioned(brand: Brand, words: str) -> set[int]:
    """The people of the brand whom the words name: @ and their whole name, however it is cased."""
    if "@" not in words:
        return set()
    members = User.objects.filter(memberships__in=Membership.objects.filter(brand=brand))
    return {m.pk for m in members if m.name and _names(words, m.name)}


def _names(words: str, name: str) -> bool:
    low, start = words.casefold(), 0
    said = f"@{name.casefold()}"
    while (at := low.find(said, start)) >= 0:
        after = low[at + len(said) : at + len(said) + 1]
        if not _LETTER.match(after):
            return True
        start = at + 1
    return False


def _one(post: Post, id: int) -> Remark:
    return the_one(Remark.objects.select_for_update().filter(post=post, pk=id))


def _own(place: Here, post: Post, id: int) -> Remark:
    remark = _one(post, id)
    if remark.user_id != place.user.pk:
        raise Forbidden("This is someone else's remark. You may settle it, not change it.")
    return remark
