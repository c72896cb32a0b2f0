"""Make, change and delete catalogues; bring a file; say by hand what happened."""

from datetime import date
from decimal import Decimal

from django.db import transaction

from menudo.base import clock
from menudo.base.fetch import FetchError, fetch
from menudo.base.live import publish_change
from menudo.base.problems import ConflictError, Fault, InvalidError
from menudo.base.revisions import require_unchanged
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.catalogue.actions.poll_catalogue import ACCEPT, apply_reading, brand_date, custom_rules, save_event
from menudo.catalogue.models import Catalogue, CatalogueEvent, CatalogueItem
from menudo.catalogue.row_parser import NotACatalogueError, Rows, parse_rows
from menudo.catalogue.schemas import CatalogueIn
from menudo.catalogue.serializers import load_event_facts
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo_core.catalogue import events as core
from menudo_core.catalogue.mapping import missing_fields
from menudo_core.feeds.pace import LEAST, MOST

MAX_BYTES = 5_000_000


def inspect_catalogue(context: BrandContext, address: str, raw: bytes | None) -> Rows:
    """The rows at an address, or in a file. Raises InvalidError, at what was given."""
    context.require(Capability.WRITE)
    pointer = "/file" if raw is not None else "/address"
    try:
        if raw is not None:
            if len(raw) > MAX_BYTES:
                raise InvalidError.at(pointer, say("catalogue.large"))
            return parse_rows(raw)
        page = fetch(address.strip(), ACCEPT)
        return parse_rows(page.body, page.type)
    except (FetchError, NotACatalogueError) as error:
        raise InvalidError.at(pointer, str(error), "unreadable") from error


