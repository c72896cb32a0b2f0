"""Atom documents: entries as they are sent (RFC 4287), and what service documents, feeds and entries say (RFC 5023).

What comes from a network is never trusted to be well formed: what can't be read is None or empty, and nothing raises.
"""

import html
from dataclasses import dataclass
from datetime import UTC, datetime
from xml.etree.ElementTree import Element, ParseError, SubElement, register_namespace, tostring

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from menudo.base import clock
from menudo.base.html import elements, parse_html
from menudo.base.web_addresses import absolute_address
from menudo.networks.protocol import OutgoingPost

ATOM, APP = "{http://www.w3.org/2005/Atom}", "{http://www.w3.org/2007/app}"
ENTRY_TYPE = "application/atom+xml;type=entry"
# Deeper than this nothing is read: a document that is all nesting would break whoever walks it.
_MAX_DEPTH = 100
register_namespace("", ATOM[1:-1])
register_namespace("app", APP[1:-1])


@dataclass(frozen=True, slots=True)
class Member:
    """An entry of a collection. `edited` in UTC; None: the blog doesn't say. `url` is where people read it."""

    id: str
    url: str
    edit: str
    published: datetime | None
    edited: datetime | None
    draft: bool
    entry: Element


def parse_document(body: bytes) -> Element | None:
    """The root of an XML document; None where it can't be read, declares entities or is nested too deeply."""
    try:
        root: Element = fromstring(body)
    except (ParseError, DefusedXmlException, ValueError, LookupError):
        return None
    level = [root]
    for _ in range(_MAX_DEPTH):
        level = [child for element in level for child in element]
        if not level:
            return root
    return None


def element_text(element: Element | None) -> str:
    """An element's words, on one line."""
    return " ".join("".join(element.itertext()).split()) if element is not None else ""


def link_address(element: Element | None, rel: str) -> str:
    """The address of a link; one that says no relation is an alternate (RFC 4287, 4.2.7.2)."""
    links = element.findall(f"{ATOM}link") if element is not None else []
    return next((one.get("href", "") for one in links if one.get("rel", "alternate") == rel), "")


def accepts_type(collection: Element, content_type: str) -> bool:
    """Whether a collection takes a media type; one that says nothing takes entries (RFC 5023, 8.3.4)."""
    accepted = [element_text(one) for one in collection.findall(f"{APP}accept")]
    ranges = {part.strip().replace(" ", "").lower() for one in (accepted or [ENTRY_TYPE]) for part in one.split(",")}
    if content_type == ENTRY_TYPE:
        return ENTRY_TYPE in ranges
    return bool(ranges & {content_type, f"{content_type.split('/')[0]}/*", "*/*"})


def parse_instant(element: Element | None) -> datetime | None:
    """A date construct (RFC 4287, 3.3), in UTC."""
    try:
        at = datetime.fromisoformat(element_text(element))
        return at.astimezone(UTC) if at.tzinfo else None
    except (ValueError, OverflowError):
        return None


def member_of(entry: Element, base: str) -> Member:
    """What an entry of a feed at `base` says."""
    draft = element_text(entry.find(f"{APP}control/{APP}draft")).lower() == "yes"
    published = parse_instant(entry.find(f"{ATOM}published")) or parse_instant(entry.find(f"{ATOM}updated"))
    edited = parse_instant(entry.find(f"{APP}edited")) or parse_instant(entry.find(f"{ATOM}updated"))
    url, edit = (
        absolute_address(base, link_address(entry, "alternate")),
        absolute_address(base, link_address(entry, "edit")),
    )
    return Member(element_text(entry.find(f"{ATOM}id")), url, edit, published, edited, draft, entry)


def entry_id(key: str) -> str:
    """The id of the entry that is published under a key."""
    return f"urn:uuid:{key}"


def build_entry(key: str, post: OutgoingPost) -> bytes:
    """The post as an entry: its words in a block of their own, then its media; its link is related."""
    root = Element(f"{ATOM}entry")
    first = next((line.strip() for line in post.text.splitlines() if line.strip()), "")
    SubElement(root, f"{ATOM}id").text = entry_id(key)
    SubElement(root, f"{ATOM}title").text = post.fields.get("title") or first[:80]
    SubElement(root, f"{ATOM}updated").text = clock.now().astimezone(UTC).isoformat(timespec="seconds")
    content = SubElement(root, f"{ATOM}content", {"type": "html"})
    content.text = _text_block(post.text) + "".join(_figure(m.url, m.alt) for m in post.media)
    if post.link:
        SubElement(root, f"{ATOM}link", {"rel": "related", "href": post.link})
    SubElement(SubElement(root, f"{APP}control"), f"{APP}draft").text = "no"
    return bytes(tostring(root, "utf-8", xml_declaration=True))


def replace_text(entry: Element, text: str) -> bytes:
    """An entry with other words in its block; its media stay."""
    content = entry.find(f"{ATOM}content")
    if content is None:
        content = SubElement(entry, f"{ATOM}content")
    _, block, rest = (content.text or "").partition("</div>")
    content.attrib.update({"type": "html"})
    content.text = _text_block(text) + (rest if block else "")
    return bytes(tostring(entry, "utf-8", xml_declaration=True))


def _text_block(text: str) -> str:
    lines = html.escape(text, quote=False).replace("\r\n", "\n").split("\n")
    return f"<div>{'<br>'.join(lines)}</div>"


def _figure(url: str, alt: str) -> str:
    return f'<p><img src="{html.escape(url)}" alt="{html.escape(alt)}"></p>'


def member_content(member: Member) -> tuple[str, tuple[tuple[str, str, str], ...]]:
    """A member's words, and its media: address, kind and alt text of each."""
    content = member.entry.find(f"{ATOM}content")
    if content is None:
        return element_text(member.entry.find(f"{ATOM}summary")), ()
    if content.get("type", "text") == "text":
        return (content.text or "").strip()[:20_000], ()
    document = parse_html(content.text or "" if content.get("type") == "html" else tostring(content, "unicode"))
    media = [
        (
            absolute_address(member.url, element.get("src", "")),
            "video" if element.tag == "video" else "picture",
            element.get("alt", "")[:1000],
        )
        for element in elements(document, "img", "video", having=("src",))
    ]
    for gap in elements(document, "br"):
        gap.text = "\n"
    return str(document.text_content()).strip()[:20_000], tuple(one for one in media if one[0])[:20]
