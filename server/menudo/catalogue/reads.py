"""Catalogues as pages need them."""

from typing import Any

from django.db.models import Count, Q

from menudo.catalogue.models import Catalogue, Happening, Thing
from menudo.catalogue.reading import Rows
from menudo.people.here import Here
from menudo_core.catalogue.mapping import guess, read
from menudo_core.catalogue.said import price_words

_MOST_THINGS, _MOST_HAPPENINGS, _LOOKED = 200, 60, 8


def catalogues(place: Here) -> list[dict[str, Any]]:
    rows = Catalogue.objects.filter(brand=place.brand).annotate(count=Count("things")).order_by("name", "pk")
    return [catalogue(one) for one in rows]


def catalogue(one: Catalogue) -> dict[str, Any]:
    return {
        "id": one.pk, "revision": one.revision, "name": one.name, "address": one.address, "mapping": one.mapping,
        "currency": one.currency, "rules": one.rules, "every": one.every, "read_at": one.read_at, "next_at": one.next_at,
        "trouble": one.trouble, "things": getattr(one, "count", None) or one.things.count(),
    }  # fmt: skip


def page(one: Catalogue, words: str) -> dict[str, Any]:
    """A catalogue, its things that have the words, and what happened lately."""
    things = one.things.all()
    for word in words.split()[:8]:
        things = things.filter(Q(title__icontains=word) | Q(key__icontains=word))
    happenings = Happening.objects.filter(catalogue=one).select_related("thing")[:_MOST_HAPPENINGS]
    return {
        "catalogue": catalogue(one), "things": [_thing(t) for t in things[:_MOST_THINGS]], "count": things.count(),
        "happenings": [happening(h) for h in happenings],
    }  # fmt: skip


def _thing(one: Thing) -> dict[str, Any]:
    return {
        "id": one.pk, "key": one.key, "title": one.title, "price": price_words(one.price, one.currency),
        "standing": one.standing, "open_day": one.open_day, "link": one.link, "picture": one.picture,
        "asset": one.asset_id, "more": one.more,
    }  # fmt: skip


def happening(one: Happening) -> dict[str, Any]:
    said = one.said
    return {
        "id": one.pk, "thing": one.thing_id, "happened": one.happened, "event": said.get("event", ""),
        "title": said.get("title", ""), "price": said.get("price", ""), "before": said.get("before", ""), "at": one.at,
    }  # fmt: skip


def looked(rows: Rows, mapping: dict[str, str] | None) -> dict[str, Any]:
    """The first rows as they would be understood by a mapping, or by the one that is guessed."""
    said = mapping if mapping is not None else guess(rows.columns)
    reads = [read(row, said) for row in rows.rows]
    # Those that aren't understood come first: they need a person.
    shown = sorted(reads, key=lambda one: not one.faults)[:_LOOKED]
    return {
        "columns": rows.columns, "mapping": said, "count": len(rows.rows), "rows": [
            {
                "key": r.thing.key, "title": r.thing.title, "price": price_words(r.thing.price, r.thing.currency),
                "standing": r.thing.standing, "open_day": r.thing.open_day, "link": r.link, "picture": r.picture,
                "faults": [f"{field.replace('_', ' ')}: {words}" for field, words in r.faults],
            }
            for r in shown
        ],
    }  # fmt: skip
