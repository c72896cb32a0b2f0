"""What appears at a source: our posts and others' at a profile, a feed's articles, a catalogue's happenings, a label's posts."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

from django.db.models import Min, Prefetch

from menudo.catalogue.models import Happening
from menudo.feeds.models import Article
from menudo.library.models import Asset
from menudo.posts.models import Delivery, Post
from menudo.relays.models import Leg, Outside, Relay
from menudo_core.feeds.entry import address_key, origin_of
from menudo_core.media.facts import MediaKind
from menudo_core.signoff.states import DeliveryState
from menudo_core.text.hashtags import hashtags

_OF_ALL_EVENTS = 200
_LONG_AGO = datetime(1990, 1, 1, tzinfo=UTC)


@dataclass(frozen=True, slots=True)
class Arrived:
    """Something at a source, before it is kept."""

    source: str
    origin: str
    at: datetime
    data: dict[str, Any]
    trail: frozenset[int] = field(default_factory=frozenset)
    event: str = ""
    event_name: str = ""
    addresses: tuple[str, ...] = ()


def latest(source: str, most: int, after: datetime | None = None) -> list[Arrived]:
    """What appeared at a source, the newest first; only what came after an instant, where one is given."""
    kind, id = source[0], int(source[1:])
    found = {"p": _profile, "f": _feed, "c": _catalogue, "l": _label}[kind](id, most, after)
    return sorted(found, key=lambda one: one.at, reverse=True)[:most]


def latest_for(relay: Relay, most: int) -> list[Arrived]:
    """The last items of a relay's source, the newest first; of a catalogue, only what is its event."""
    if not relay.event:
        return latest(relay.source, most)
    mine = (relay.event, relay.event_name)
    return [one for one in latest(relay.source, _OF_ALL_EVENTS) if (one.event, one.event_name) == mine][:most]


def _profile(id: int, most: int, after: datetime | None) -> list[Arrived]:
    legs = Prefetch("post__leg", Leg.objects.select_related("appeared"))
    rows = Delivery.objects.filter(profile=id, state=DeliveryState.PUBLISHED, published_at__isnull=False)
    outside = Outside.objects.filter(profile=id).order_by("-at")
    if after is not None:
        rows, outside = rows.filter(published_at__gt=after), outside.filter(at__gt=after)
    listed = list(rows.order_by("-published_at").select_related("post", "profile").prefetch_related(legs)[:most])
    counts = _counts(asset for d in listed for asset in (d.sent or {}).get("media", ()))
    also: dict[int, set[int]] = {}
    for post, other in Delivery.objects.filter(post__in={d.post_id for d in listed}).exclude(
        state__in=[DeliveryState.OFF, DeliveryState.UNPLANNED]
    ).values_list("post_id", "profile_id"):  # fmt: skip
        also.setdefault(post, set()).add(other)
    found = [_ours(f"p{id}", d, also.get(d.post_id, set()), counts) for d in listed]
    found += [Arrived(f"p{id}", f"url:{one.url}", one.at, one.data, frozenset({id})) for one in outside[:most]]
    return found


def _ours(source: str, d: Delivery, also: set[int], counts: dict[int, str]) -> Arrived:
    sent = d.sent or {}
    leg = getattr(d.post, "leg", None)
    origin = leg.appeared.origin if leg is not None else f"post:{d.post_id}"
    trail = (set(leg.appeared.trail) if leg is not None else set()) | also | {d.profile_id}
    media, text = list(sent.get("media", ())), sent.get("text", "")
    data = {
        "title": d.post.title or sent.get("fields", {}).get("title", ""), "text": text, "summary": text,
        "comment": sent.get("first_comment", ""), "link": sent.get("link", ""), "author": "",
        "tags": hashtags(f"{text} {sent.get('first_comment', '')}"), "assets": media, **_kinds(media, counts),
        "kind": sent.get("form", "post"), "address": d.remote_url, "source": d.profile.called or d.profile.handle,
    }  # fmt: skip
    return Arrived(source, origin, d.published_at or d.due_at or _LONG_AGO, data, frozenset(trail))


