"""What is said of a happening: the words of its banner, and the facts for its message."""

from datetime import date
from decimal import Decimal

from menudo_core.catalogue.currencies import signs_by_code
from menudo_core.catalogue.events import EventKind

EVENT_TITLES = {
    EventKind.NEW: "New in",
    EventKind.LOWERED: "Price lowered",
    EventKind.RESERVED: "Reserved",
    EventKind.SOLD: "Sold",
    EventKind.OPEN_DAY: "Open day",
    EventKind.COMING: "Coming soon",
}
STANDARD_MESSAGES = {
    EventKind.NEW: "{event}: {title}, {price}.\n\n{about 200}",
    EventKind.LOWERED: "{title} is now {price} (it was {before}).\n\n{about 200}",
    EventKind.RESERVED: "{title} is reserved.",
    EventKind.SOLD: "{title} has found its new home.",
    EventKind.OPEN_DAY: "Open day on {open_day}: {title}.\n\n{about 200}",
    EventKind.COMING: "Coming soon: {title}.\n\n{about 200}",
    EventKind.OWN: "{event}: {title}.\n\n{about 200}",
}


def format_price(price: Decimal | None, currency: str) -> str:
    """A price as people write it in English: € 12.50, € 1,200, CHF 80."""
    if price is None:
        return ""
    figures = f"{price:,.0f}" if price == price.to_integral_value() else f"{price:,.2f}"
    return f"{signs_by_code().get(currency, currency)} {figures}".strip()


def format_day(day: date | None) -> str:
    return f"{day:%A} {day.day} {day:%B}" if day else ""
