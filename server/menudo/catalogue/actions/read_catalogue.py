"""Read a catalogue again: its things are kept, and what happened since the last reading is noted once."""

from datetime import date, datetime, timedelta
from decimal import Decimal
from typing import Any
from zoneinfo import ZoneInfo

import structlog
from django.db import transaction

from menudo.base import clock
from menudo.base.engine import soon
from menudo.base.fetch import CantFetch, fetch
from menudo.base.live import tell
from menudo.catalogue.models import Catalogue, Happening, Thing
from menudo.catalogue.reading import NoCatalogue, Rows, rows_of
from menudo.people.actions.tell_planners import tell_planners
from menudo.people.models import User
from menudo_core.catalogue import events as core
from menudo_core.catalogue.mapping import Read, missing, read, with_currency
from menudo_core.catalogue.said import WORDS, day_words, price_words
from menudo_core.feeds.pace import TELL_AFTER, next_reading

log = structlog.get_logger(__name__)
ACCEPT = "application/ld+json, application/json, text/csv, text/html;q=0.8"


def read_catalogue(id: int) -> int:
    """Ask the catalogue's site, and note when to ask again. How many things happened."""
    catalogue = Catalogue.objects.select_related("brand").filter(pk=id).exclude(address="").first()
    if catalogue is None:
        return 0
    now = clock.now()
    try:
        page = fetch(catalogue.address, ACCEPT, marks=(catalogue.etag, catalogue.modified))
        found = None if page.unchanged else rows_of(page.body, page.type)
    except (CantFetch, NoCatalogue) as error:
        _failed(catalogue, str(error), now)
        return 0
    except Exception:
        _failed(catalogue, "Menudo broke over what its site sent.", now)
        raise
    if found is not None and (lacks := missing(catalogue.mapping, found.columns)):
        _failed(catalogue, "Its columns are others than they were. " + next(iter(lacks.values())), now)
        return 0
    count = take_in(catalogue, found, now) if found is not None else 0
    etag, modified = page.marks
    Catalogue.objects.filter(pk=catalogue.pk).update(
        etag=etag, modified=modified, fails=0,
        trouble="", read_at=now, next_at=next_reading(now, timedelta(minutes=catalogue.every), 0),
    )  # fmt: skip
    return count


def take_in(catalogue: Catalogue, found: Rows, now: datetime, by: User | None = None) -> int:
    """Keep a reading and what happened since the last. Rows without a key or a title are left out. How many happened."""
    with transaction.atomic():
        catalogue = Catalogue.objects.select_for_update(of=("self",)).select_related("brand").get(pk=catalogue.pk)
        known = {thing.key: thing for thing in catalogue.things.all()}
        reads = [with_currency(read(row, catalogue.mapping), catalogue.currency) for row in found.rows]
        good: dict[str, Read] = {}
        for one in reads:
            if one.thing.key and one.thing.title:
                good.setdefault(one.thing.key, one)
        before = {key: _core(thing) for key, thing in known.items()} if catalogue.read_at is not None else None
        today = day_there(catalogue, now)
        stand = {key: _stands(known.get(key), one.thing) for key, one in good.items()}
        happened = core.events(before, stand.values(), today, rules_of(catalogue))
        things = {key: _keep(catalogue, known.get(key), one, stand[key], now) for key, one in good.items()}
        for event in happened:
            note(catalogue, things[event.thing.key], event, now, by)
        Catalogue.objects.filter(pk=catalogue.pk).update(read_at=now, fails=0, trouble="")
        tell(catalogue.brand_id, "catalogue", catalogue.pk)
    return len(happened)


def _stands(thing: Thing | None, read: core.Thing) -> core.Thing:
    if thing is None or not thing.read:
        return read
    return core.heeded(_core(thing), _as_read(thing), read)


def _as_read(thing: Thing) -> core.Thing:
    said = thing.read
    return core.Thing(
        thing.key, thing.title, said["price"] and Decimal(said["price"]), said["currency"],
        core.Standing(said["standing"]), said["open_day"] and date.fromisoformat(said["open_day"]),
    )  # fmt: skip


def _keep(catalogue: Catalogue, thing: Thing | None, one: Read, stands: core.Thing, now: datetime) -> Thing:
    thing = thing or Thing(catalogue=catalogue, key=one.thing.key)
    if thing.picture != one.picture:
        thing.asset = None
    for name in ("title", "price", "currency", "standing", "open_day"):
        setattr(thing, name, getattr(stands, name))
    said = one.thing
    thing.read = {
        "price": None if said.price is None else str(said.price), "currency": said.currency, "standing": said.standing,
        "open_day": said.open_day and said.open_day.isoformat(),
    }  # fmt: skip
    thing.link, thing.picture, thing.about = one.link, one.picture, one.about
    thing.more, thing.seen = dict(one.thing.more), now
    thing.save()
    return thing


def note(
    catalogue: Catalogue, thing: Thing, event: core.Event, now: datetime, by: User | None = None
) -> Happening | None:
    """Note that something happened, once; None where it was known."""
    said = said_of(thing, event)
    soon("round_of_relays")
    made, fresh = Happening.objects.get_or_create(
        catalogue=catalogue, known_by=event.known_by[:400],
        defaults={"thing": thing, "happened": event.happened, "name": event.name, "said": said, "at": now, "by": by},
    )  # fmt: skip
    return made if fresh else None


def said_of(thing: Thing, event: core.Event) -> dict[str, Any]:
    """The facts for its message and banner."""
    return {
        "event": event.name if event.happened is core.Happened.OWN else WORDS[event.happened], "title": thing.title,
        "price": price_words(thing.price, thing.currency), "before": price_words(event.before, thing.currency),
        "open_day": day_words(thing.open_day), "about": thing.about, "link": thing.link,
    }  # fmt: skip


def day_there(catalogue: Catalogue, now: datetime) -> date:
    """The day it is in the brand's zone."""
    return now.astimezone(ZoneInfo(catalogue.brand.zone)).date()


def rules_of(catalogue: Catalogue) -> list[core.OwnRule]:
    """The brand's own events, as the core has them."""
    return [
        core.OwnRule(r["name"], r["field"], core.FieldChange(r["change"]), r.get("value", "")) for r in catalogue.rules
    ]


def _core(thing: Thing) -> core.Thing:
    return core.Thing(
        thing.key, thing.title, thing.price, thing.currency, core.Standing(thing.standing), thing.open_day, thing.more
    )


def _failed(catalogue: Catalogue, words: str, now: datetime) -> None:
    fails = catalogue.fails + 1
    Catalogue.objects.filter(pk=catalogue.pk).update(
        fails=fails, trouble=words[:300], next_at=next_reading(now, timedelta(minutes=catalogue.every), fails)
    )
    if fails == TELL_AFTER:
        told = f"The catalogue {catalogue.name} can't be read. {words}"
        tell_planners(catalogue.brand, "trouble", f"catalogue:{catalogue.pk}:{now:%Y%m%d}", told, "relays/catalogue")
    tell(catalogue.brand_id, "catalogue", catalogue.pk)