def save_catalogue(
    context: BrandContext,
    catalogue_id: int | None,
    data: CatalogueIn,
    raw: bytes | None = None,
    revision: int | None = None,
) -> Catalogue:
    """A catalogue made (`catalogue_id` None) and first read, when nothing has happened yet; or changed. Raises InvalidError, StaleRevisionError,
    NotFoundError."""
    context.require(Capability.PUBLISH)
    faults, name = [], " ".join(data.name.split())
    if words := storage_refusal(name) or (None if name else say("catalogue.nameless")):
        faults.append(Fault("/name", words))
    least, most = int(LEAST.total_seconds() // 60), int(MOST.total_seconds() // 60)
    if not least <= data.interval_minutes <= most:
        faults.append(Fault("/interval_minutes", say("reading.interval", least=least, most=most)))
    faults += [
        Fault(
            f"/rules/{n}/name",
            storage_refusal(rule.name) or say("event.nameless"),
        )
        for n, rule in enumerate(data.rules)
        if not rule.name.strip() or storage_refusal(rule.name)
    ]
    was = Catalogue.objects.filter(brand=context.brand, pk=catalogue_id).first() if catalogue_id is not None else None
    # While its site is down the rest can be changed all the same.
    other = was is None or (was.address, was.mapping) != (data.address.strip(), dict(data.mapping))
    rows = (
        inspect_catalogue(context, data.address, raw)
        if raw is not None or (other and (catalogue_id is None or data.address))
        else None
    )
    if rows is not None:
        faults += [
            Fault(f"/mapping/{field}", words) for field, words in missing_fields(data.mapping, rows.columns).items()
        ]
    if faults:
        raise InvalidError(faults=faults)
    with transaction.atomic():
        one = (
            catalogue_of(context, catalogue_id, lock=True)
            if catalogue_id is not None
            else Catalogue(brand=context.brand)
        )
        if revision is not None:
            require_unchanged(revision, one.revision)
        one.name, one.address, one.interval_minutes = name, data.address.strip(), data.interval_minutes
        if other or one.currency != data.currency.upper():
            # Read otherwise than before, it begins anew: what only looks different then hasn't happened.
            one.etag, one.modified, one.read_at = "", "", None
        one.mapping, one.currency = dict(data.mapping), data.currency.upper()
        one.rules = [rule.model_dump() for rule in data.rules]
        one.next_at = clock.now() if one.address else None
        one.revision += 1 if catalogue_id is not None else 0
        one.save()
        record_event(
            context.brand.pk,
            context.actor,
            "keep_catalogue",
            "catalogue",
            one.pk,
            say("catalogue.made" if catalogue_id is None else "catalogue.changed", name=name),
        )
        if catalogue_id is None and rows is not None:
            apply_reading(one, rows, clock.now(), context.user)
        publish_change(context.brand.pk, "catalogue", one.pk)
    return Catalogue.objects.get(pk=one.pk)


def import_file(context: BrandContext, catalogue: Catalogue, raw: bytes) -> int:
    """Another file of a catalogue. How many things happened since the last. Raises InvalidError."""
    context.require(Capability.PUBLISH)
    rows = inspect_catalogue(context, "", raw)
    if lacks := missing_fields(catalogue.mapping, rows.columns):
        raise InvalidError.at("/file", say("catalogue.columns", what=next(iter(lacks.values()))))
    record_event(
        context.brand.pk,
        context.actor,
        "keep_catalogue",
        "catalogue",
        catalogue.pk,
        say("catalogue.file_brought", name=catalogue.name),
    )
    return apply_reading(catalogue, rows, clock.now(), context.user)


def delete_catalogue(context: BrandContext, catalogue_id: int) -> None:
    """With its things, what happened to them, and its relays; what was posted stays."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        one = catalogue_of(context, catalogue_id, lock=True)
        record_event(
            context.brand.pk,
            context.actor,
            "delete_catalogue",
            "catalogue",
            one.pk,
            say("catalogue.deleted", name=one.name),
        )
        one.delete()
        publish_change(context.brand.pk, "catalogue", catalogue_id)


def report_event(
    context: BrandContext, item_id: int, happened: core.EventKind, price: Decimal | None, day: date | None, name: str
) -> CatalogueEvent:
    """Something happened to a thing, said by hand: its standing, price or open day follows. Raises NotFoundError, InvalidError,
    ConflictError."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        # As by who reads it: the catalogue before its things.
        catalogue = catalogue_of(context, item_of(context, item_id).catalogue_id, lock=True)
        item = item_of(context, item_id)
        before = _apply_report(catalogue, item, happened, price, day, name)
        item.save()
        now = clock.now()
        reported = core.CatalogueItem(
            item.key, item.title, item.price, item.currency, core.Availability(item.availability), item.open_day
        )
        event = core.Event(happened, reported, before, name, brand_date(catalogue, now))
        made = save_event(catalogue, item, event, now, context.user)
        if made is None:
            raise ConflictError(say("thing.noted_before"))
        record_event(
            context.brand.pk,
            context.actor,
            "happen",
            "catalogue",
            catalogue.pk,
            say("item.reported", item=item.title, event=load_event_facts(made.values).event),
        )
        publish_change(context.brand.pk, "catalogue", catalogue.pk)
    return made


def _apply_report(
    catalogue: Catalogue,
    item: CatalogueItem,
    happened: core.EventKind,
    price: Decimal | None,
    day: date | None,
    name: str,
) -> Decimal | None:
    """How the thing stands by what is said of it. Its price before, where that fell. Raises InvalidError."""
    before = None
    if happened is core.EventKind.LOWERED:
        if item.price is None:
            raise InvalidError.at("/price", say("thing.priceless"))
        if price is None or price >= item.price:
            raise InvalidError.at("/price", say("thing.price", price=str(item.price)))
        before, item.price = item.price, price
    if happened is core.EventKind.OPEN_DAY:
        if day is None:
            raise InvalidError.at("/open_day", say("thing.no_day"))
        item.open_day = day
    if happened is core.EventKind.OWN and name not in {rule.name for rule in custom_rules(catalogue)}:
        raise InvalidError.at("/name", say("event.unknown"))
    stands = {
        core.EventKind.RESERVED: core.Availability.RESERVED,
        core.EventKind.SOLD: core.Availability.SOLD,
        core.EventKind.COMING: core.Availability.COMING,
        core.EventKind.NEW: core.Availability.FREE,
    }
    item.availability = stands.get(happened, item.availability)
    return before


def catalogue_of(context: BrandContext, catalogue_id: int, lock: bool = False) -> Catalogue:
    """A catalogue of the brand. Raises NotFoundError."""
    rows = Catalogue.objects.select_for_update() if lock else Catalogue.objects
    return first_or_404(rows.filter(brand=context.brand, pk=catalogue_id))


def item_of(context: BrandContext, item_id: int) -> CatalogueItem:
    """A thing of one of the brand's catalogues. Raises NotFoundError."""
    return first_or_404(
        CatalogueItem.objects.select_related("catalogue").filter(catalogue__brand=context.brand, pk=item_id)
    )
