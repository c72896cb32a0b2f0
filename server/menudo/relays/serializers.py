"""Relays' settings and items, between the database and the core."""

from collections.abc import Mapping
from datetime import time
from typing import Any

from menudo.relays.models import Relay, SourceItem
from menudo.relays.schemas import RelayMessage, RelaySettings
from menudo_core.catalogue.events import EventKind
from menudo_core.feeds.messages import Message
from menudo_core.relays.adaptation import Adaptation, TextUse
from menudo_core.relays.conditions import Conditions, ContentFeature
from menudo_core.relays.guard import RelayState as CoreRelay
from menudo_core.relays.item import Item
from menudo_core.relays.messages import SourceKind, standard_message
from menudo_core.text.lines import first_line
from menudo_core.timing.hours import Hours


def load_conditions(raw: Mapping[str, Any]) -> Conditions:
    """Conditions as they are kept, as the core has them."""
    hours = raw.get("hours")
    return Conditions(
        frozenset(ContentFeature(one) for one in raw.get("has", ())), tuple(raw.get("words", ())), tuple(raw.get("but", ())),
        tuple(raw.get("tags", ())), frozenset(raw.get("kinds", ())), frozenset(raw.get("languages", ())),
        Hours(time.fromisoformat(hours[0]), time.fromisoformat(hours[1])) if hours else None,
    )  # fmt: skip


def load_adaptation(raw: Mapping[str, Any]) -> Adaptation:
    """A shape as it is kept, as the core has it."""
    return Adaptation(
        TextUse(raw.get("take", TextUse.ALL)), raw.get("adapts", True), raw.get("tags_below", False), raw.get("link", True),
        raw.get("link_to", ""), raw.get("fields", {}),
    )  # fmt: skip


def load_messages(raw: list[dict[str, Any]]) -> list[Message]:
    return [Message(one["id"], one["text"], one.get("times")) for one in raw]


def load_relay_state(relay: Relay) -> CoreRelay | None:
    """A relay as the guard has it; None: it was never switched on."""
    if relay.carries_since is None:
        return None
    return CoreRelay(
        relay.source,
        relay.target_id,
        relay.carries_since,
        relay.hourly_limit,
        bool(relay.paused_reason) or not relay.active,
    )


def load_item(source_item: SourceItem) -> Item:
    """What appeared, as the core has it."""
    data = source_item.data
    return Item(
        source_item.source, source_item.origin, source_item.occurred_at, item_text(data), data.get("link", ""),
        len(data.get("pictures", ())) + data.get("asset_pictures", 0), len(data.get("videos", ())) + data.get("asset_videos", 0),
        data.get("kind", "post"), data.get("language", ""), tuple(data.get("tags", ())), frozenset(source_item.trail),
        tuple(source_item.addresses),
    )  # fmt: skip


def item_text(data: Mapping[str, Any]) -> str:
    """All its words, for conditions on them."""
    parts = (data.get("title", ""), data.get("text", ""), data.get("summary", ""), data.get("comment", ""))
    return "\n".join(part for part in parts if part)


def title_for(data: Mapping[str, Any]) -> str:
    """What an item is called: its title, else the first line of its text; with what happened before it, where something did."""
    title = data.get("title") or first_line(data.get("text", ""))
    event = data.get("more", {}).get("event", "")
    return (f"{event}: {title}" if event else title)[:140]


def default_settings(source: str, event: str) -> RelaySettings:
    """What a relay is unless it is told otherwise: our own goes on by itself, what is others' asks first."""
    message = standard_message(SourceKind(source[0]), EventKind(event) if event else None)
    settings = RelaySettings(messages=[RelayMessage(text=message)])
    if source[0] in (SourceKind.FEED, SourceKind.CATALOGUE):
        settings.timing, settings.confirmation = Relay.Timing.SLOT, Relay.Confirmation.ASKS
    return settings
