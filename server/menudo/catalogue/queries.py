"""Catalogues as pages need them."""

from django.db.models import Count, Q

from menudo.catalogue import schemas
from menudo.catalogue.models import Catalogue, CatalogueEvent, CatalogueItem
from menudo.catalogue.row_parser import Rows
from menudo.catalogue.serializers import load_event_facts
from menudo.people.context import BrandContext
from menudo_core.catalogue.events import Availability, EventKind
from menudo_core.catalogue.formatting import format_price
from menudo_core.catalogue.mapping import guess_mapping, parse_row

_MOST_THINGS, _MOST_HAPPENINGS, _LOOKED = 200, 60, 8


def catalogue_list(context: BrandContext) -> list[schemas.CatalogueOut]:
    rows = Catalogue.objects.filter(brand=context.brand).annotate(count=Count("items")).order_by("name", "pk")
    return [catalogue_out(one) for one in rows]


def catalogue_out(one: Catalogue) -> schemas.CatalogueOut:
    return schemas.CatalogueOut(
        id=one.pk,
        revision=one.revision,
        name=one.name,
        address=one.address,
        mapping=one.mapping,
        currency=one.currency,
        rules=one.rules,
        interval_minutes=one.interval_minutes,
        read_at=one.read_at,
        next_at=one.next_at,
        last_error=one.last_error,
        items=getattr(one, "count", None) or one.items.count(),
    )


def catalogue_page(one: Catalogue, words: str) -> schemas.CataloguePage:
    """A catalogue, its things that have the words, and what happened lately."""
    items = one.items.all()
    for word in words.split()[:8]:
        items = items.filter(Q(title__icontains=word) | Q(key__icontains=word))
    happenings = CatalogueEvent.objects.filter(catalogue=one).select_related("item")[:_MOST_HAPPENINGS]
    return schemas.CataloguePage(
        catalogue=catalogue_out(one),
        items=[_item_out(t) for t in items[:_MOST_THINGS]],
        count=items.count(),
        events=[event_out(h) for h in happenings],
    )


def _item_out(one: CatalogueItem) -> schemas.CatalogueItemOut:
    return schemas.CatalogueItemOut(
        id=one.pk,
        key=one.key,
        title=one.title,
        price=format_price(one.price, one.currency),
        availability=Availability(one.availability),
        open_day=one.open_day,
        link=one.link,
        picture=one.picture,
        asset=one.asset_id,
        more=one.more,
    )


def event_out(one: CatalogueEvent) -> schemas.CatalogueEventOut:
    facts = load_event_facts(one.values)
    return schemas.CatalogueEventOut(
        id=one.pk,
        item=one.item_id,
        kind=EventKind(one.kind),
        event=facts.event,
        title=facts.title,
        price=facts.price,
        before=facts.before,
        occurred_at=one.occurred_at,
    )


def inspection_out(rows: Rows, mapping: dict[str, str] | None) -> schemas.InspectionOut:
    """The first rows as they would be understood by a mapping, or by the one that is guessed."""
    used = mapping if mapping is not None else guess_mapping(rows.columns)
    reads = [parse_row(row, used) for row in rows.rows]
    # Those that aren't understood come first: they need a person.
    shown = sorted(reads, key=lambda one: not one.faults)[:_LOOKED]
    return schemas.InspectionOut(
        columns=rows.columns,
        mapping=used,
        count=len(rows.rows),
        rows=[
            schemas.ReadRowOut(
                key=r.item.key,
                title=r.item.title,
                price=format_price(r.item.price, r.item.currency),
                availability=r.item.availability,
                open_day=r.item.open_day,
                link=r.link,
                picture=r.picture,
                faults=[f"{field.replace('_', ' ')}: {words}" for field, words in r.faults],
            )
            for r in shown
        ],
    )
