"""What a brand's own page says of it: title, description, Open Graph, schema.org, colours, contact, feeds."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from lxml.html import HtmlElement

from menudo.base.html import elements, linked_data, named_metadata, parse_html, words_of
from menudo.base.web_addresses import absolute_address

_ORGANISATIONS = re.compile(
    r"(Organization|Business|Store|Restaurant|Bakery|Museum|Park|Corporation|Attraction|Place|Garden|School|NGO)$"
)
_HEX = re.compile(r"^#?([0-9a-f]{3}|[0-9a-f]{6})$", re.IGNORECASE)
# Where the address ends and what is asked of it begins (RFC 6068, 2; RFC 3966, 3).
_MAIL_PARTS = re.compile(r"[?#]")
_FEEDS = re.compile(r"application/(rss\+xml|atom\+xml|feed\+json)")
_PHONE = re.compile(r"^\+?[\d\s().-]{6,30}$")


@dataclass(frozen=True, slots=True)
class PageFact:
    """One thing the page says. `part` is a path into the brand sheet."""

    part: str
    value: str | list[str]
    source: str


def parse_page(page: HtmlElement | str, address: str) -> list[PageFact]:
    """Everything of use on the page, the best source of each part first found; nothing is guessed."""
    document = parse_html(page) if isinstance(page, str) else page
    found: dict[str, PageFact] = {}
    for one in (
        *_schema_facts(document),
        *_open_graph_facts(document),
        *_head_facts(document, address),
        *_body_facts(document),
    ):
        if one.value and one.part not in found:
            found[one.part] = one
    return list(found.values())


def logo_candidates(page: HtmlElement | str, address: str) -> list[str]:
    """Addresses of what may be the logo, likeliest first."""
    document = parse_html(page) if isinstance(page, str) else page
    out = [
        str(o["logo"]["url"] if isinstance(o.get("logo"), dict) else o["logo"])
        for o in _organisations(document)
        if o.get("logo")
    ]
    for rel in ("apple-touch-icon", "icon"):
        out += [e.get("href", "") for e in elements(document, "link", having=("href",)) if rel in words_of(e, "rel")]
    out += [
        e.get("content", "")
        for e in elements(document, "meta", having=("property", "content"))
        if e.get("property") == "og:image"
    ]
    found = (absolute_address(address, str(one)) for one in out)
    return list(dict.fromkeys(one for one in found if one))


def _organisations(document: HtmlElement) -> Iterator[dict[str, Any]]:
    for said in linked_data(document):
        queue = said if isinstance(said, list) else said.get("@graph", [said]) if isinstance(said, dict) else []
        for one in queue if isinstance(queue, list) else []:
            if not isinstance(one, dict):
                continue
            kinds = one.get("@type", "")
            if any(_ORGANISATIONS.search(str(kind)) for kind in (kinds if isinstance(kinds, list) else [kinds])):
                yield one


def _schema_facts(document: HtmlElement) -> Iterator[PageFact]:
    for one in _organisations(document):
        source = f"schema.org {one.get('@type')}"
        for part, key in (
            ("name", "name"),
            ("about", "description"),
            ("contact/email", "email"),
            ("contact/phone", "telephone"),
        ):
            if isinstance(one.get(key), str):
                yield PageFact(part, one[key].removeprefix("mailto:").strip(), source)
        address = one.get("address")
        if isinstance(address, dict):
            keys = ("streetAddress", "postalCode", "addressLocality", "addressRegion")
            yield PageFact("contact/address", ", ".join(str(address[k]) for k in keys if address.get(k)), source)
            country = str(address.get("addressCountry") or "")
            if re.fullmatch("[A-Z]{2}", country):
                yield PageFact("country", country, source)
        elif isinstance(address, str):
            yield PageFact("contact/address", address, source)


def _open_graph_facts(document: HtmlElement) -> Iterator[PageFact]:
    properties = named_metadata(document, "property")
    yield PageFact("name", properties.get("og:site_name", ""), "Open Graph")
    yield PageFact("about", properties.get("og:description", ""), "Open Graph")


def _head_facts(document: HtmlElement, address: str) -> Iterator[PageFact]:
    named = {name.lower(): said for name, said in named_metadata(document, "name").items()}
    yield PageFact("site", address, "the address")
    yield PageFact("about", named.get("description", ""), "the page's description")
    title = " ".join((document.findtext(".//title") or "").split())
    yield PageFact("name", re.split(r"\s[|–—·-]\s", title)[0].strip(), "the page's title")
    keywords = [w.strip() for w in named.get("keywords", "").split(",") if w.strip()]
    yield PageFact("topics", keywords[:20], "the page's keywords")
    colour = _hex_colour(named.get("theme-color", ""))
    yield PageFact("colours", [colour] if colour else [], "the page's theme colour")
    lang = document.get("lang", "")
    yield PageFact(
        "language", lang if re.fullmatch(r"[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*", lang) else "", "the page's language"
    )
    feeds = (
        absolute_address(address, e.get("href", ""))
        for e in elements(document, "link", having=("href", "type"))
        if "alternate" in words_of(e, "rel") and _FEEDS.match(e.get("type", ""))
    )
    yield PageFact("feeds", list(dict.fromkeys(one for one in feeds if one)), "the page's feeds")


def _body_facts(document: HtmlElement) -> Iterator[PageFact]:
    yield PageFact("contact/email", _first_link(document, "mailto:", lambda v: "@" in v), "a mail link")
    yield PageFact("contact/phone", _first_link(document, "tel:", lambda v: bool(_PHONE.match(v))), "a telephone link")


def _first_link(document: HtmlElement, scheme: str, good: Any) -> str:
    links = (element.get("href", "") for element in elements(document, "a", having=("href",)))
    values = (_MAIL_PARTS.split(h[len(scheme) :])[0].strip() for h in links if h.lower().startswith(scheme))
    return next((v for v in values if good(v)), "")


def _hex_colour(text: str) -> str:
    match = _HEX.match(text.strip())
    if match is None:
        return ""
    digits = match.group(1).lower()
    return "#" + (digits if len(digits) == 6 else "".join(d * 2 for d in digits))
