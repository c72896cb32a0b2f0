"""Feeds as they are found: RSS 2.0 and Atom (RFC 4287) by feedparser, JSON Feed 1.1, a page's own word of where its are."""

import calendar
import json
import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any
from urllib.parse import urlsplit

import feedparser
import feedparser.mixin

from menudo.base.fetch import Page
from menudo.base.html import elements, parse_html, words_of
from menudo.base.numbers import parse_whole_number
from menudo.base.web_addresses import absolute_address
from menudo.feeds.html_text import collapse_whitespace, html_to_text
from menudo_core.feeds.entry import Entry

ACCEPT = "application/atom+xml, application/rss+xml, application/feed+json, application/xml;q=0.9, text/html;q=0.5"
# Minutes.
_MAX_TTL = 30 * 24 * 60
MAX_ENTRIES = 300
_MAX_ELEMENTS = 50_000
_BROKEN = "That is not a feed, or it is too broken to be read."
_PROLOG = re.compile(r"(?:\s+|<\?.*?\?>|<!--.*?-->)*", re.DOTALL)
_DOCTYPE_TOKEN = re.compile(r"\"[^\"]*\"|'[^']*'|<!--.*?-->|<\?.*?\?>|[\[\]>]", re.DOTALL)
_KINDS = {"application/rss+xml", "application/atom+xml", "application/feed+json"}
_LEAP = re.compile(r"(T\d\d:\d\d:)60")
_AGE = re.compile(r"max-age=(\d+)")


# An id is an opaque string (RSS 2.0, guid; RFC 4287, 4.2.6.1): it isn't resolved against where the feed stands. feedparser
# has no other way to say so.
feedparser.mixin._FeedParserMixin.can_be_relative_uri.discard("id")


class NotAFeedError(ValueError):
    """It isn't a feed; the text says why, for people."""


@dataclass(frozen=True, slots=True)
class ParsedFeed:
    """A feed as it was read. `ttl`: how long it asks to be left alone."""

    title: str
    site: str
    language: str
    entries: tuple[Entry, ...]
    ttl: timedelta | None = None


def parse_feed(page: Page, now: datetime) -> ParsedFeed:
    """The feed in a page. Raises NotAFeedError."""
    body = page.body.lstrip(b"\xef\xbb\xbf \t\r\n")
    if body[:1] == b"{":
        return _parse_json_feed(page, now)
    if _declares_entities(page.body):
        raise NotAFeedError("It declares entities of its own, which can be made to swell. Such a feed is not read.")
    # feedparser takes a tenth of a millisecond for each.
    if page.body.count(b"<") > _MAX_ELEMENTS:
        raise NotAFeedError("It has more elements than a feed that can be read.")
    said = {"content-location": page.address, "content-type": page.type}
    try:
        parsed = feedparser.parse(page.body, response_headers=said)
    except Exception as error:
        # Whatever somebody else's parser breaks over is the feed's fault, and no other feed's trouble.
        raise NotAFeedError(_BROKEN) from error
    if not parsed.get("version"):
        raise NotAFeedError(_BROKEN)
    about = parsed.feed
    # An entry without an author has its feed's (RFC 4287, 4.2.1).
    author = _author_of(about) if str(parsed.version).startswith("atom") else ""
    entries = (_parse_entry(one, page.address, now, author) for one in parsed.entries[:MAX_ENTRIES])
    ttl = parse_whole_number(about.get("ttl", ""), _MAX_TTL)
    return ParsedFeed(
        _text_of(about, "title") or (urlsplit(page.address).hostname or "A feed"),
        absolute_address(page.address, about.get("link", "")),
        str(about.get("language", ""))[:35],
        tuple(one for one in entries if one is not None),
        None if ttl is None else timedelta(minutes=ttl),
    )


