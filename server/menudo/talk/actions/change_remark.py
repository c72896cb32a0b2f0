"""Say something at a post: on the whole, on a version, or on a field; change it, and settle it."""

import re
from dataclasses import dataclass

from django.db import transaction

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.problems import ConflictError, ForbiddenError, InvalidError
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.notices.actions.notify import notify
from menudo.people.context import BrandContext
from menudo.people.models import Brand, Membership, User
from menudo.posts.actions.watch import bench_path, notify_watchers, title_of
from menudo.posts.models import Post
from menudo.talk.models import Remark

FIELDS = frozenset({"", "text", "media", "link", "first_comment", "fields", "time"})
MAX_LENGTH = 4000
_LETTER = re.compile(r"\w")


@dataclass(frozen=True, slots=True)
class RemarkTarget:
    """What a remark is on: a network's version (or one profile's), and a field of it; nothing said: the whole post."""

    network: str = ""
    profile: int | None = None
    field: str = ""


WHOLE_POST = RemarkTarget()


def add_remark(context: BrandContext, post: Post, words: str, on: RemarkTarget, shared: bool = False) -> Remark:
    """A remark of a person of the brand. Who is mentioned, who watches and the author are told. Raises InvalidError."""
    words = validate_text(words)
    with transaction.atomic():
        return save_remark(context.brand, post, context.user.pk, context.user.name, words, on, shared)


def save_remark(
    brand: Brand, post: Post, user: int | None, name: str, words: str, on: RemarkTarget, shared: bool = False
) -> Remark:
    """Keep a remark and tell of it, once each; part of the caller's transaction. `user` None: a client by link. `shared`:
    clients by link see it; they always see what one of them said."""
    if on.field not in FIELDS:
        raise InvalidError.at("/field", say("remark.field"))
    networks = set(post.deliveries.values_list("profile__network", flat=True))
    if on.network and on.network not in networks:
        raise InvalidError.at("/network", say("remark.network"))
    named = mentioned_people(brand, words)
    remark = Remark.objects.create(
        post=post,
        user_id=user,
        name=name,
        text=words,
        shared=shared or user is None,
        network=on.network,
        profile_id=on.profile,
        field=on.field,
        mentions=sorted(named),
        created_at=clock.now(),
    )
    path = bench_path(brand, post.pk, f"remark-{remark.pk}")
    short = words if len(words) <= 140 else f"{words[:139]}…"
    notify(
        named - {user},
        brand.pk,
        "mention",
        f"mention:{remark.pk}",
        say("mention.made", name=name, post=title_of(post), words=short),
        path,
    )
    notify_watchers(
        brand,
        post,
        "remark",
        f"remark:{remark.pk}",
        say("remark.made", name=name, post=title_of(post), words=short),
        but={*named, user},
    )
    publish_change(brand.pk, "remarks", post.pk)
    return remark


def edit_remark(context: BrandContext, post: Post, remark_id: int, words: str) -> Remark:
    """Other words for one's own remark; that it was changed is shown. Who is newly mentioned is told."""
    words = validate_text(words)
    with transaction.atomic():
        remark = _own_remark(context, post, remark_id)
        named = mentioned_people(context.brand, words)
        fresh = named - set(remark.mentions) - {context.user.pk}
        remark.text, remark.edited_at, remark.mentions = words, clock.now(), sorted(named)
        remark.save(update_fields=["text", "edited_at", "mentions"])
        message = say("mention.made", name=context.user.name, post=title_of(post), words=words[:140])
        notify(
            fresh,
            context.brand.pk,
            "mention",
            f"mention:{remark.pk}",
            message,
            bench_path(context.brand, post.pk, f"remark-{remark_id}"),
        )
        publish_change(context.brand.pk, "remarks", post.pk)
    return remark


def delete_remark(context: BrandContext, post: Post, remark_id: int) -> None:
    """One's own remark goes for good."""
    with transaction.atomic():
        _own_remark(context, post, remark_id).delete()
        publish_change(context.brand.pk, "remarks", post.pk)


def resolve_remark(context: BrandContext, post: Post, remark_id: int, settled: bool) -> Remark:
    """It is dealt with, or after all not."""
    with transaction.atomic():
        remark = _remark_of(post, remark_id)
        if (remark.resolved_at is not None) == settled:
            raise ConflictError(say("remark.done_already"))
        remark.resolved_at = clock.now() if settled else None
        remark.resolved_by = context.user.name if settled else ""
        remark.save(update_fields=["resolved_at", "resolved_by"])
        record_event(
            context.brand.pk,
            context.actor,
            "settle_remark",
            "post",
            post.pk,
            say("remark.settled" if settled else "remark.opened", post=title_of(post)),
        )
        publish_change(context.brand.pk, "remarks", post.pk)
    return remark


def validate_text(words: str) -> str:
    """Words fit to keep. Raises InvalidError."""
    words = words.strip()
    if not words:
        raise InvalidError.at("/text", say("remark.empty"))
    if bad := storage_refusal(words):
        raise InvalidError.at("/text", bad)
    if len(words) > MAX_LENGTH:
        raise InvalidError.at("/text", say("remark.long", count=len(words), most=MAX_LENGTH))
    return words


def mentioned_people(brand: Brand, words: str) -> set[int]:
    """The people of the brand whom the words name: @ and their whole name, however it is cased."""
    if "@" not in words:
        return set()
    members = User.objects.filter(memberships__in=Membership.objects.filter(brand=brand))
    return {m.pk for m in members if m.name and _mentions_name(words, m.name)}


def _mentions_name(words: str, name: str) -> bool:
    low, start = words.casefold(), 0
    mention = f"@{name.casefold()}"
    while (at := low.find(mention, start)) >= 0:
        after = low[at + len(mention) : at + len(mention) + 1]
        if not _LETTER.match(after):
            return True
        start = at + 1
    return False


def _remark_of(post: Post, remark_id: int) -> Remark:
    return first_or_404(Remark.objects.select_for_update().filter(post=post, pk=remark_id))


def _own_remark(context: BrandContext, post: Post, remark_id: int) -> Remark:
    remark = _remark_of(post, remark_id)
    if remark.user_id != context.user.pk:
        raise ForbiddenError(say("remark.foreign"))
    return remark
