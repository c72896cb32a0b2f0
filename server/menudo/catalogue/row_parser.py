"""Catalogues as they are found: CSV, JSON, and schema.org's JSON-LD in a page or by itself, each read into rows of cells."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from menudo.base.html import linked_data, parse_html
from menudo_core.plans.table import InvalidTableError, parse_table

MAX_ROWS = 2000
_MAX_DEPTH = 6
_ITEM_TYPES = (
    "Product",
    "Offer",
    "Event",
    "Accommodation",
    "Apartment",
    "House",
    "Vehicle",
    "Car",
    "IndividualProduct",
)


class NotACatalogueError(ValueError):
    """It isn't a catalogue; the text says why, for people."""


@dataclass(frozen=True, slots=True)
class Rows:
    """The columns in the order they were met, and the rows by column."""

    columns: list[str]
    rows: list[dict[str, str]]


def parse_rows(body: bytes, kind: str = "") -> Rows:
    """The rows in a file or page; what it is is found by its content, `kind` (a media type) helps. Raises NotACatalogueError."""
    start = body.lstrip(b"\xef\xbb\xbf \t\r\n")[:1]
    if start in (b"{", b"["):
        return _parse_json(body)
    if start == b"<" or "html" in kind:
        return _parse_page(body)
    try:
        table = parse_table(body)
    except InvalidTableError as bad:
        raise NotACatalogueError(str(bad)) from bad
    if len(table.header) < 2:
        raise NotACatalogueError("That has only one column. A catalogue has a key and a title at least.")
    rows = [dict(zip(table.header, cells, strict=False)) for _, cells in table.rows]
    return Rows([name for name in table.header if name], rows)


def _parse_json(body: bytes) -> Rows:
    try:
        document = json.loads(body.decode("utf-8-sig", "replace"))
    except (ValueError, RecursionError) as error:
        raise NotACatalogueError("It begins like JSON and can't be read as JSON.") from error
    found = list(_linked_data_items(document)) or _find_list(document)
    return _flatten_all(found)


def _find_list(document: Any) -> list[dict[str, Any]]:
    """The list of things: the whole, or the longest list of objects in it."""
    if isinstance(document, list):
        return [one for one in document if isinstance(one, dict)]
    lists = [value for value in document.values() if isinstance(value, list)] if isinstance(document, dict) else []
    return max(([one for one in value if isinstance(one, dict)] for value in lists), key=len, default=[])


def _parse_page(body: bytes) -> Rows:
    found: list[dict[str, Any]] = []
    for said in linked_data(parse_html(body)):
        found += _linked_data_items(said)
    if not found:
        raise NotACatalogueError("That page tells of no things in a form that can be read (JSON-LD of schema.org).")
    return _flatten_all(found)


def _linked_data_items(node: Any, deep: int = 0) -> Iterator[dict[str, Any]]:
    """The things of schema.org in a JSON-LD document, also those inside a graph or a list."""
    if deep > _MAX_DEPTH:
        return
    if isinstance(node, list):
        for one in node:
            yield from _linked_data_items(one, deep + 1)
    elif isinstance(node, dict):
        kinds = node.get("@type", "")
        names = kinds if isinstance(kinds, list) else [kinds]
        if any(str(kind).rsplit("/", 1)[-1] in _ITEM_TYPES for kind in names):
            yield node
            return
        for name in ("@graph", "itemListElement", "item", "hasOfferCatalog", "makesOffer", "mainEntity", "itemOffered"):
            if name in node:
                yield from _linked_data_items(node[name], deep + 1)


def _flatten_all(found: list[dict[str, Any]]) -> Rows:
    if not found:
        raise NotACatalogueError("There is no list of things in it.")
    rows = [dict(_flatten(one)) for one in found[:MAX_ROWS]]
    columns = list(dict.fromkeys(name for row in rows for name in row if not name.startswith("@")))
    return Rows(columns[:200], rows)


def _flatten(item: dict[str, Any], before: str = "", deep: int = 0) -> Iterator[tuple[str, str]]:
    """Names joined by points; of a list its first; everything as text."""
    for name, value in item.items():
        first = value[0] if isinstance(value, list) and value else value
        if isinstance(first, dict):
            # A picture or an offer may be an object with the address or price in it.
            if "url" in first and name in ("image", "photo", "picture"):
                yield f"{before}{name}", str(first["url"])
            elif deep < _MAX_DEPTH:
                yield from _flatten(first, f"{before}{name}.", deep + 1)
        elif isinstance(first, str | int | float) and not isinstance(first, bool):
            yield f"{before}{name}", str(first)
