"""Follow a feed, change how, and leave it; several at once by OPML."""

import xml.etree.ElementTree as ET
from collections.abc import Iterator
from dataclasses import dataclass
from urllib.parse import urlsplit

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException
from django.db import IntegrityError, transaction

from menudo.base import clock
from menudo.base.engine import outward
from menudo.base.fetch import CantFetch, Page, fetch
from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.base.revisions import unchanged
from menudo.base.rows import the_one
from menudo.feeds.actions.read_feed import take_in
from menudo.feeds.models import Feed
from menudo.feeds.reading import ACCEPT, Found, NoFeed, feeds_of, read
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.feeds.pace import LEAST, MOST
from menudo_core.text.clean import unusable

_MOST_FEEDS = 300
_MOST_FOUND = 10


@dataclass(frozen=True, slots=True)
class Offer:
    """A feed that an address leads to."""

    address: str
    title: str
    found: Found
    page: Page


def look(place: Here, address: str) -> list[Offer]:
    """The feeds at an address: itself, or those that its page names. Raises Invalid, at the address."""
    place.needs(May.WRITE)
    address = address.strip()
    if "://" not in address and "." in address.split("/")[0]:
        address = f"https://{address}"
    page = _fetched(address)
    try:
        return [_offer(address, page)]
    except NoFeed as error:
        if "html" not in page.type:
            raise Invalid.at("/address", str(error), "no_feed") from error
    offers = []
    for found, title in feeds_of(page)[:_MOST_FOUND]:
        try:
            offer = _offer(found, fetch(found, ACCEPT))
            offers.append(Offer(offer.address, title or offer.title, offer.found, offer.page))
        except (CantFetch, NoFeed):
            continue
    if not offers:
        raise Invalid.at(
            "/address", "That page names no feed that can be read. Give the feed's own address.", "no_feed"
        )
    return offers


def _fetched(address: str) -> Page:
    try:
        return fetch(address, ACCEPT)
    except CantFetch as error:
        raise Invalid.at("/address", str(error), "fetch") from error


def _offer(asked: str, page: Page) -> Offer:
    """The feed by the address that was asked for, unless it says that it lives elsewhere from now on (RFC 9110, 15.4)."""
    found = read(page, clock.now())
    return Offer(page.moved or asked, found.title, found, page)


def follow(place: Here, address: str, shelved: bool, every: int, title: str = "") -> Feed:
    """Follow the feed at an address; what stands in it now is known and counts as old. Raises Invalid."""
    place.needs(May.WRITE)
    _fits(every, title)
    offers = look(place, address)
    if len(offers) > 1:
        raise Invalid.at("/address", f"That page has {len(offers)} feeds. Choose one.", "several")
    offer = offers[0]
    with transaction.atomic():
        feed = _made(place, offer.address, title.strip() or offer.title, offer.found.site, shelved, every)
        record(place.brand.pk, place.actor, "follow", "feed", feed.pk, f"follows the feed {feed.title}")
        take_in(feed, offer.page, offer.found, clock.now())
    return Feed.objects.get(pk=feed.pk)


def _made(place: Here, address: str, title: str, site: str, shelved: bool, every: int) -> Feed:
    if Feed.objects.filter(brand=place.brand).count() >= _MOST_FEEDS:
        raise Invalid.at("/address", f"A brand follows {_MOST_FEEDS} feeds at most.", "many")
    try:
        with transaction.atomic():
            return Feed.objects.create(
                brand=place.brand, address=address[:1000], title=title[:200], site=site[:1000], shelved=shelved,
                every=every, next_at=clock.now(),
            )  # fmt: skip
    except IntegrityError:
        raise Invalid.at("/address", "This feed is followed already.", "twice") from None


