"""What appears at a source: our posts and others' at a profile, a feed's articles, a catalogue's happenings, a label's posts."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

from django.db.models import Min, Prefetch

from menudo.catalogue.models import CatalogueEvent
from menudo.catalogue.serializers import load_event_facts
from menudo.feeds.models import Article
from menudo.library.models import Asset
from menudo.posts.models import Delivery, Post
from menudo.posts.serializers import load_content
from menudo.relays.item_data import ItemData
from menudo.relays.models import Firing, Relay, RemoteItem, SourceItem
from menudo.relays.serializers import load_item_data, store_item_data
from menudo_core.feeds.entry import address_key, origin_key
from menudo_core.media.facts import MediaKind
from menudo_core.signoff.states import DeliveryState
from menudo_core.text.hashtags import hashtags

_OF_ALL_EVENTS = 200
_LONG_AGO = datetime(1990, 1, 1, tzinfo=UTC)


@dataclass(frozen=True, slots=True)
class FoundItem:
    """Something at a source, before it is kept."""

    source: str
    origin: str
    at: datetime
    data: ItemData
    trail: frozenset[int] = field(default_factory=frozenset)
    event: str = ""
    event_name: str = ""
    addresses: tuple[str, ...] = ()


def source_item(brand_id: int, found: FoundItem, now: datetime) -> SourceItem:
    """The row of what was found, not kept yet."""
    return SourceItem(
        brand_id=brand_id,
        source=found.source,
        origin=found.origin,
        event=found.event,
        event_name=found.event_name,
        occurred_at=found.at,
        seen_at=now,
        trail=sorted(found.trail),
        addresses=list(found.addresses),
        data=store_item_data(found.data),
    )


def latest_items(source: str, most: int, after: datetime | None = None) -> list[FoundItem]:
    """What appeared at a source, the newest first; only what came after an instant, where one is given."""
    kind, source_id = source[0], int(source[1:])
    found = {"p": _profile_items, "f": _feed_items, "c": _catalogue_items, "l": _label_items}[kind](
        source_id, most, after
    )
    return sorted(found, key=lambda one: one.at, reverse=True)[:most]


def latest_for(relay: Relay, most: int) -> list[FoundItem]:
    """The last items of a relay's source, the newest first; of a catalogue, only what is its event."""
    if not relay.event:
        return latest_items(relay.source, most)
    mine = (relay.event, relay.event_name)
    return [one for one in latest_items(relay.source, _OF_ALL_EVENTS) if (one.event, one.event_name) == mine][:most]


def _profile_items(profile_id: int, most: int, after: datetime | None) -> list[FoundItem]:
    firings = Prefetch("post__firing", Firing.objects.select_related("item"))
    rows = Delivery.objects.filter(profile=profile_id, state=DeliveryState.PUBLISHED, published_at__isnull=False)
    outside = RemoteItem.objects.filter(profile=profile_id).order_by("-published_at")
    if after is not None:
        rows, outside = rows.filter(published_at__gt=after), outside.filter(published_at__gt=after)
    listed = list(rows.order_by("-published_at").select_related("post", "profile").prefetch_related(firings)[:most])
    counts = _kinds_by_asset(asset for d in listed for asset in load_content(d.sent_content or {}).media)
    also: dict[int, set[int]] = {}
    for post, other in (
        Delivery.objects.filter(post__in={d.post_id for d in listed})
        .exclude(state__in=[DeliveryState.OFF, DeliveryState.UNPLANNED])
        .values_list("post_id", "profile_id")
    ):
        also.setdefault(post, set()).add(other)
    found = [_own_post_item(f"p{profile_id}", d, also.get(d.post_id, set()), counts) for d in listed]
    found += [
        FoundItem(
            f"p{profile_id}", f"url:{one.url}", one.published_at, load_item_data(one.data), frozenset({profile_id})
        )
        for one in outside[:most]
    ]
    return found


def _own_post_item(source: str, d: Delivery, also: set[int], counts: dict[int, str]) -> FoundItem:
    sent = load_content(d.sent_content or {})
    firing = getattr(d.post, "firing", None)
    origin = firing.item.origin if firing is not None else f"post:{d.post_id}"
    trail = (set(firing.item.trail) if firing is not None else set()) | also | {d.profile_id}
    media, text = sent.media, sent.text
    asset_pictures, asset_videos = _count_kinds(media, counts)
    data = ItemData(
        title=d.post.title or sent.fields.get("title", ""),
        text=text,
        summary=text,
        comment=sent.first_comment,
        link=sent.link,
        author="",
        tags=tuple(hashtags(f"{text} {sent.first_comment}")),
        assets=media,
        asset_pictures=asset_pictures,
        asset_videos=asset_videos,
        kind=sent.form,
        address=d.remote_url,
        source=d.profile.display_name or d.profile.handle,
    )
    return FoundItem(source, origin, d.published_at or d.due_at or _LONG_AGO, data, frozenset(trail))


