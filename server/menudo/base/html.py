"""Pages of others, read in time that grows with their length and no faster (libxml2's HTML tokenizer), and as far as a limit."""

import json
import re
from collections.abc import Iterator
from typing import Any

from lxml import etree, html

# What a page says of itself stands at its beginning.
_MAX_BYTES = 500_000
# An element's attributes are looked through for each of them: beyond this a tag is left out, which could hold nothing of use.
_LONG_TAG = re.compile(rb"<[a-zA-Z][^<>]{4000,}")


def parse_html(page: str | bytes) -> html.HtmlElement:
    """The document; an empty one where there is nothing to read. What is nested too deep is left out. Raises nothing."""
    data = page.encode("utf-8", "replace") if isinstance(page, str) else page
    data = _LONG_TAG.sub(b"<i", data[:_MAX_BYTES])
    parser = html.HTMLParser(
        encoding=None if isinstance(page, bytes) and not _is_utf8(data) else "utf-8",
        remove_comments=True,
        remove_pis=True,
        # Deeper and longer than its usual limits: the length is ours to limit.
        huge_tree=True,
    )
    try:
        return html.document_fromstring(data, parser=parser)
    except (etree.LxmlError, ValueError, AssertionError):
        return html.Element("html")


def _is_utf8(data: bytes) -> bool:
    try:
        data.decode("utf-8")
    except UnicodeDecodeError as error:
        # What was cut off within a character at the limit.
        return error.end == len(data) and error.start > len(data) - 4
    return True


def elements(document: html.HtmlElement, *names: str, having: tuple[str, ...] = ()) -> Iterator[html.HtmlElement]:
    """The elements of these names that have these attributes, as they stand."""
    for element in document.iter(*names):
        if all(element.get(name) is not None for name in having):
            yield element


def words_of(element: html.HtmlElement, name: str) -> list[str]:
    """The words of an attribute that holds several (HTML, 2.3.7: rel, class), in small letters."""
    return (element.get(name) or "").lower().split()


def named_metadata(document: html.HtmlElement, attribute: str) -> dict[str, str]:
    """What the page's `meta` elements say, by their name or property; the last of each counts."""
    found = elements(document, "meta", having=(attribute, "content"))
    return {element.get(attribute, ""): element.get("content", "").strip() for element in found}


def linked_data(document: html.HtmlElement) -> Iterator[Any]:
    """What the page says in JSON-LD, one document after another; what can't be read is passed over."""
    for element in elements(document, "script", having=("type",)):
        if element.get("type", "").strip().lower() == "application/ld+json":
            try:
                yield json.loads(element.text or "")
            except (ValueError, RecursionError):
                continue
