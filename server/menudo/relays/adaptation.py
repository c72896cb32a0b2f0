"""What a relay makes of an item: its message, its media, in the form that its target's network takes."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from zoneinfo import ZoneInfo

from menudo.brandsheet.queries import brand_sheet
from menudo.catalogue.models import CatalogueItem
from menudo.library import files
from menudo.library.actions.add_asset import add_asset
from menudo.library.actions.fetch_asset import try_fetch_asset
from menudo.library.drawing import can_draw, draw_banner
from menudo.library.models import Asset
from menudo.people.context import BrandContext
from menudo.profiles.sheets import sheet_for
from menudo.relays.item_data import ItemData
from menudo.relays.models import Relay, SourceItem
from menudo.relays.serializers import load_adaptation, load_item_data, load_messages
from menudo_core.feeds.messages import Message, next_message
from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.networks.ratios import drawing_size
from menudo_core.relays.adaptation import AdaptedItem, TextUse, adapt_item
from menudo_core.text.placeholders import day_values

_MAX_BYTES = 20_000_000
# What isn't here yet is judged as if it were this.
_AS_IF = (1080, 1080, 300_000)


@dataclass(frozen=True, slots=True)
class RelayedContent:
    """What would be posted, and by which message."""

    message: Message
    adapted: AdaptedItem


def preview_item(
    relay: Relay, source_item: SourceItem, zone: ZoneInfo, used: Mapping[str, int], last: int | None
) -> RelayedContent | None:
    """As it would go out; nothing is fetched or drawn."""
    data, sheet = load_item_data(source_item.data), sheet_for(relay.brand_id, relay.target.network)
    kinds = [MediaKind.PICTURE for _ in data.pictures] + [MediaKind.VIDEO for _ in data.videos]
    media = [asset.facts for asset in _load_assets(relay.brand_id, data.assets)]
    media += [_assumed_facts(-n - 1, kind) for n, kind in enumerate(kinds)]
    if data.banner:
        media = [MediaFacts(-1, MediaKind.PICTURE, "png", *drawing_size([sheet]), _AS_IF[2], alt="a banner")]
    return _adapt(relay, source_item, media, zone, used, last)


def prepare_item(context: BrandContext, relay: Relay, source_item: SourceItem) -> RelayedContent | None:
    """As it goes out: far media are brought to the library, a banner is drawn. Part of no transaction: it may take long."""
    data = load_item_data(source_item.data)
    media = [asset.facts for asset in _load_assets(relay.brand_id, data.assets)]
    if load_adaptation(relay.adaptation).take is not TextUse.NONE:
        if data.banner:
            media = [_draw_event_banner(context, relay, data).facts]
        else:
            wanted = [*data.pictures, *data.videos]
            wanted = wanted[:1] if load_adaptation(relay.adaptation).take is TextUse.FIRST else wanted
            brought = [try_fetch_asset(context, address, _MAX_BYTES, data.alts.get(address, "")) for address in wanted]
            media += [asset.facts for asset in brought if asset is not None]
    return _adapt(relay, source_item, media, context.zone, relay.message_counts, relay.last_message)


def _adapt(
    relay: Relay,
    source_item: SourceItem,
    media: Sequence[MediaFacts],
    zone: ZoneInfo,
    used: Mapping[str, int],
    last: int | None,
) -> RelayedContent | None:
    message = next_message(load_messages(relay.messages), {int(message_id): n for message_id, n in used.items()}, last)
    if message is None:
        return None
    sheet = sheet_for(relay.brand_id, relay.target.network)
    data = load_item_data(source_item.data)
    values = placeholder_values(data, source_item.occurred_at.astimezone(zone).date())
    made = adapt_item(
        message.text,
        values,
        data.tags,
        media,
        load_adaptation(relay.adaptation),
        sheet,
        relay.target.followers,
    )
    return RelayedContent(message, made)


def placeholder_values(data: ItemData, day: date) -> dict[str, str]:
    """An item's facts by placeholder."""
    names = ("title", "text", "summary", "link", "author", "source", "address")
    return {**{name: getattr(data, name) for name in names}, **data.more, **day_values(day)}


def _load_assets(brand: int, ids: Sequence[int]) -> list[Asset]:
    found = Asset.objects.filter(brand=brand, deleted_at=None).in_bulk(list(ids))
    return [found[asset_id] for asset_id in ids if asset_id in found]


def _assumed_facts(asset_id: int, kind: MediaKind) -> MediaFacts:
    video = kind is MediaKind.VIDEO
    return MediaFacts(
        asset_id,
        kind,
        "mp4" if video else "jpeg",
        *_AS_IF,
        seconds=15 if video else None,
        alt="as told",
        codec="h264" if video else "",
    )


def _draw_event_banner(context: BrandContext, relay: Relay, data: ItemData) -> Asset:
    """The thing's photo with what happened, its name and price, in the brand's colours, in the target network's shape."""
    more, title = data.more, data.title
    item = CatalogueItem.objects.filter(pk=data.catalogue_item or 0).select_related("asset").first()
    photo = _fetch_photo(context, item) if item is not None else None
    colours = brand_sheet(relay.brand).colours
    words = [more.get("event", ""), title, more.get("price", "")]
    event, name, price = (one if can_draw(one) else "" for one in words)
    size = drawing_size([sheet_for(relay.brand_id, relay.target.network)])
    drawn = draw_banner(photo, event, name, price, colours, size)
    alt = ", ".join(one for one in words if one)
    return add_asset(context, drawn, f"{title[:60]}.png", alt=alt)


def _fetch_photo(context: BrandContext, item: CatalogueItem) -> bytes | None:
    if item.asset is None and item.picture:
        asset = try_fetch_asset(context, item.picture, _MAX_BYTES)
        if asset is not None:
            item.asset = asset
            item.save(update_fields=["asset"])
    if item.asset is None or item.asset.kind != MediaKind.PICTURE:
        return None
    return files.file_path(item.asset.sha256).read_bytes()
