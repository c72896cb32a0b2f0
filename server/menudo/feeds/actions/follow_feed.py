"""Follow a feed, change how, and leave it; several at once by OPML."""

import xml.etree.ElementTree as ET
from collections.abc import Iterator
from dataclasses import dataclass

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException
from django.db import IntegrityError, transaction

from menudo.base import clock
from menudo.base.engine import enqueue_outward
from menudo.base.fetch import FetchError, Page, fetch
from menudo.base.live import publish_change
from menudo.base.problems import InvalidError
from menudo.base.revisions import require_unchanged
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.base.web_addresses import split_address
from menudo.feeds.actions.poll_feed import apply_reading
from menudo.feeds.feed_parser import ACCEPT, NotAFeedError, ParsedFeed, advertised_feeds, parse_feed
from menudo.feeds.models import Feed
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo_core.feeds.pace import LEAST, MOST

_MAX_FEEDS = 300
_MAX_OFFERS = 10
MAX_OPML_BYTES = 2_000_000


@dataclass(frozen=True, slots=True)
class FeedOffer:
    """A feed that an address leads to."""

    address: str
    title: str
    found: ParsedFeed
    page: Page


def find_feeds(context: BrandContext, address: str) -> list[FeedOffer]:
    """The feeds at an address: itself, or those that its page names. Raises InvalidError, at the address."""
    context.require(Capability.WRITE)
    address = address.strip()
    if "://" not in address and "." in address.split("/")[0]:
        address = f"https://{address}"
    page = _fetch_page(address)
    try:
        return [_offer_from(address, page)]
    except NotAFeedError as error:
        if "html" not in page.type:
            raise InvalidError.at("/address", str(error), "no_feed") from error
    offers = []
    for found, title in advertised_feeds(page)[:_MAX_OFFERS]:
        try:
            offer = _offer_from(found, fetch(found, ACCEPT))
            offers.append(FeedOffer(offer.address, title or offer.title, offer.found, offer.page))
        except (FetchError, NotAFeedError):
            continue
    if not offers:
        raise InvalidError.at("/address", say("page.no_feed"))
    return offers


def _fetch_page(address: str) -> Page:
    try:
        return fetch(address, ACCEPT)
    except FetchError as error:
        raise InvalidError.at("/address", str(error), "fetch") from error


def _offer_from(asked: str, page: Page) -> FeedOffer:
    """The feed by the address that was asked for, unless it says that it lives elsewhere from now on (RFC 9110, 15.4)."""
    found = parse_feed(page, clock.now())
    return FeedOffer(page.moved or asked, found.title, found, page)


def follow_feed(context: BrandContext, address: str, shelved: bool, interval: int, title: str = "") -> Feed:
    """Follow the feed at an address; what stands in it now is known and counts as old. Raises InvalidError."""
    context.require(Capability.WRITE)
    _validate(interval, title)
    offers = find_feeds(context, address)
    if len(offers) > 1:
        raise InvalidError.at("/address", say("page.many_feeds", count=len(offers)))
    offer = offers[0]
    with transaction.atomic():
        feed = _create_feed(context, offer.address, title.strip() or offer.title, offer.found.site, shelved, interval)
        record_event(context.brand.pk, context.actor, "follow", "feed", feed.pk, say("feed.followed", name=feed.title))
        apply_reading(feed, offer.page, offer.found, clock.now())
    return Feed.objects.get(pk=feed.pk)


def _create_feed(context: BrandContext, address: str, title: str, site: str, shelved: bool, interval: int) -> Feed:
    if Feed.objects.filter(brand=context.brand).count() >= _MAX_FEEDS:
        raise InvalidError.at("/address", say("feed.many", most=_MAX_FEEDS))
    try:
        with transaction.atomic():
            return Feed.objects.create(
                brand=context.brand,
                address=address[:1000],
                title=title[:200],
                site=site[:1000],
                shelved=shelved,
                interval_minutes=interval,
                next_at=clock.now(),
            )
    except IntegrityError:
        raise InvalidError.at("/address", say("feed.followed_already")) from None


