"""What a relay makes of an item: its message, its media, in the form that its target's network takes."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any
from zoneinfo import ZoneInfo

from menudo.brandsheet.reads import said_of as sheet_says
from menudo.catalogue.models import Thing
from menudo.library import files
from menudo.library.actions.add import add
from menudo.library.actions.fetch_in import fetched
from menudo.library.drawing import banner, can_draw
from menudo.library.models import Asset
from menudo.people.here import Here
from menudo.profiles.sheets import sheet_for
from menudo.relays.kept import messages_of, shape_of
from menudo.relays.models import Appeared, Relay
from menudo_core.feeds.messages import Message, next_message
from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.networks.ratios import drawn_for
from menudo_core.relays.shape import Shaped, Take, shaped
from menudo_core.text.placeholders import of_day

_MOST_BYTES = 20_000_000
# What isn't here yet is judged as if it were this.
_AS_IF = (1080, 1080, 300_000)


@dataclass(frozen=True, slots=True)
class Made:
    """What would be posted, and by which message."""

    message: Message
    shaped: Shaped


def preview(relay: Relay, appeared: Appeared, zone: ZoneInfo, used: Mapping[str, int], last: int | None) -> Made | None:
    """As it would go out; nothing is fetched or drawn."""
    data, sheet = appeared.data, sheet_for(relay.brand_id, relay.target.network)
    kinds = [MediaKind.PICTURE for _ in data.get("pictures", ())] + [MediaKind.VIDEO for _ in data.get("videos", ())]
    media = [asset.facts for asset in _assets(relay.brand_id, data.get("assets", ()))]
    media += [_as_if(-n - 1, kind) for n, kind in enumerate(kinds)]
    if data.get("banner"):
        media = [MediaFacts(-1, MediaKind.PICTURE, "png", *drawn_for([sheet]), _AS_IF[2], alt="a banner")]
    return _made(relay, appeared, media, zone, used, last)


def make(place: Here, relay: Relay, appeared: Appeared) -> Made | None:
    """As it goes out: far media are brought to the library, a banner is drawn. Part of no transaction: it may take long."""
    media = [asset.facts for asset in _assets(relay.brand_id, appeared.data.get("assets", ()))]
    if shape_of(relay.shape).take is not Take.NONE:
        if appeared.data.get("banner"):
            media = [_banner(place, relay, appeared).facts]
        else:
            wanted = [*appeared.data.get("pictures", ()), *appeared.data.get("videos", ())]
            wanted = wanted[:1] if shape_of(relay.shape).take is Take.FIRST else wanted
            brought = [
                fetched(place, address, _MOST_BYTES, appeared.data.get("alts", {}).get(address, ""))
                for address in wanted
            ]
            media += [asset.facts for asset in brought if asset is not None]
    return _made(relay, appeared, media, place.zone, relay.used, relay.last)


def _made(
    relay: Relay, appeared: Appeared, media: Sequence[MediaFacts], zone: ZoneInfo, used: Mapping[str, int],
    last: int | None,
) -> Made | None:  # fmt: skip
    message = next_message(messages_of(relay.messages), {int(id): n for id, n in used.items()}, last)
    if message is None:
        return None
    sheet = sheet_for(relay.brand_id, relay.target.network)
    said = said_of(appeared.data, appeared.at.astimezone(zone).date())
    made = shaped(
        message.text, said, appeared.data.get("tags", ()), media, shape_of(relay.shape), sheet, relay.target.followers
    )
    return Made(message, made)


def said_of(data: Mapping[str, Any], day: date) -> dict[str, str]:
    """An item's facts by placeholder."""
    names = ("title", "text", "summary", "link", "author", "source", "address")
    return {**{name: data.get(name, "") for name in names}, **data.get("more", {}), **of_day(day)}


def _assets(brand: int, ids: Sequence[int]) -> list[Asset]:
    found = Asset.objects.filter(brand=brand, binned=None).in_bulk(list(ids))
    return [found[id] for id in ids if id in found]


def _as_if(id: int, kind: MediaKind) -> MediaFacts:
    video = kind is MediaKind.VIDEO
    return MediaFacts(
        id, kind, "mp4" if video else "jpeg", *_AS_IF, seconds=15 if video else None, alt="as told",
        codec="h264" if video else "",
    )  # fmt: skip


def _banner(place: Here, relay: Relay, appeared: Appeared) -> Asset:
    """The thing's photo with what happened, its name and price, in the brand's colours, in the target network's shape."""
    more, title = appeared.data.get("more", {}), appeared.data.get("title", "")
    thing = Thing.objects.filter(pk=appeared.data.get("thing")).select_related("asset").first()
    photo = _photo(place, thing) if thing is not None else None
    colours = sheet_says(relay.brand).get("colours", ())
    words = [more.get("event", ""), title, more.get("price", "")]
    event, name, price = (one if can_draw(one) else "" for one in words)
    size = drawn_for([sheet_for(relay.brand_id, relay.target.network)])
    drawn = banner(photo, event, name, price, colours, size)
    alt = ", ".join(one for one in words if one)
    return add(place, drawn, f"{title[:60]}.png", alt=alt)


def _photo(place: Here, thing: Thing) -> bytes | None:
    if thing.asset is None and thing.picture:
        asset = fetched(place, thing.picture, _MOST_BYTES)
        if asset is not None:
            thing.asset = asset
            thing.save(update_fields=["asset"])
    if thing.asset is None or thing.asset.kind != MediaKind.PICTURE:
        return None
    return files.path(thing.asset.sha256).read_bytes()