def _feed_items(feed_id: int, most: int, after: datetime | None) -> list[FoundItem]:
    rows = Article.objects.filter(feed=feed_id).select_related("feed").defer("thumb")
    if after is not None:
        rows = rows.filter(is_new=True, seen_at__gt=after)
    return [_article_item(one) for one in rows.order_by("-published_at" if after is None else "-seen_at", "-pk")[:most]]


def _article_item(one: Article) -> FoundItem:
    # The same article by two feeds is the same thing: it is known by its addresses too, present and former.
    addresses = tuple(dict.fromkeys(address_key(link)[:700] for link in (one.link, *one.former_links) if link))
    picture = [one.picture] if one.picture and one.picture_ok is not False else []
    data = ItemData(
        title=one.title,
        text=one.summary,
        summary=one.summary,
        link=one.link,
        author=one.author,
        tags=tuple(one.tags),
        pictures=tuple(picture),
        kind="article",
        address=one.link,
        language=one.feed.language,
        source=one.feed.title,
    )
    origin = origin_key(one.entry_key, one.feed_id)[:700]
    return FoundItem(f"f{one.feed_id}", origin, one.published_at or one.seen_at, data, addresses=addresses)


def _catalogue_items(catalogue_id: int, most: int, after: datetime | None) -> list[FoundItem]:
    rows = CatalogueEvent.objects.filter(catalogue=catalogue_id).select_related("item", "catalogue")
    if after is not None:
        rows = rows.filter(occurred_at__gt=after)
    return [_event_item(one) for one in rows[:most]]


def _event_item(one: CatalogueEvent) -> FoundItem:
    facts, item = load_event_facts(one.values), one.item
    data = ItemData(
        title=facts.title,
        text=facts.about,
        summary=facts.about,
        link=facts.link,
        tags=(),
        assets=(item.asset_id,) if item.asset_id else (),
        asset_pictures=int(bool(item.asset_id)),
        pictures=(item.picture,) if item.picture and not item.asset_id else (),
        kind=one.kind,
        source=one.catalogue.name,
        banner=True,
        catalogue_item=item.pk,
        more={name: getattr(facts, name) for name in ("event", "price", "before", "open_day", "about")},
    )
    origin = f"c{one.catalogue_id}:{one.dedup_key}"
    return FoundItem(f"c{one.catalogue_id}", origin[:700], one.occurred_at, data, event=one.kind, event_name=one.name)


def _label_items(label_id: int, most: int, after: datetime | None) -> list[FoundItem]:
    out = Delivery.objects.filter(state=DeliveryState.PUBLISHED, published_at__isnull=False)
    posts = Post.objects.filter(labels=label_id, deliveries__in=out, deleted_at=None).annotate(
        first=Min("deliveries__published_at")
    )
    if after is not None:
        posts = posts.filter(first__gt=after)
    listed = list(posts.order_by("-first").select_related("firing__item").prefetch_related("deliveries")[:most])
    counts = _kinds_by_asset(asset for post in listed for asset in load_content(post.master).media)
    return [_labelled_post_item(f"l{label_id}", post, counts) for post in listed]


def _labelled_post_item(source: str, post: Any, counts: dict[int, str]) -> FoundItem:
    firing = getattr(post, "firing", None)
    trail = set(firing.item.trail) if firing is not None else set()
    trail |= {
        d.profile_id for d in post.deliveries.all() if d.state not in (DeliveryState.OFF, DeliveryState.UNPLANNED)
    }
    content = load_content(post.master)
    media, text = content.media, content.text
    asset_pictures, asset_videos = _count_kinds(media, counts)
    data = ItemData(
        title=post.title,
        text=text,
        summary=text,
        link=content.link,
        tags=tuple(hashtags(text)),
        assets=media,
        asset_pictures=asset_pictures,
        asset_videos=asset_videos,
        kind="post",
        source="",
    )
    return FoundItem(
        source, firing.item.origin if firing is not None else f"post:{post.pk}", post.first, data, frozenset(trail)
    )


def _kinds_by_asset(assets: Iterable[int]) -> dict[int, str]:
    return dict(Asset.objects.filter(pk__in=set(assets)).values_list("pk", "kind"))


def _count_kinds(media: Sequence[int], kinds: dict[int, str]) -> tuple[int, int]:
    """How many pictures there are among the media, and how many videos."""
    found = [kinds[asset_id] for asset_id in media if asset_id in kinds]
    videos = sum(kind == MediaKind.VIDEO for kind in found)
    return len(found) - videos, videos