def _validate(interval: int, title: str) -> None:
    least, most = int(LEAST.total_seconds() // 60), int(MOST.total_seconds() // 60)
    if not least <= interval <= most:
        raise InvalidError.at("/interval_minutes", say("reading.interval", least=least, most=most))
    if words := storage_refusal(title):
        raise InvalidError.at("/title", words)


def change_feed(context: BrandContext, feed_id: int, title: str, shelved: bool, interval: int, revision: int) -> Feed:
    """Its title, whether its articles stand on the shelf, and how often it is read. Raises StaleRevisionError, InvalidError, NotFoundError."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        feed = feed_of(context, feed_id, lock=True)
        require_unchanged(revision, feed.revision)
        _validate(interval, title)
        feed.title = title.strip()[:200] or feed.title
        feed.shelved, feed.interval_minutes = shelved, interval
        feed.revision += 1
        feed.save()
        publish_change(context.brand.pk, "feed", feed.pk)
    return feed


def poll_soon(context: BrandContext, feed_id: int) -> Feed:
    """Have it read at once, though it failed or was gone."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        feed = feed_of(context, feed_id, lock=True)
        feed.is_gone, feed.next_at = False, clock.now()
        feed.save(update_fields=["is_gone", "next_at"])
        enqueue_outward("read_feed", f"feed:{feed.pk}", feed.address, feed=feed.pk)
    return feed


def unfollow(context: BrandContext, feed_id: int) -> None:
    """Follow it no more: its articles go with it, what was posted of them stays."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        feed = feed_of(context, feed_id, lock=True)
        record_event(context.brand.pk, context.actor, "leave", "feed", feed.pk, say("feed.left", name=feed.title))
        feed.delete()
        publish_change(context.brand.pk, "feed", feed_id)


def feed_of(context: BrandContext, feed_id: int, lock: bool = False) -> Feed:
    """A feed of the brand. Raises NotFoundError."""
    feeds = Feed.objects.select_for_update() if lock else Feed.objects
    return first_or_404(feeds.filter(brand=context.brand, pk=feed_id))


def import_opml(context: BrandContext, raw: bytes) -> tuple[int, list[str]]:
    """Follow every feed that an OPML 2.0 file names; each is read soon. How many, and those left out with why. Raises
    InvalidError when it is no OPML at all."""
    context.require(Capability.WRITE)
    if len(raw) > MAX_OPML_BYTES:
        raise InvalidError.at("/file", say("opml.large"))
    try:
        tree = ElementTree.fromstring(raw)
    except (ET.ParseError, DefusedXmlException, ValueError) as error:
        raise InvalidError.at("/file", say("opml.unreadable")) from error
    if tree.tag != "opml":
        raise InvalidError.at("/file", say("opml.other_xml"))
    made, left = 0, []
    for address, title in _opml_outlines(tree):
        parts = split_address(address)
        if parts is None:
            left.append(f"{title or address or 'a line'}: it has no web address.")
            continue
        try:
            _create_feed(context, address, title or parts.hostname or "A feed", "", shelved=True, interval=60)
            made += 1
        except InvalidError as invalid:
            left.append(f"{title or address}: {invalid.words}")
    if made:
        record_event(context.brand.pk, context.actor, "follow", "feed", 0, say("feed.imported", count=made))
        publish_change(context.brand.pk, "feed", 0)
    return made, left


def _opml_outlines(tree: ET.Element) -> Iterator[tuple[str, str]]:
    for one in tree.iter("outline"):
        if one.get("xmlUrl") or one.get("type", "").lower() == "rss":
            yield (one.get("xmlUrl") or "").strip(), (one.get("title") or one.get("text") or "").strip()[:200]


def export_opml(context: BrandContext) -> str:
    """The brand's feeds as OPML 2.0."""
    top = ET.Element("opml", version="2.0")
    ET.SubElement(ET.SubElement(top, "head"), "title").text = f"Feeds of {context.brand.name}"
    body = ET.SubElement(top, "body")
    for feed in Feed.objects.filter(brand=context.brand):
        attributes = {"type": "rss", "text": feed.title, "title": feed.title, "xmlUrl": feed.address}
        ET.SubElement(body, "outline", {**attributes, **({"htmlUrl": feed.site} if feed.site else {})})
    ET.indent(top)
    return ET.tostring(top, encoding="unicode", xml_declaration=True)
