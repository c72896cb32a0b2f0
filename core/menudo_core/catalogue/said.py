"""What is said of a happening: the words of its banner, and the facts for its message."""

from datetime import date
from decimal import Decimal

from menudo_core.catalogue.currencies import signs
from menudo_core.catalogue.events import Happened

WORDS = {
    Happened.NEW: "New in", Happened.LOWERED: "Price lowered", Happened.RESERVED: "Reserved", Happened.SOLD: "Sold",
    Happened.OPEN_DAY: "Open day", Happened.COMING: "Coming soon",
}  # fmt: skip
MESSAGES = {
    Happened.NEW: "{event}: {title}, {price}.\n\n{about 200}",
    Happened.LOWERED: "{title} is now {price} (it was {before}).\n\n{about 200}",
    Happened.RESERVED: "{title} is reserved.",
    Happened.SOLD: "{title} has found its new home.",
    Happened.OPEN_DAY: "Open day on {open_day}: {title}.\n\n{about 200}",
    Happened.COMING: "Coming soon: {title}.\n\n{about 200}",
    Happened.OWN: "{event}: {title}.\n\n{about 200}",
}


def price_words(price: Decimal | None, currency: str) -> str:
    """A price as people write it in English: € 12.50, € 1,200, CHF 80."""
    if price is None:
        return ""
    figures = f"{price:,.0f}" if price == price.to_integral_value() else f"{price:,.2f}"
    return f"{signs().get(currency, currency)} {figures}".strip()


def day_words(day: date | None) -> str:
    return f"{day:%A} {day.day} {day:%B}" if day else ""
