"""Read a catalogue again: its things are kept, and what happened since the last reading is noted once."""

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

import structlog
from django.db import transaction

from menudo.base import clock
from menudo.base.engine import enqueue
from menudo.base.fetch import FetchError, fetch
from menudo.base.live import publish_change
from menudo.base.sentences import say
from menudo.catalogue.event_facts import event_facts
from menudo.catalogue.models import Catalogue, CatalogueEvent, CatalogueItem
from menudo.catalogue.row_parser import NotACatalogueError, Rows, parse_rows
from menudo.catalogue.serializers import load_last_reading, store_event_facts, store_reading
from menudo.people.actions.notify_planners import notify_planners
from menudo.people.models import User
from menudo_core.catalogue import events as core
from menudo_core.catalogue.mapping import ParsedRow, missing_fields, parse_row, with_currency
from menudo_core.feeds.pace import NOTIFY_AFTER_FAILURES, next_poll_at

log = structlog.get_logger(__name__)
ACCEPT = "application/ld+json, application/json, text/csv, text/html;q=0.8"


def poll_catalogue(catalogue_id: int) -> int:
    """Ask the catalogue's site, and note when to ask again. How many things happened."""
    catalogue = Catalogue.objects.select_related("brand").filter(pk=catalogue_id).exclude(address="").first()
    if catalogue is None:
        return 0
    now = clock.now()
    try:
        page = fetch(catalogue.address, ACCEPT, validators=(catalogue.etag, catalogue.modified))
        found = None if page.unchanged else parse_rows(page.body, page.type)
    except (FetchError, NotACatalogueError) as error:
        _note_failure(catalogue, str(error), now)
        return 0
    except Exception:
        _note_failure(catalogue, "Menudo broke over what its site sent.", now)
        raise
    if found is not None and (lacks := missing_fields(catalogue.mapping, found.columns)):
        _note_failure(catalogue, "Its columns are others than they were. " + next(iter(lacks.values())), now)
        return 0
    count = apply_reading(catalogue, found, now) if found is not None else 0
    etag, modified = page.validators
    Catalogue.objects.filter(pk=catalogue.pk).update(
        etag=etag,
        modified=modified,
        failure_count=0,
        last_error="",
        read_at=now,
        next_at=next_poll_at(now, timedelta(minutes=catalogue.interval_minutes), 0),
    )
    return count


def apply_reading(catalogue: Catalogue, found: Rows, now: datetime, by: User | None = None) -> int:
    """Keep a reading and what happened since the last. Rows without a key or a title are left out. How many happened."""
    with transaction.atomic():
        catalogue = (
            Catalogue.objects.select_for_update(of=("self",), no_key=True).select_related("brand").get(pk=catalogue.pk)
        )
        known = {item.key: item for item in catalogue.items.all()}
        reads = [with_currency(parse_row(row, catalogue.mapping), catalogue.currency) for row in found.rows]
        good: dict[str, ParsedRow] = {}
        for one in reads:
            if one.item.key and one.item.title:
                good.setdefault(one.item.key, one)
        before = {key: _core_item(item) for key, item in known.items()} if catalogue.read_at is not None else None
        today = brand_date(catalogue, now)
        stand = {key: _stored_item(known.get(key), one.item) for key, one in good.items()}
        happened = core.detect_events(before, stand.values(), today, custom_rules(catalogue))
        items = {key: _save_item(catalogue, known.get(key), one, stand[key], now) for key, one in good.items()}
        for event in happened:
            save_event(catalogue, items[event.item.key], event, now, by)
        Catalogue.objects.filter(pk=catalogue.pk).update(read_at=now, failure_count=0, last_error="")
        publish_change(catalogue.brand_id, "catalogue", catalogue.pk)
    return len(happened)


def _stored_item(item: CatalogueItem | None, read: core.CatalogueItem) -> core.CatalogueItem:
    if item is None or not item.last_reading:
        return read
    return core.merge_reading(_core_item(item), load_last_reading(item), read)


def _save_item(
    catalogue: Catalogue, item: CatalogueItem | None, one: ParsedRow, stands: core.CatalogueItem, now: datetime
) -> CatalogueItem:
    item = item or CatalogueItem(catalogue=catalogue, key=one.item.key)
    if item.picture != one.picture:
        item.asset = None
    for name in ("title", "price", "currency", "availability", "open_day"):
        setattr(item, name, getattr(stands, name))
    item.last_reading = store_reading(one.item)
    item.link, item.picture, item.about = one.link, one.picture, one.about
    item.more, item.last_seen_at = dict(one.item.more), now
    item.save()
    return item


def save_event(
    catalogue: Catalogue, item: CatalogueItem, event: core.Event, now: datetime, by: User | None = None
) -> CatalogueEvent | None:
    """Note that something happened, once; None where it was known."""
    enqueue("round_of_relays")
    made, fresh = CatalogueEvent.objects.get_or_create(
        catalogue=catalogue,
        dedup_key=event.dedup_key[:400],
        defaults={
            "item": item,
            "kind": event.happened,
            "name": event.name,
            "values": store_event_facts(event_facts(item, event)),
            "occurred_at": now,
            "created_by": by,
        },
    )
    return made if fresh else None


def brand_date(catalogue: Catalogue, now: datetime) -> date:
    """The day it is in the brand's zone."""
    return now.astimezone(ZoneInfo(catalogue.brand.zone)).date()


def custom_rules(catalogue: Catalogue) -> list[core.CustomRule]:
    """The brand's own events, as the core has them."""
    return [
        core.CustomRule(r["name"], r["field"], core.FieldChange(r["change"]), r.get("value", ""))
        for r in catalogue.rules
    ]


def _core_item(item: CatalogueItem) -> core.CatalogueItem:
    return core.CatalogueItem(
        item.key,
        item.title,
        item.price,
        item.currency,
        core.Availability(item.availability),
        item.open_day,
        item.more,
    )


def _note_failure(catalogue: Catalogue, words: str, now: datetime) -> None:
    fails = catalogue.failure_count + 1
    Catalogue.objects.filter(pk=catalogue.pk).update(
        failure_count=fails,
        last_error=words[:300],
        next_at=next_poll_at(now, timedelta(minutes=catalogue.interval_minutes), fails),
    )
    if fails == NOTIFY_AFTER_FAILURES:
        message = say("catalogue.failing", name=catalogue.name, reason=words)
        notify_planners(
            catalogue.brand, "trouble", f"catalogue:{catalogue.pk}:{now:%Y%m%d}", message, "relays/catalogue"
        )
    publish_change(catalogue.brand_id, "catalogue", catalogue.pk)
