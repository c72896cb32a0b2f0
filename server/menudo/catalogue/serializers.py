"""What the last reading found of an item, and what an event says: as they are kept (JSON), and as the core has them."""

from collections.abc import Mapping
from dataclasses import asdict, fields
from datetime import date
from decimal import Decimal
from typing import Any

from menudo.catalogue.event_facts import EventFacts
from menudo.catalogue.models import CatalogueItem
from menudo_core.catalogue import events as core


def store_reading(item: core.CatalogueItem) -> dict[str, Any]:
    return {
        "price": None if item.price is None else str(item.price),
        "currency": item.currency,
        "standing": item.availability,
        "open_day": item.open_day and item.open_day.isoformat(),
    }


def load_last_reading(item: CatalogueItem) -> core.CatalogueItem:
    """The item as it was read last."""
    stored = item.last_reading
    return core.CatalogueItem(
        item.key,
        item.title,
        stored["price"] and Decimal(stored["price"]),
        stored["currency"],
        core.Availability(stored["standing"]),
        stored["open_day"] and date.fromisoformat(stored["open_day"]),
    )


def store_event_facts(facts: EventFacts) -> dict[str, Any]:
    return asdict(facts)


def load_event_facts(raw: Mapping[str, Any]) -> EventFacts:
    return EventFacts(**{field.name: raw[field.name] or "" for field in fields(EventFacts) if field.name in raw})
