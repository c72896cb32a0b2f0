"""Starting points: several cells at once, computed for the brand's own sources and profiles, said in full before they are set."""

from collections.abc import Iterable
from typing import Any

from menudo.catalogue.models import Catalogue
from menudo.feeds.models import Feed
from menudo.people.context import BrandContext
from menudo.profiles.models import Profile
from menudo.profiles.pauses import is_usable
from menudo.profiles.sheets import sheet_for
from menudo.relays import schemas
from menudo.relays.models import Relay
from menudo_core.catalogue.events import EventKind
from menudo_core.catalogue.formatting import EVENT_TITLES
from menudo_core.networks.sheet import RuleSheet
from menudo_core.relays import defaults as core
from menudo_core.relays.conditions import ContentFeature

_MOST, _SOURCES = 8, 3


def starting_points(context: BrandContext) -> list[schemas.StartOut]:
    """Those that the brand has sources and profiles for."""
    profiles = [p for p in Profile.objects.filter(brand=context.brand).order_by("pk") if is_usable(p)]
    sheets = {p.pk: sheet_for(context.brand.pk, p.network) for p in profiles}
    names = {f"p{p.pk}": p.display_name or p.handle for p in profiles}
    found = [
        _photo_start(profiles, sheets),
        *_feed_starts(context, profiles, sheets, names),
        *_catalogue_starts(context, profiles, sheets, names),
    ]
    filled = set(
        Relay.objects.filter(brand=context.brand).values_list("profile", "feed", "catalogue", "event", "target")
    )
    out = []
    for start in found:
        cells = [cell for cell in start.cells if not _is_filled(cell, filled)]
        if cells:
            summary = [_cell_summary(cell, names) for cell in cells]
            out.append(start.model_copy(update={"cells": cells, "summary": summary}))
    return out


def _is_filled(cell: schemas.RelayCellIn, filled: set[tuple[Any, ...]]) -> bool:
    kind, source_id = cell.source.key[0], int(cell.source.key[1:])
    key = tuple(source_id if kind == letter else None for letter in "pfc")
    return (*key, cell.source.event, cell.target) in filled


def _photo_start(profiles: list[Profile], sheets: dict[int, RuleSheet]) -> schemas.StartOut:
    """From the first profile that lives on pictures to short texts and boards, each with its picture as it is."""
    sources = [p for p in profiles if core.lives_on_pictures(sheets[p.pk])]
    targets = [
        p
        for p in profiles
        if core.takes_pictures(sheets[p.pk]) and (core.is_board(sheets[p.pk]) or core.is_short(sheets[p.pk]))
    ]
    cells = [
        _start_cell(
            f"p{source.pk}",
            target,
            sheets,
            conditions=schemas.RelayConditions(has=[ContentFeature.PICTURE]),
            timing=Relay.Timing.SLOT,
            confirmation=Relay.Confirmation.GOES,
        )
        for source in sources[:1]
        for target in targets[:_MOST]
    ]
    about = "What appears with a picture goes on with the picture itself, its text cut to fit."
    return schemas.StartOut(key="photos", name="Photos to short texts and boards", about=about, cells=cells, summary=[])


def _feed_starts(
    context: BrandContext, profiles: list[Profile], sheets: dict[int, RuleSheet], names: dict[str, str]
) -> Iterable[schemas.StartOut]:
    """A feed's articles to wherever words go by themselves, asked about first."""
    targets = [p for p in profiles if core.text_suffices(sheets[p.pk]) and p.state == Profile.State.CONNECTED]
    about = "Each article becomes a draft for each profile, and asks before it goes out; three a day at most."
    for feed in Feed.objects.filter(brand=context.brand, is_gone=False)[:_SOURCES]:
        names[f"f{feed.pk}"] = feed.title
        cells = [
            _start_cell(
                f"f{feed.pk}",
                target,
                sheets,
                timing=Relay.Timing.SLOT,
                confirmation=Relay.Confirmation.ASKS,
                daily_limit=3,
            )
            for target in targets[:_MOST]
        ]
        name = f"{feed.title} to everyone, asked first"
        yield schemas.StartOut(key=f"feed{feed.pk}", name=name, about=about, cells=cells, summary=[])


def _catalogue_starts(
    context: BrandContext, profiles: list[Profile], sheets: dict[int, RuleSheet], names: dict[str, str]
) -> Iterable[schemas.StartOut]:
    """A catalogue's news: what is new by itself, a lowered price asked first, what is sold only told."""
    targets = [
        p
        for p in profiles
        if core.takes_pictures(sheets[p.pk]) and not core.is_board(sheets[p.pk]) and p.state == Profile.State.CONNECTED
    ]
    asks = {
        EventKind.NEW: Relay.Confirmation.GOES,
        EventKind.LOWERED: Relay.Confirmation.ASKS,
        EventKind.SOLD: Relay.Confirmation.TELLS,
    }
    about = "What is new goes out by itself; a lowered price asks first; what is sold you are only told of."
    for one in Catalogue.objects.filter(brand=context.brand)[:_SOURCES]:
        names.update({f"c{one.pk}{event.value}": f"{one.name}: {EVENT_TITLES[event]}" for event in asks})
        cells = [
            _start_cell(
                f"c{one.pk}",
                target,
                sheets,
                event.value,
                confirmation=confirmation,
                timing=Relay.Timing.SLOT if confirmation == Relay.Confirmation.GOES else Relay.Timing.AT_ONCE,
            )
            for event, confirmation in asks.items()
            for target in targets[: _MOST // 2]
        ]
        yield schemas.StartOut(
            key=f"catalogue{one.pk}", name=f"News of {one.name}", about=about, cells=cells, summary=[]
        )


def _start_cell(
    key: str, target: Profile, sheets: dict[int, RuleSheet], event: str = "", **settings: Any
) -> schemas.RelayCellIn:
    """A cell as it is filled: what it says is the usual of its source."""
    sheet = sheets[target.pk]
    adaptation = schemas.RelayAdaptation(fields=core.default_fields(sheet), link_to=core.default_link(sheet))
    source = schemas.SourceIO(key=key, event=event)
    return schemas.RelayCellIn(source=source, target=target.pk, adaptation=adaptation, **settings)


def _cell_summary(cell: schemas.RelayCellIn, names: dict[str, str]) -> str:
    source = cell.source
    asks = {"goes": "by itself", "asks": "asking first", "tells": "only told of"}[cell.confirmation]
    how = {"at_once": "at once", "slot": "at the next free slot", "after": "later"}[cell.timing]
    what = " with a picture" if cell.conditions.has else ""
    where = names.get(source.key + source.event, names.get(source.key, ""))
    return f"{where}{what} to {names.get('p' + str(cell.target), '')}: {how}, {asks}"