def _declares_entities(body: bytes) -> bool:
    """Whether its document type declares entities. Only what stands before the root element declares; elsewhere, in a CDATA
    section say, the same words are text (XML 1.0, 2.7 and 2.8)."""
    coding = "utf-16" if body[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8"
    text = body.replace(b"\0", b"").decode("latin-1") if coding == "utf-8" else body.decode(coding, "replace")
    text = text.removeprefix("ï»¿").removeprefix("\ufeff")
    prolog = _PROLOG.match(text)
    start = prolog.end() if prolog else 0
    if text[start : start + 9].upper() != "<!DOCTYPE":
        return False
    # Its own declarations stand between brackets, where it has any; quoted values and comments may hold brackets too.
    begins = _first_mark(text, start, "[>")
    if begins is None or text[begins] == ">":
        return False
    ends = _first_mark(text, begins, "]")
    return "<!ENTITY" in text[begins:ends].upper()


def _first_mark(text: str, start: int, marks: str) -> int | None:
    """Where the first of these marks stands from `start` on, outside quotation marks, comments and instructions."""
    for token in _DOCTYPE_TOKEN.finditer(text, start):
        if token.group() in marks:
            return token.start()
    return None


def advertised_feeds(page: Page) -> list[tuple[str, str]]:
    """The feeds that a web page names by `link rel=alternate`, each with its title: the usual autodiscovery. Addresses go by the
    page's first `base` (HTML, 2.4.3), types in any case and with parameters (RFC 9110, 8.3.1)."""
    document = parse_html(page.text)
    named = next(elements(document, "base", having=("href",)), None)
    base = absolute_address(page.address, named.get("href", "")) if named is not None else ""
    found: dict[str, str] = {}
    for element in elements(document, "link", having=("href",)):
        kind = element.get("type", "").partition(";")[0].strip().lower()
        address = absolute_address(base or page.address, element.get("href", ""))
        if "alternate" in words_of(element, "rel") and kind in _KINDS and address:
            found.setdefault(address, element.get("title", ""))
    return list(found.items())


def requested_wait(page: Page, found: ParsedFeed | None) -> timedelta | None:
    """How long the site asks to be left alone: the longer of the feed's own word and Cache-Control's max-age (RFC 9111)."""
    age = _AGE.search(page.headers.get("Cache-Control", ""))
    waits = [found.ttl if found else None, timedelta(seconds=int(age.group(1)[:7])) if age else None]
    return max((one for one in waits if one is not None), default=None)


def _parse_entry(one: Any, base: str, now: datetime, author: str) -> Entry | None:
    contents = one.get("content") or [{}]
    plain = contents[0].get("type") == "text/plain"
    text = _text_of(one, "summary") or (collapse_whitespace if plain else html_to_text)(contents[0].get("value", ""))
    entry = Entry(
        id=str(one.get("id", ""))[:500],
        title=_text_of(one, "title")[:500],
        link=absolute_address(base, one.get("link", "")),
        summary=text[:4000],
        author=(_author_of(one) or author)[:200],
        at=_published_at(one.get("published_parsed") or one.get("updated_parsed"), now),
        tags=_tag_names(tag.get("term", "") for tag in one.get("tags", ())),
        picture=absolute_address(base, _picture_of(one, contents)),
    )
    return entry if entry.title or entry.link or entry.summary else None


def _text_of(one: Any, name: str) -> str:
    """A text of feedparser's: what it takes for plain text is plain, and `<T>` in it is no element."""
    plain = (one.get(f"{name}_detail") or {}).get("type") == "text/plain"
    return (collapse_whitespace if plain else html_to_text)(one.get(name, ""))


def _author_of(one: Any) -> str:
    return html_to_text((one.get("author_detail") or {}).get("name") or one.get("author", ""))


def _picture_of(one: Any, contents: Any) -> str:
    """Its picture: media:content and thumbnail, an enclosure, an itunes image, else the first in its text."""
    for medium in [*one.get("media_content", ()), *one.get("media_thumbnail", ())]:
        kind = str(medium.get("type") or medium.get("medium") or "image")
        if medium.get("url") and kind.startswith("image"):
            return str(medium["url"])
    for enclosure in one.get("enclosures", ()):
        if str(enclosure.get("type", "")).startswith("image/") and enclosure.get("href"):
            return str(enclosure["href"])
    image = one.get("image") or {}
    if isinstance(image, dict) and image.get("href"):
        return str(image["href"])
    for html in (one.get("summary", ""), contents[0].get("value", "")):
        if "<img" in str(html):
            picture = next(elements(parse_html(str(html)), "img", having=("src",)), None)
            if picture is not None:
                return str(picture.get("src"))
    return ""


def _published_at(parsed: Any, now: datetime) -> datetime | None:
    """When it was published; None where it isn't said, can't be read, or is far in the time to come."""
    if not parsed:
        return None
    try:
        at = datetime.fromtimestamp(calendar.timegm(parsed), UTC)
    except (ValueError, OverflowError, OSError):
        return None
    return at if datetime(1990, 1, 1, tzinfo=UTC) < at <= now + timedelta(days=1) else None


def _parse_json_feed(page: Page, now: datetime) -> ParsedFeed:
    """JSON Feed 1.1 (jsonfeed.org/version/1.1); 1.0 names its one author another way."""
    try:
        document = json.loads(page.body.decode("utf-8-sig", "replace"))
    except (ValueError, RecursionError) as error:
        raise NotAFeedError("It begins like JSON and can't be read as JSON.") from error
    if not isinstance(document, dict) or not str(document.get("version", "")).startswith(
        "https://jsonfeed.org/version/1"
    ):
        raise NotAFeedError("It is JSON, but no JSON Feed.")
    items = document.get("items")
    authors = _json_author_names(document)
    entries = [
        _parse_json_entry(one, page.address, now, authors)
        for one in (items if isinstance(items, list) else [])[:MAX_ENTRIES]
    ]
    return ParsedFeed(
        collapse_whitespace(_text_or_empty(document.get("title"))) or "A feed",
        absolute_address(page.address, _text_or_empty(document.get("home_page_url"))),
        _text_or_empty(document.get("language"))[:35],
        tuple(one for one in entries if one is not None),
    )


def _parse_json_entry(one: Any, base: str, now: datetime, authors: str) -> Entry | None:
    if not isinstance(one, dict):
        return None
    entry_id, tags = one.get("id"), one.get("tags")
    link = _text_or_empty(one.get("url")) or _text_or_empty(one.get("external_url"))
    plain = _text_or_empty(one.get("summary")) or _text_or_empty(one.get("content_text"))
    body = collapse_whitespace(plain) or html_to_text(_text_or_empty(one.get("content_html")))
    entry = Entry(
        id=str(entry_id)[:500] if isinstance(entry_id, str | int | float) else "",
        title=collapse_whitespace(_text_or_empty(one.get("title")))[:500],
        link=absolute_address(base, link),
        summary=body[:4000],
        author=(_json_author_names(one) or authors)[:200],
        at=_json_published_at(_text_or_empty(one.get("date_published")), now),
        tags=_tag_names(tags if isinstance(tags, list) else ()),
        picture=absolute_address(base, _text_or_empty(one.get("image")) or _text_or_empty(one.get("banner_image"))),
    )
    return entry if entry.title or entry.link or entry.summary else None


def _json_author_names(value: Any) -> str:
    """The names of the authors of an item, or of the feed for those items that name none; version 1.0 has one."""
    authors = value.get("authors") or ([value["author"]] if isinstance(value.get("author"), dict) else [])
    names = (
        [collapse_whitespace(_text_or_empty(a.get("name"))) for a in authors if isinstance(a, dict)]
        if isinstance(authors, list)
        else []
    )
    return ", ".join(name for name in names if name)


def _json_published_at(value: str, now: datetime) -> datetime | None:
    """RFC 3339, as the format asks for: `t` and `z` may be small, and a leap second is a second (5.6)."""
    try:
        at = datetime.fromisoformat(_LEAP.sub(r"\g<1>59", value.strip().upper()))
    except ValueError:
        return None
    if at.tzinfo is None or not 1990 <= at.year <= 9000:
        return None
    at = at.astimezone(UTC)
    return at if at <= now + timedelta(days=1) else None


def _text_or_empty(value: Any) -> str:
    return value if isinstance(value, str) else ""


def _tag_names(value: Iterable[Any]) -> tuple[str, ...]:
    found = (html_to_text(one)[:100] for one in value if isinstance(one, str))
    return tuple(dict.fromkeys(one for one in found if one))[:30]