def _feed(id: int, most: int, after: datetime | None) -> list[Arrived]:
    rows = Article.objects.filter(feed=id).select_related("feed").defer("thumb")
    if after is not None:
        rows = rows.filter(fresh=True, seen__gt=after)
    return [_article(one) for one in rows.order_by("-at" if after is None else "-seen", "-pk")[:most]]


def _article(one: Article) -> Arrived:
    # The same article by two feeds is the same thing: it is known by its addresses too, present and former.
    addresses = tuple(dict.fromkeys(address_key(link)[:700] for link in (one.link, *one.former_links) if link))
    picture = [one.picture] if one.picture and one.picture_ok is not False else []
    data = {
        "title": one.title, "text": one.summary, "summary": one.summary, "link": one.link, "author": one.author,
        "tags": one.tags, "pictures": picture, "kind": "article", "address": one.link, "language": one.feed.language, "source": one.feed.title,
    }  # fmt: skip
    origin = origin_of(one.known_by, one.feed_id)[:700]
    return Arrived(f"f{one.feed_id}", origin, one.at or one.seen, data, addresses=addresses)


def _catalogue(id: int, most: int, after: datetime | None) -> list[Arrived]:
    rows = Happening.objects.filter(catalogue=id).select_related("thing", "catalogue")
    if after is not None:
        rows = rows.filter(at__gt=after)
    return [_happening(one) for one in rows[:most]]


def _happening(one: Happening) -> Arrived:
    said, thing = one.said, one.thing
    data = {
        "title": said["title"], "text": said.get("about", ""), "summary": said.get("about", ""), "link": said.get("link", ""),
        "tags": [], "assets": [thing.asset_id] if thing.asset_id else [], "asset_pictures": int(bool(thing.asset_id)),
        "pictures": [thing.picture] if thing.picture and not thing.asset_id else [], "kind": one.happened,
        "source": one.catalogue.name, "banner": True, "thing": thing.pk,
        "more": {name: said.get(name, "") for name in ("event", "price", "before", "open_day", "about")},
    }  # fmt: skip
    origin = f"c{one.catalogue_id}:{one.known_by}"
    return Arrived(f"c{one.catalogue_id}", origin[:700], one.at, data, event=one.happened, event_name=one.name)


def _label(id: int, most: int, after: datetime | None) -> list[Arrived]:
    out = Delivery.objects.filter(state=DeliveryState.PUBLISHED, published_at__isnull=False)
    posts = Post.objects.filter(labels=id, deliveries__in=out, binned=None).annotate(
        first=Min("deliveries__published_at")
    )
    if after is not None:
        posts = posts.filter(first__gt=after)
    listed = list(posts.order_by("-first").select_related("leg__appeared").prefetch_related("deliveries")[:most])
    counts = _counts(asset for post in listed for asset in post.master.get("media", ()))
    return [_labelled(f"l{id}", post, counts) for post in listed]


def _labelled(source: str, post: Any, counts: dict[int, str]) -> Arrived:
    leg = getattr(post, "leg", None)
    trail = set(leg.appeared.trail) if leg is not None else set()
    trail |= {
        d.profile_id for d in post.deliveries.all() if d.state not in (DeliveryState.OFF, DeliveryState.UNPLANNED)
    }
    media, text = list(post.master.get("media", ())), post.master.get("text", "")
    data = {
        "title": post.title, "text": text, "summary": text, "link": post.master.get("link", ""), "tags": hashtags(text),
        "assets": media, **_kinds(media, counts), "kind": "post", "source": "",
    }  # fmt: skip
    return Arrived(
        source, leg.appeared.origin if leg is not None else f"post:{post.pk}", post.first, data, frozenset(trail)
    )


def _counts(assets: Iterable[int]) -> dict[int, str]:
    return dict(Asset.objects.filter(pk__in=set(assets)).values_list("pk", "kind"))


def _kinds(media: Sequence[int], counts: dict[int, str]) -> dict[str, int]:
    kinds = [counts.get(id) for id in media]
    videos = sum(kind == MediaKind.VIDEO for kind in kinds)
    return {"asset_pictures": sum(kind is not None for kind in kinds) - videos, "asset_videos": videos}
