"""Atom entries as the blogs read and tell them (RFC 4287), with code of their own."""

import hashlib
import html
import json
import re
from datetime import UTC, datetime
from html.parser import HTMLParser
from typing import Any
from xml.etree.ElementTree import Element, ParseError, SubElement, register_namespace, tostring

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from flask import Response, request, url_for

from menudo_standin.pace import menudo_time

ATOM, APP = "{http://www.w3.org/2005/Atom}", "{http://www.w3.org/2007/app}"
register_namespace("", ATOM[1:-1])
register_namespace("app", APP[1:-1])


class InvalidEntryError(Exception):
    """What came is no Atom entry."""


class _Content(HTMLParser):
    """The words of an entry's first block, and the pictures after it."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.text, self.media, self._inside = "", list[tuple[str, str]](), 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        attributes = dict(attrs)
        if tag == "div":
            self._inside = 1 if self._inside == 0 else self._inside
        elif tag == "br" and self._inside == 1:
            self.text += "\n"
        elif tag == "img" and attributes.get("src"):
            self.media.append((str(attributes["src"]), str(attributes.get("alt") or "")))

    def handle_endtag(self, tag: str) -> None:
        if tag == "div" and self._inside == 1:
            self._inside = 2

    def handle_data(self, data: str) -> None:
        if self._inside == 1:
            self.text += data


def read_entry(data: bytes) -> dict[str, Any]:
    """What an entry says (RFC 4287, 4.1.2)."""
    try:
        root = fromstring(data)
    except (ParseError, DefusedXmlException, ValueError):
        raise InvalidEntryError from None
    if root.tag != f"{ATOM}entry":
        raise InvalidEntryError
    content = root.find(f"{ATOM}content")
    seen = _Content()
    if content is not None and content.get("type") == "html":
        seen.feed(content.text or "")
        seen.close()
    elif content is not None:
        seen.text = "".join(content.itertext())
    related = [link.get("href", "") for link in root.findall(f"{ATOM}link") if link.get("rel") == "related"]
    return {
        "id": (root.findtext(f"{ATOM}id") or "").strip(),
        "title": (root.findtext(f"{ATOM}title") or "").strip(),
        "text": seen.text,
        "media": seen.media,
        "link": related[0] if related else "",
        "published": root.findtext(f"{ATOM}published") or "",
        "draft": (root.findtext(f"{APP}control/{APP}draft") or "no").strip() == "yes",
    }


def stored_body(entry: dict[str, Any], media: list[dict[str, Any]]) -> dict[str, Any]:
    kept = ("url", "alt", "width", "height", "kind", "people", "words", "words_at", "cover", "focus")
    return {
        "text": entry["text"],
        "form": "post",
        "link": entry["link"],
        "title": entry["title"],
        "button": "",
        "fields": {},
        "card": None,
        "media": [{name: one[name] for name in kept} for one in media],
    }


def build_entry(row: Any) -> Element:
    body = json.loads(row["body"])
    entry = Element(f"{ATOM}entry")
    SubElement(entry, f"{ATOM}id").text = body.get("atom_id") or f"tag:foolscap,2026:{row['id']}"
    SubElement(entry, f"{ATOM}title").text = body.get("title", "")
    SubElement(SubElement(entry, f"{ATOM}author"), f"{ATOM}name").text = row["uid"]
    SubElement(entry, f"{ATOM}published").text = format_date(row["at"])
    for name in (f"{ATOM}updated", f"{APP}edited"):
        SubElement(entry, name).text = format_date(edited_at(row))
    content = SubElement(entry, f"{ATOM}content", {"type": "html"})
    words = html.escape(body["text"], quote=False).replace("\n", "<br>")
    pictures = (f'<p><img src="{html.escape(m["url"])}" alt="{html.escape(m["alt"])}"></p>' for m in body["media"])
    content.text = f"<div>{words}</div>{''.join(pictures)}"
    address = f"{request.host_url.rstrip('/')}/{row['network']}"
    SubElement(entry, f"{ATOM}link", {"rel": "alternate", "type": "text/html", "href": f"{address}/p/{row['id']}"})
    SubElement(
        entry,
        f"{ATOM}link",
        {
            "rel": "edit",
            "href": url_for("atom.handle_member", network=row["network"], post_id=row["id"], _external=True),
        },
    )
    if body.get("link"):
        SubElement(entry, f"{ATOM}link", {"rel": "related", "href": body["link"]})
    SubElement(SubElement(entry, f"{APP}control"), f"{APP}draft").text = "yes" if row["gone"] == 0 else "no"
    return entry


def edited_at(row: Any) -> float:
    return float(json.loads(row["body"]).get("edited_at") or row["at"])


def entity_tag(row: Any) -> str:
    return f'"{hashlib.sha256(row["body"].encode()).hexdigest()[:24]}"'


def format_date(at: float) -> str:
    return datetime.fromtimestamp(at, UTC).isoformat(timespec="milliseconds")


def published_time(published: str) -> float:
    """When an entry says that it was published; never later than now."""
    try:
        return min(datetime.fromisoformat(re.sub("[zZ]$", "+00:00", published)).timestamp(), menudo_time())
    except ValueError:
        return menudo_time()


def xml_response(root: Element, kind: str, status: int = 200, **headers: str) -> Response:
    return Response(tostring(root, "utf-8", xml_declaration=True), status, {**headers, "Content-Type": kind})
