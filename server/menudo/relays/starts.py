"""Starting points: several cells at once, computed for the brand's own sources and profiles, said in full before they are set."""

from collections.abc import Iterable
from typing import Any

from menudo.catalogue.models import Catalogue
from menudo.feeds.models import Feed
from menudo.people.here import Here
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo.profiles.standing import usable
from menudo.relays.models import Relay
from menudo_core.catalogue.events import Happened
from menudo_core.catalogue.said import WORDS
from menudo_core.networks.sheet import RuleSheet
from menudo_core.relays import starts as core

_MOST, _SOURCES = 8, 3


def starts(place: Here) -> list[dict[str, Any]]:
    """Those that the brand has sources and profiles for."""
    profiles = [p for p in Profile.objects.filter(brand=place.brand).order_by("pk") if usable(p)]
    sheets = {p.pk: sheet_for(place.brand.pk, p.network) for p in profiles}
    names = {f"p{p.pk}": p.called or p.handle for p in profiles}
    found = [
        _photos(profiles, sheets), *_feeds(place, profiles, sheets, names), *_catalogues(place, profiles, sheets, names),
    ]  # fmt: skip
    filled = set(Relay.objects.filter(brand=place.brand).values_list("profile", "feed", "catalogue", "event", "target"))
    out = []
    for start in found:
        cells = [cell for cell in start["cells"] if not _there(cell, filled)]
        if cells:
            words = [_said(cell, names) for cell in cells]
            out.append({**start, "cells": cells, "words": words})
    return out


def _there(cell: dict[str, Any], filled: set[tuple[Any, ...]]) -> bool:
    source = cell["source"]
    kind, id = source["key"][0], int(source["key"][1:])
    key = tuple(id if kind == letter else None for letter in "pfc")
    return (*key, source["event"], cell["target"]) in filled


def _photos(profiles: list[Profile], sheets: dict[int, RuleSheet]) -> dict[str, Any]:
    """From the first profile that lives on pictures to short texts and boards, each with its picture as it is."""
    sources = [p for p in profiles if core.lives_on_pictures(sheets[p.pk])]
    targets = [
        p
        for p in profiles
        if core.takes_pictures(sheets[p.pk]) and (core.is_board(sheets[p.pk]) or core.is_short(sheets[p.pk]))
    ]
    cells = [
        _cell(f"p{source.pk}", target, sheets, conditions={"has": ["picture"]}, how=Relay.How.SLOT, asks=Relay.Asks.GOES)
        for source in sources[:1]
        for target in targets[:_MOST]
    ]  # fmt: skip
    about = "What appears with a picture goes on with the picture itself, its text cut to fit."
    return {"key": "photos", "name": "Photos to short texts and boards", "about": about, "cells": cells}


def _feeds(
    place: Here, profiles: list[Profile], sheets: dict[int, RuleSheet], names: dict[str, str]
) -> Iterable[dict[str, Any]]:
    """A feed's articles to wherever words go by themselves, asked about first."""
    targets = [p for p in profiles if core.words_will_do(sheets[p.pk]) and p.state == Profile.State.CONNECTED]
    about = "Each article becomes a draft for each profile, and asks before it goes out; three a day at most."
    for feed in Feed.objects.filter(brand=place.brand, gone=False)[:_SOURCES]:
        names[f"f{feed.pk}"] = feed.title
        cells = [
            _cell(f"f{feed.pk}", target, sheets, how=Relay.How.SLOT, asks=Relay.Asks.ASKS, per_day=3)
            for target in targets[:_MOST]
        ]
        yield {
            "key": f"feed{feed.pk}",
            "name": f"{feed.title} to everyone, asked first",
            "about": about,
            "cells": cells,
        }


def _catalogues(
    place: Here, profiles: list[Profile], sheets: dict[int, RuleSheet], names: dict[str, str]
) -> Iterable[dict[str, Any]]:
    """A catalogue's news: what is new by itself, a lowered price asked first, what is sold only told."""
    targets = [
        p
        for p in profiles
        if core.takes_pictures(sheets[p.pk]) and not core.is_board(sheets[p.pk]) and p.state == Profile.State.CONNECTED
    ]
    asks = {Happened.NEW: Relay.Asks.GOES, Happened.LOWERED: Relay.Asks.ASKS, Happened.SOLD: Relay.Asks.TELLS}
    about = "What is new goes out by itself; a lowered price asks first; what is sold you are only told of."
    for one in Catalogue.objects.filter(brand=place.brand)[:_SOURCES]:
        names.update({f"c{one.pk}{event.value}": f"{one.name}: {WORDS[event]}" for event in asks})
        cells = [
            _cell(f"c{one.pk}", target, sheets, event.value, asks=said, how=Relay.How.SLOT if said == Relay.Asks.GOES else Relay.How.AT_ONCE)
            for event, said in asks.items()
            for target in targets[: _MOST // 2]
        ]  # fmt: skip
        yield {"key": f"catalogue{one.pk}", "name": f"News of {one.name}", "about": about, "cells": cells}


def _cell(key: str, target: Profile, sheets: dict[int, RuleSheet], event: str = "", **settings: Any) -> dict[str, Any]:
    """A cell as it is filled: what it says is the usual of its source."""
    sheet = sheets[target.pk]
    shape = {"fields": core.fields_for(sheet), "link_to": core.link_for(sheet)}
    source = {"key": key, "event": event, "event_name": ""}
    return {"source": source, "target": target.pk, "shape": shape, **settings}


def _said(cell: dict[str, Any], names: dict[str, str]) -> str:
    source = cell["source"]
    asks = {"goes": "by itself", "asks": "asking first", "tells": "only told of"}[cell["asks"]]
    how = {"at_once": "at once", "slot": "at the next free slot", "after": "later"}[cell["how"]]
    what = " with a picture" if cell.get("conditions", {}).get("has") else ""
    where = names.get(source["key"] + source["event"], names.get(source["key"], ""))
    return f"{where}{what} to {names.get('p' + str(cell['target']), '')}: {how}, {asks}"
