"""Relays' settings and items, between the database and the core."""

from collections.abc import Mapping
from datetime import time
from typing import Any

from menudo.relays.models import Appeared, Relay
from menudo.relays.schemas import RelayMessage, RelaySettings
from menudo_core.catalogue.events import Happened
from menudo_core.feeds.messages import Message
from menudo_core.relays.conditions import Conditions, Has
from menudo_core.relays.guard import Relay as CoreRelay
from menudo_core.relays.item import Item
from menudo_core.relays.says import SourceKind, standard_message
from menudo_core.relays.shape import Shape, Take
from menudo_core.text.lines import first_line
from menudo_core.timing.hours import Hours


def conditions_of(raw: Mapping[str, Any]) -> Conditions:
    """Conditions as they are kept, as the core has them."""
    hours = raw.get("hours")
    return Conditions(
        frozenset(Has(one) for one in raw.get("has", ())), tuple(raw.get("words", ())), tuple(raw.get("but", ())),
        tuple(raw.get("tags", ())), frozenset(raw.get("kinds", ())), frozenset(raw.get("languages", ())),
        Hours(time.fromisoformat(hours[0]), time.fromisoformat(hours[1])) if hours else None,
    )  # fmt: skip


def shape_of(raw: Mapping[str, Any]) -> Shape:
    """A shape as it is kept, as the core has it."""
    return Shape(
        Take(raw.get("take", Take.ALL)), raw.get("adapts", True), raw.get("tags_below", False), raw.get("link", True),
        raw.get("link_to", ""), raw.get("fields", {}),
    )  # fmt: skip


def messages_of(raw: list[dict[str, Any]]) -> list[Message]:
    return [Message(one["id"], one["text"], one.get("times")) for one in raw]


def guard_of(relay: Relay) -> CoreRelay | None:
    """A relay as the guard has it; None: it was never switched on."""
    if relay.since is None:
        return None
    return CoreRelay(relay.source, relay.target_id, relay.since, relay.ceiling, bool(relay.paused) or not relay.on)


def item_of(appeared: Appeared) -> Item:
    """What appeared, as the core has it."""
    data = appeared.data
    return Item(
        appeared.source, appeared.origin, appeared.at, said_text(data), data.get("link", ""),
        len(data.get("pictures", ())) + data.get("asset_pictures", 0), len(data.get("videos", ())) + data.get("asset_videos", 0),
        data.get("kind", "post"), data.get("language", ""), tuple(data.get("tags", ())), frozenset(appeared.trail),
        tuple(appeared.addresses),
    )  # fmt: skip


def said_text(data: Mapping[str, Any]) -> str:
    """All its words, for conditions on them."""
    parts = (data.get("title", ""), data.get("text", ""), data.get("summary", ""), data.get("comment", ""))
    return "\n".join(part for part in parts if part)


def title_of(data: Mapping[str, Any]) -> str:
    """What an item is called: its title, else the first line of its text; with what happened before it, where something did."""
    title = data.get("title") or first_line(data.get("text", ""))
    event = data.get("more", {}).get("event", "")
    return (f"{event}: {title}" if event else title)[:140]


def usual(source: str, event: str) -> RelaySettings:
    """What a relay is unless it is told otherwise: our own goes on by itself, what is others' asks first."""
    message = standard_message(SourceKind(source[0]), Happened(event) if event else None)
    settings = RelaySettings(messages=[RelayMessage(text=message)])
    if source[0] in (SourceKind.FEED, SourceKind.CATALOGUE):
        settings.how, settings.asks = Relay.How.SLOT, Relay.Asks.ASKS
    return settings
