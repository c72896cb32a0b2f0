"""What has happened between two readings of a catalogue."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal
from enum import StrEnum
from typing import Any


class Availability(StrEnum):
    """How a thing stands."""

    COMING = "coming"
    FREE = "free"
    RESERVED = "reserved"
    SOLD = "sold"


class EventKind(StrEnum):
    NEW = "new"
    LOWERED = "lowered"
    RESERVED = "reserved"
    SOLD = "sold"
    OPEN_DAY = "open_day"
    COMING = "coming"
    OWN = "own"


@dataclass(frozen=True, slots=True)
class CatalogueItem:
    """One item as it was read. `key`: what the catalogue calls it; `price` in `currency` (ISO 4217); `more`: the fields that
    have no place of their own, as they were read."""

    key: str
    title: str
    price: Decimal | None = None
    currency: str = ""
    availability: Availability = Availability.FREE
    open_day: date | None = None
    more: Mapping[str, str] = field(default_factory=dict)


class FieldChange(StrEnum):
    """What a brand's own rule looks for in a field."""

    CHANGES = "changes"
    BECOMES = "becomes"
    FALLS = "falls"
    RISES = "rises"


@dataclass(frozen=True, slots=True)
class CustomRule:
    """An event of the brand's own: the field, what it does, and with `becomes`, what it becomes."""

    name: str
    field: str
    change: FieldChange = FieldChange.CHANGES
    value: str = ""


@dataclass(frozen=True, slots=True)
class Event:
    """What happened to a thing. `before`: the price it had, where it was lowered; `name`: an own event's; `on`: the day it
    was read, in the brand's zone."""

    happened: EventKind
    item: CatalogueItem
    before: Decimal | None = None
    name: str = ""
    on: date | None = None

    @property
    def dedup_key(self) -> str:
        """The same happening read twice has the same name; a price lowered further, or a new open day, another. What was
        undone and happens again, as when a thing is freed and reserved again, has another on another day."""
        what = self.name if self.happened is EventKind.OWN else ""
        value = {EventKind.LOWERED: self.item.price, EventKind.OPEN_DAY: self.item.open_day}.get(self.happened, "")
        day = "" if self.happened is EventKind.OPEN_DAY else self.on or ""
        return f"{self.item.key}:{self.happened}:{what}:{value}:{day}"


def merge_reading(current: CatalogueItem, before: CatalogueItem | None, read: CatalogueItem) -> CatalogueItem:
    """How a thing stands after a reading, given how it stands now and what the reading `before` said.

    What a person said of it since holds until the catalogue says otherwise than it did: one that lags behind neither takes
    it back nor tells it a second time when it follows.
    """
    if before is None:
        return read
    holds: dict[str, Any] = {}
    if read.availability is before.availability:
        holds["availability"] = current.availability
    if (read.price, read.currency) == (before.price, before.currency):
        holds |= {"price": current.price, "currency": current.currency}
    if read.open_day == before.open_day:
        holds["open_day"] = current.open_day
    return replace(read, **holds)


def detect_events(
    before: Mapping[str, CatalogueItem] | None,
    after: Iterable[CatalogueItem],
    today: date,
    rules: Sequence[CustomRule] = (),
) -> list[Event]:
    """What happened between two readings, thing by thing, in the order they were read.

    `before` None: the first reading, when nothing has happened yet. A thing that is gone tells nothing: a catalogue may
    come in parts, and only what it says is sold is sold. What comes back is as it was when it was last seen. A price in
    another currency isn't lowered. An open day counts when it is new and not over.
    """
    if before is None:
        return []
    found: list[Event] = []
    seen: set[str] = set()
    for item in after:
        if item.key in seen:
            continue
        seen.add(item.key)
        was = before.get(item.key)
        found += _arrival_events(item) if was is None else _change_events(was, item, rules)
        if item.open_day is not None and item.open_day >= today and (was is None or was.open_day != item.open_day):
            found.append(Event(EventKind.OPEN_DAY, item))
    return [replace(one, on=today) for one in found]


def _arrival_events(item: CatalogueItem) -> list[Event]:
    kinds = {Availability.COMING: EventKind.COMING, Availability.FREE: EventKind.NEW}
    return [Event(kinds[item.availability], item)] if item.availability in kinds else []


def _change_events(before: CatalogueItem, after: CatalogueItem, rules: Sequence[CustomRule]) -> list[Event]:
    found: list[Event] = []
    if before.availability is not after.availability:
        became = {
            Availability.RESERVED: EventKind.RESERVED,
            Availability.SOLD: EventKind.SOLD,
            Availability.COMING: EventKind.COMING,
        }
        if after.availability in became:
            found.append(Event(became[after.availability], after))
        elif before.availability is Availability.COMING:
            found.append(Event(EventKind.NEW, after))
    lowered = before.price is not None and after.price is not None and after.price < before.price
    if lowered and before.currency == after.currency and after.availability is not Availability.SOLD:
        found.append(Event(EventKind.LOWERED, after, before=before.price))
    found += [Event(EventKind.OWN, after, name=rule.name) for rule in rules if _rule_matches(rule, before, after)]
    return found


def _rule_matches(rule: CustomRule, before: CatalogueItem, after: CatalogueItem) -> bool:
    old_value, new_value = before.more.get(rule.field, "").strip(), after.more.get(rule.field, "").strip()
    if old_value == new_value:
        return False
    if rule.change is FieldChange.CHANGES:
        return True
    if rule.change is FieldChange.BECOMES:
        return new_value.casefold() == rule.value.strip().casefold() != old_value.casefold()
    old, new = parse_number(old_value), parse_number(new_value)
    if old is None or new is None:
        return False
    return new < old if rule.change is FieldChange.FALLS else new > old


def parse_number(text: str) -> Decimal | None:
    """A number as people write it: 1,234.50 and 1.234,50 and 1 234,5; None: it isn't one. The last of a comma and a point is
    the decimal sign, unless it stands alone before three figures."""
    bare = "".join(ch for ch in text if ch.isdigit() or ch in ",.-").strip(".,")
    last = max(bare.rfind(","), bare.rfind("."))
    sign = bare[last] if last >= 0 else ""
    alone = sign and bare.count(sign) == 1 and ("," in bare) != ("." in bare)
    grouped = sign and (bare.count(sign) > 1 or (alone and len(bare) - last - 1 == 3))
    whole, part = (bare, "") if not sign or grouped else (bare[:last], bare[last + 1 :])
    text = whole.replace(",", "").replace(".", "") + (f".{part}" if part else "")
    try:
        return Decimal(text)
    except ArithmeticError:
        return None