def _fits(every: int, title: str) -> None:
    least, most = int(LEAST.total_seconds() // 60), int(MOST.total_seconds() // 60)
    if not least <= every <= most:
        raise Invalid.at("/every", f"Read it every {least} minutes to every {most}.", "range")
    if words := unusable(title):
        raise Invalid.at("/title", words)


def change(place: Here, id: int, title: str, shelved: bool, every: int, began: int) -> Feed:
    """Its title, whether its articles stand on the shelf, and how often it is read. Raises Stale, Invalid, NotFound."""
    place.needs(May.WRITE)
    with transaction.atomic():
        feed = feed_of(place, id, lock=True)
        unchanged(began, feed.revision)
        _fits(every, title)
        feed.title = title.strip()[:200] or feed.title
        feed.shelved, feed.every = shelved, every
        feed.revision += 1
        feed.save()
        tell(place.brand.pk, "feed", feed.pk)
    return feed


def read_soon(place: Here, id: int) -> Feed:
    """Have it read at once, though it failed or was gone."""
    place.needs(May.WRITE)
    with transaction.atomic():
        feed = feed_of(place, id, lock=True)
        feed.gone, feed.next_at = False, clock.now()
        feed.save(update_fields=["gone", "next_at"])
        outward("read_feed", f"feed:{feed.pk}", feed.address, feed=feed.pk)
    return feed


def leave(place: Here, id: int) -> None:
    """Follow it no more: its articles go with it, what was posted of them stays."""
    place.needs(May.WRITE)
    with transaction.atomic():
        feed = feed_of(place, id, lock=True)
        record(place.brand.pk, place.actor, "leave", "feed", feed.pk, f"follows the feed {feed.title} no more")
        feed.delete()
        tell(place.brand.pk, "feed", id)


def feed_of(place: Here, id: int, lock: bool = False) -> Feed:
    """A feed of the brand. Raises NotFound."""
    feeds = Feed.objects.select_for_update() if lock else Feed.objects
    return the_one(feeds.filter(brand=place.brand, pk=id))


def bring_opml(place: Here, raw: bytes) -> tuple[int, list[str]]:
    """Follow every feed that an OPML 2.0 file names; each is read soon. How many, and those left out with why. Raises
    Invalid when it is no OPML at all."""
    place.needs(May.WRITE)
    try:
        tree = ElementTree.fromstring(raw)
    except (ET.ParseError, DefusedXmlException, ValueError) as error:
        raise Invalid.at(
            "/file", "That can't be read as OPML: it is no XML, or it declares entities.", "unreadable"
        ) from error
    if tree.tag != "opml":
        raise Invalid.at("/file", "That is XML, but no OPML.", "no_opml")
    made, left = 0, []
    for address, title in _outlines(tree):
        if urlsplit(address).scheme not in ("http", "https"):
            left.append(f"{title or address or 'a line'}: it has no web address.")
            continue
        try:
            _made(place, address, title or urlsplit(address).hostname or "A feed", "", shelved=True, every=60)
            made += 1
        except Invalid as invalid:
            left.append(f"{title or address}: {invalid.words}")
    if made:
        record(place.brand.pk, place.actor, "follow", "feed", 0, f"follows {made} feeds from an OPML file")
        tell(place.brand.pk, "feed", 0)
    return made, left


def _outlines(tree: ET.Element) -> Iterator[tuple[str, str]]:
    for one in tree.iter("outline"):
        if one.get("xmlUrl") or one.get("type", "").lower() == "rss":
            yield (one.get("xmlUrl") or "").strip(), (one.get("title") or one.get("text") or "").strip()[:200]


def opml(place: Here) -> str:
    """The brand's feeds as OPML 2.0."""
    top = ET.Element("opml", version="2.0")
    ET.SubElement(ET.SubElement(top, "head"), "title").text = f"Feeds of {place.brand.name}"
    body = ET.SubElement(top, "body")
    for feed in Feed.objects.filter(brand=place.brand):
        said = {"type": "rss", "text": feed.title, "title": feed.title, "xmlUrl": feed.address}
        ET.SubElement(body, "outline", {**said, **({"htmlUrl": feed.site} if feed.site else {})})
    ET.indent(top)
    return ET.tostring(top, encoding="unicode", xml_declaration=True)
