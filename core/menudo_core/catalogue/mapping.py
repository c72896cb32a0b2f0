"""Which column of a catalogue says what: guessed from its name, and a row read by it."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from enum import StrEnum

from menudo_core.catalogue.currencies import codes_by_sign
from menudo_core.catalogue.events import Availability, CatalogueItem, parse_number
from menudo_core.text.search_key import fold_case_and_accents


class Field(StrEnum):
    KEY = "key"
    TITLE = "title"
    PRICE = "price"
    CURRENCY = "currency"
    STANDING = "standing"
    OPEN_DAY = "open_day"
    LINK = "link"
    PICTURE = "picture"
    ABOUT = "about"


# What columns are called, in sheets and in schema.org (Product, Offer, Event; from memory); the likeliest first.
_COLUMN_NAMES = {
    Field.KEY: ("key", "sku", "id", "ref", "reference", "code", "number", "productid", "identifier"),
    Field.TITLE: ("title", "name", "product", "item", "headline"),
    Field.PRICE: ("price", "offers.price", "lowprice", "amount", "cost", "rent"),
    Field.CURRENCY: ("currency", "pricecurrency", "offers.pricecurrency"),
    Field.STANDING: ("standing", "state", "status", "availability", "offers.availability"),
    Field.OPEN_DAY: ("openday", "open", "viewing", "startdate"),
    Field.LINK: ("link", "url", "address", "page"),
    Field.PICTURE: ("picture", "image", "photo", "img", "imageurl"),
    Field.ABOUT: ("about", "description", "text", "summary", "details"),
}
_AVAILABILITY_WORDS = {
    Availability.FREE: (
        "",
        "free",
        "available",
        "in stock",
        "instock",
        "for sale",
        "to let",
        "onlineonly",
        "limitedavailability",
    ),
    Availability.RESERVED: ("reserved", "on hold", "under offer", "option", "backorder"),
    Availability.SOLD: ("sold", "sold out", "soldout", "out of stock", "outofstock", "let", "gone", "discontinued"),
    Availability.COMING: ("coming", "coming soon", "soon", "preorder", "presale", "pre order", "announced"),
}
_PRICE = re.compile(r"^\D*[\d][\d\s.,']*\D*$")


@dataclass(frozen=True, slots=True)
class ParsedRow:
    """A row as it was understood; `faults` say by column what wasn't."""

    item: CatalogueItem
    link: str = ""
    picture: str = ""
    about: str = ""
    faults: tuple[tuple[str, str], ...] = ()


def guess_mapping(columns: Sequence[str]) -> dict[str, str]:
    """Field by column, as far as the columns' names tell; no column serves twice."""
    bare = {column: re.sub(r"[^a-z0-9.]", "", fold_case_and_accents(column)) for column in columns}
    found: dict[str, str] = {}
    for field, names in _COLUMN_NAMES.items():
        for name in names:
            hit = next(
                (c for c in columns if c not in found.values() and name in (bare[c], bare[c].rsplit(".", 1)[-1])), None
            )
            if hit is not None:
                found[field.value] = hit
                break
    return found


def missing_fields(mapping: Mapping[str, str], columns: Sequence[str]) -> dict[str, str]:
    """What a mapping lacks, by field: a key and a title there must be, and columns must be there."""
    found = {}
    for field in (Field.KEY, Field.TITLE):
        if not mapping.get(field):
            found[field.value] = "Say which column this is."
    for name, column in mapping.items():
        if column and column not in columns:
            found[name] = f"There is no column “{column}”."
    return found


def parse_row(row: Mapping[str, str], mapping: Mapping[str, str]) -> ParsedRow:
    """A row by a mapping. What can't be understood is told, and taken as not said."""

    def cell(field: Field) -> str:
        return " ".join(row.get(mapping.get(field, ""), "").split())

    faults: list[tuple[str, str]] = []
    key, title = cell(Field.KEY), cell(Field.TITLE)
    faults += [(field.value, "It is empty.") for field, text in ((Field.KEY, key), (Field.TITLE, title)) if not text]
    price, price_text = None, cell(Field.PRICE)
    if price_text:
        price = parse_number(price_text) if _PRICE.match(price_text) else None
        if price is None:
            faults.append((Field.PRICE.value, f"“{price_text[:30]}” is no price."))
    currency = cell(Field.CURRENCY).upper()[:3] or next(
        (code for sign, code in codes_by_sign().items() if sign in price_text), ""
    )
    standing, word = Availability.FREE, fold_case_and_accents(cell(Field.STANDING)).replace("_", " ").replace("-", " ")
    # schema.org says it as an address (ItemAvailability).
    word = word.rsplit("/", 1)[-1]
    hit = next((one for one, words in _AVAILABILITY_WORDS.items() if word in words), None)
    if hit is None:
        faults.append((Field.STANDING.value, f"“{word[:30]}” is no standing: free, reserved, sold or coming soon."))
    else:
        standing = hit
    day, opens = None, cell(Field.OPEN_DAY)
    if opens:
        day = _parse_day(opens)
        if day is None:
            faults.append((Field.OPEN_DAY.value, f"“{opens[:30]}” is no day. Write it like 2027-03-31."))
    placed = set(mapping.values())
    more = {name: value for name, value in row.items() if name not in placed and value.strip()}
    item = CatalogueItem(key[:200], title[:300], price, currency, standing, day, more)
    return ParsedRow(
        item,
        _web_address(cell(Field.LINK)),
        _web_address(cell(Field.PICTURE)),
        row.get(mapping.get(Field.ABOUT, ""), "").strip()[:4000],
        tuple(faults),
    )


def with_currency(row: ParsedRow, currency: str) -> ParsedRow:
    """The same with a currency where its row says none."""
    return (
        row if row.item.currency or row.item.price is None else replace(row, item=replace(row.item, currency=currency))
    )


def _parse_day(text: str) -> date | None:
    try:
        return date.fromisoformat(text[:10])
    except ValueError:
        return None


def _web_address(text: str) -> str:
    return text if text.startswith(("http://", "https://")) and len(text) <= 2000 else ""
