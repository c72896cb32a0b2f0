"""Make, change and delete catalogues; bring a file; say by hand what happened."""

from datetime import date
from decimal import Decimal

from django.db import transaction

from menudo.base import clock
from menudo.base.fetch import CantFetch, fetch
from menudo.base.live import tell
from menudo.base.problems import Conflict, Fault, Invalid
from menudo.base.revisions import unchanged
from menudo.base.rows import the_one
from menudo.catalogue.actions.read_catalogue import ACCEPT, day_there, note, rules_of, take_in
from menudo.catalogue.models import Catalogue, Happening, Thing
from menudo.catalogue.reading import NoCatalogue, Rows, rows_of
from menudo.catalogue.schemas import CatalogueIn
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.catalogue import events as core
from menudo_core.catalogue.mapping import missing
from menudo_core.feeds.pace import LEAST, MOST
from menudo_core.text.clean import unusable

MOST_BYTES = 5_000_000


def look(place: Here, address: str, raw: bytes | None) -> Rows:
    """The rows at an address, or in a file. Raises Invalid, at what was given."""
    place.needs(May.WRITE)
    pointer = "/file" if raw is not None else "/address"
    try:
        if raw is not None:
            if len(raw) > MOST_BYTES:
                raise Invalid.at(pointer, "A catalogue's file is 5 MB at most.", "large")
            return rows_of(raw)
        page = fetch(address.strip(), ACCEPT)
        return rows_of(page.body, page.type)
    except (CantFetch, NoCatalogue) as error:
        raise Invalid.at(pointer, str(error), "unreadable") from error


def keep(
    place: Here, id: int | None, data: CatalogueIn, raw: bytes | None = None, began: int | None = None
) -> Catalogue:
    """A catalogue made (`id` None) and first read, when nothing has happened yet; or changed. Raises Invalid, Stale,
    NotFound."""
    place.needs(May.PUBLISH)
    faults, name = [], " ".join(data.name.split())
    if words := unusable(name) or ("" if name else "Give the catalogue a name."):
        faults.append(Fault("/name", words))
    least, most = int(LEAST.total_seconds() // 60), int(MOST.total_seconds() // 60)
    if not least <= data.every <= most:
        faults.append(Fault("/every", f"Read it every {least} minutes to every {most}.", "range"))
    faults += [
        Fault(f"/rules/{n}/name", "Give the event a name." if not rule.name.strip() else unusable(rule.name) or "")
        for n, rule in enumerate(data.rules)
        if not rule.name.strip() or unusable(rule.name)
    ]
    was = Catalogue.objects.filter(brand=place.brand, pk=id).first() if id is not None else None
    # While its site is down the rest can be changed all the same.
    other = was is None or (was.address, was.mapping) != (data.address.strip(), dict(data.mapping))
    rows = look(place, data.address, raw) if raw is not None or (other and (id is None or data.address)) else None
    if rows is not None:
        faults += [Fault(f"/mapping/{field}", words) for field, words in missing(data.mapping, rows.columns).items()]
    if faults:
        raise Invalid(faults=faults)
    with transaction.atomic():
        one = catalogue_of(place, id, lock=True) if id is not None else Catalogue(brand=place.brand)
        if began is not None:
            unchanged(began, one.revision)
        one.name, one.address, one.every = name, data.address.strip(), data.every
        if other or one.currency != data.currency.upper():
            # Read otherwise than before, it begins anew: what only looks different then hasn't happened.
            one.etag, one.modified, one.read_at = "", "", None
        one.mapping, one.currency = dict(data.mapping), data.currency.upper()
        one.rules = [rule.model_dump() for rule in data.rules]
        one.next_at = clock.now() if one.address else None
        one.revision += 1 if id is not None else 0
        one.save()
        words = f"{'made' if id is None else 'changed'} the catalogue {name}"
        record(place.brand.pk, place.actor, "keep_catalogue", "catalogue", one.pk, words)
        if id is None and rows is not None:
            take_in(one, rows, clock.now(), place.user)
        tell(place.brand.pk, "catalogue", one.pk)
    return Catalogue.objects.get(pk=one.pk)


def bring(place: Here, catalogue: Catalogue, raw: bytes) -> int:
    """Another file of a catalogue. How many things happened since the last. Raises Invalid."""
    place.needs(May.PUBLISH)
    rows = look(place, "", raw)
    if lacks := missing(catalogue.mapping, rows.columns):
        raise Invalid.at("/file", f"Its columns are others than they were. {next(iter(lacks.values()))}", "columns")
    record(
        place.brand.pk, place.actor, "keep_catalogue", "catalogue", catalogue.pk, f"brought a file of {catalogue.name}"
    )
    return take_in(catalogue, rows, clock.now(), place.user)


def delete(place: Here, id: int) -> None:
    """With its things, what happened to them, and its relays; what was posted stays."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        one = catalogue_of(place, id, lock=True)
        record(
            place.brand.pk, place.actor, "delete_catalogue", "catalogue", one.pk, f"deleted the catalogue {one.name}"
        )
        one.delete()
        tell(place.brand.pk, "catalogue", id)


def say(
    place: Here, thing: Thing, happened: core.Happened, price: Decimal | None, day: date | None, name: str
) -> Happening:
    """Something happened to a thing, said by hand: its standing, price or open day follows. Raises Invalid, Conflict."""
    place.needs(May.PUBLISH)
    catalogue, before = thing.catalogue, None
    if happened is core.Happened.LOWERED:
        if price is None or thing.price is None or price >= thing.price:
            raise Invalid.at("/price", f"Write a price below {thing.price or 'what it was'}.", "price")
        before, thing.price = thing.price, price
    if happened is core.Happened.OPEN_DAY:
        if day is None:
            raise Invalid.at("/open_day", "Say on which day.", "none")
        thing.open_day = day
    if happened is core.Happened.OWN and name not in {rule.name for rule in rules_of(catalogue)}:
        raise Invalid.at("/name", "The catalogue has no event of that name.", "foreign")
    stands = {
        core.Happened.RESERVED: core.Standing.RESERVED, core.Happened.SOLD: core.Standing.SOLD,
        core.Happened.COMING: core.Standing.COMING, core.Happened.NEW: core.Standing.FREE,
    }  # fmt: skip
    thing.standing = stands.get(happened, thing.standing)
    now = clock.now()
    with transaction.atomic():
        thing.save()
        told = core.Thing(
            thing.key, thing.title, thing.price, thing.currency, core.Standing(thing.standing), thing.open_day
        )
        event = core.Event(happened, told, before, name, day_there(catalogue, now))
        made = note(catalogue, thing, event, now, place.user)
        if made is None:
            raise Conflict("That was noted before.")
        words = f"said of {thing.title}: {made.said['event']}"
        record(place.brand.pk, place.actor, "happen", "catalogue", catalogue.pk, words)
        tell(place.brand.pk, "catalogue", catalogue.pk)
    return made


def catalogue_of(place: Here, id: int, lock: bool = False) -> Catalogue:
    """A catalogue of the brand. Raises NotFound."""
    rows = Catalogue.objects.select_for_update() if lock else Catalogue.objects
    return the_one(rows.filter(brand=place.brand, pk=id))


def thing_of(place: Here, id: int) -> Thing:
    """A thing of one of the brand's catalogues. Raises NotFound."""
    return the_one(Thing.objects.select_related("catalogue").filter(catalogue__brand=place.brand, pk=id))
