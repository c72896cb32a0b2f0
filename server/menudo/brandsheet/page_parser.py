"""What a brand's own page says of it: title, description, Open Graph, schema.org, colours, contact, feeds."""

import json
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any
from urllib.parse import urljoin, urlsplit

from bs4 import BeautifulSoup

_ORGANISATIONS = re.compile(
    r"(Organization|Business|Store|Restaurant|Bakery|Museum|Park|Corporation|Attraction|Place|Garden|School|NGO)$"
)
_HEX = re.compile(r"^#?([0-9a-f]{3}|[0-9a-f]{6})$", re.IGNORECASE)
_PHONE = re.compile(r"^\+?[\d\s().-]{6,30}$")


@dataclass(frozen=True, slots=True)
class PageFact:
    """One thing the page says. `part` is a path into the brand sheet."""

    part: str
    value: str | list[str]
    source: str


def parse_page(html: str, address: str) -> list[PageFact]:
    """Everything of use on the page, the best source of each part first found; nothing is guessed."""
    soup = BeautifulSoup(html, "html.parser")
    found: dict[str, PageFact] = {}
    for one in (*_schema_facts(soup), *_open_graph_facts(soup), *_head_facts(soup, address), *_body_facts(soup)):
        if one.value and one.part not in found:
            found[one.part] = one
    return list(found.values())


def logo_candidates(html: str, address: str) -> list[str]:
    """Addresses of what may be the logo, likeliest first."""
    soup = BeautifulSoup(html, "html.parser")
    out = [
        str(o["logo"]["url"] if isinstance(o.get("logo"), dict) else o["logo"])
        for o in _organisations(soup)
        if o.get("logo")
    ]
    for rel in ("apple-touch-icon", "icon"):
        out += [str(tag["href"]) for tag in soup.find_all("link", rel=rel, href=True)]
    out += [str(tag["content"]) for tag in soup.find_all("meta", property="og:image", content=True)]
    return list(dict.fromkeys(urljoin(address, one) for one in out))


def _organisations(soup: BeautifulSoup) -> Iterator[dict[str, Any]]:
    for tag in soup.find_all("script", type="application/ld+json"):
        try:
            document = json.loads(tag.string or "")
        except ValueError:
            continue
        queue = (
            document
            if isinstance(document, list)
            else document.get("@graph", [document])
            if isinstance(document, dict)
            else []
        )
        for one in queue if isinstance(queue, list) else []:
            if not isinstance(one, dict):
                continue
            kinds = one.get("@type", "")
            if any(_ORGANISATIONS.search(str(kind)) for kind in (kinds if isinstance(kinds, list) else [kinds])):
                yield one


def _schema_facts(soup: BeautifulSoup) -> Iterator[PageFact]:
    for one in _organisations(soup):
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


def _open_graph_facts(soup: BeautifulSoup) -> Iterator[PageFact]:
    properties = {
        str(t["property"]): str(t["content"]).strip() for t in soup.find_all("meta", property=True, content=True)
    }
    yield PageFact("name", properties.get("og:site_name", ""), "Open Graph")
    yield PageFact("about", properties.get("og:description", ""), "Open Graph")


def _head_facts(soup: BeautifulSoup, address: str) -> Iterator[PageFact]:
    named = {
        str(t["name"]).lower(): str(t["content"]).strip()
        for t in soup.find_all("meta", attrs={"name": True}, content=True)
    }
    yield PageFact("site", address, "the address")
    yield PageFact("about", named.get("description", ""), "the page's description")
    title = soup.title.get_text(strip=True) if soup.title else ""
    yield PageFact("name", re.split(r"\s[|–—·-]\s", title)[0].strip(), "the page's title")
    keywords = [w.strip() for w in named.get("keywords", "").split(",") if w.strip()]
    yield PageFact("topics", keywords[:20], "the page's keywords")
    colour = _hex_colour(named.get("theme-color", ""))
    yield PageFact("colours", [colour] if colour else [], "the page's theme colour")
    lang = str(soup.html.get("lang", "")) if soup.html else ""
    yield PageFact(
        "language", lang if re.fullmatch(r"[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*", lang) else "", "the page's language"
    )
    kinds = re.compile(r"application/(rss\+xml|atom\+xml|feed\+json)")
    feeds = [urljoin(address, str(t["href"])) for t in soup.find_all("link", rel="alternate", type=kinds, href=True)]
    yield PageFact("feeds", list(dict.fromkeys(feeds)), "the page's feeds")


def _body_facts(soup: BeautifulSoup) -> Iterator[PageFact]:
    yield PageFact("contact/email", _first_link(soup, "mailto:", lambda v: "@" in v), "a mail link")
    yield PageFact("contact/phone", _first_link(soup, "tel:", lambda v: bool(_PHONE.match(v))), "a telephone link")


def _first_link(soup: BeautifulSoup, scheme: str, good: Any) -> str:
    links: Iterable[str] = (str(a["href"]) for a in soup.find_all("a", href=True))
    values = (urlsplit(h).path.strip() for h in links if h.lower().startswith(scheme))
    return next((v for v in values if good(v)), "")


def _hex_colour(text: str) -> str:
    match = _HEX.match(text.strip())
    if match is None:
        return ""
    digits = match.group(1).lower()
    return "#" + (digits if len(digits) == 6 else "".join(d * 2 for d in digits))
