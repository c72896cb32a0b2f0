"""Relays' settings and items, between the database and the core."""

from collections.abc import Mapping
from dataclasses import fields
from datetime import time
from typing import Any

from menudo.relays.item_data import ItemData
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

_STORED_NAMES = {"catalogue_item": "thing"}


def load_conditions(raw: Mapping[str, Any]) -> Conditions:
    """Conditions as they are kept, as the core has them."""
    hours = raw.get("hours")
    return Conditions(
        frozenset(ContentFeature(one) for one in raw.get("has", ())),
        tuple(raw.get("words", ())),
        tuple(raw.get("but", ())),
        tuple(raw.get("tags", ())),
        frozenset(raw.get("kinds", ())),
        frozenset(raw.get("languages", ())),
        Hours(time.fromisoformat(hours[0]), time.fromisoformat(hours[1])) if hours else None,
    )


def load_adaptation(raw: Mapping[str, Any]) -> Adaptation:
    """A shape as it is kept, as the core has it."""
    return Adaptation(
        TextUse(raw.get("take", TextUse.ALL)),
        raw.get("adapts", True),
        raw.get("tags_below", False),
        raw.get("link", True),
        raw.get("link_to", ""),
        raw.get("fields", {}),
    )


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


def store_item_data(data: ItemData) -> dict[str, Any]:
    """What is known of an item, without what it has nothing of."""
    return {
        _STORED_NAMES.get(field.name, field.name): value
        for field in fields(ItemData)
        if (value := getattr(data, field.name))
    }


def load_item_data(raw: Mapping[str, Any]) -> ItemData:
    """What is known of an item, as it was kept."""
    names = {field.name: _STORED_NAMES.get(field.name, field.name) for field in fields(ItemData)}
    found = {name: raw[stored] for name, stored in names.items() if stored in raw}
    values: dict[str, Any] = {name: tuple(one) if isinstance(one, list) else one for name, one in found.items()}
    return ItemData(**values)


def load_item(source_item: SourceItem) -> Item:
    """What appeared, as the core has it."""
    data = load_item_data(source_item.data)
    return Item(
        source_item.source,
        source_item.origin,
        source_item.occurred_at,
        item_text(data),
        data.link,
        len(data.pictures) + data.asset_pictures,
        len(data.videos) + data.asset_videos,
        data.kind,
        data.language,
        data.tags,
        frozenset(source_item.trail),
        tuple(source_item.addresses),
    )


def item_text(data: ItemData) -> str:
    """All its words, for conditions on them."""
    return "\n".join(part for part in (data.title, data.text, data.summary, data.comment) if part)


def title_for(data: ItemData) -> str:
    """What an item is called: its title, else the first line of its text; with what happened before it, where something did."""
    title = data.title or first_line(data.text)
    event = data.more.get("event", "")
    return (f"{event}: {title}" if event else title)[:140]


def default_settings(source: str, event: str) -> RelaySettings:
    """What a relay is unless it is told otherwise: our own goes on by itself, what is others' asks first."""
    message = standard_message(SourceKind(source[0]), EventKind(event) if event else None)
    settings = RelaySettings(messages=[RelayMessage(text=message)])
    if source[0] in (SourceKind.FEED, SourceKind.CATALOGUE):
        settings.timing, settings.confirmation = Relay.Timing.SLOT, Relay.Confirmation.ASKS
    return settings
