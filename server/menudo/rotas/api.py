"""Routes for rotas."""

from typing import Annotated, Any

from django.db import transaction
from django.http import HttpRequest
from ninja import Router, Status
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import ERRORS, Invalid, NotFound
from menudo.base.revisions import began_from
from menudo.base.schemas import Day
from menudo.calendar.api import MOST_DAYS, within
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.rotas import reads, schemas
from menudo.rotas.actions import place as placing
from menudo.rotas.actions import turns as turning
from menudo.rotas.actions.keep import delete_rota, keep_rota, rota_of, season_faults, turn_of
from menudo.rotas.actions.slots import keep_slots

router = Router(tags=["rotas"])


@router.get("/brands/{brand}/rotas", response={200: list[schemas.RotaOut], **ERRORS}, operation_id="rotas")
def rotas(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The brand's rotas, by name, and where each runs dry."""
    return reads.rotas(here(request, brand), clock.now())


@router.post("/brands/{brand}/rotas", response={201: schemas.RotaPage, **ERRORS}, operation_id="makeRota")
def make(request: HttpRequest, brand: str, data: schemas.RotaIn) -> Status[dict[str, Any]]:
    """A new rota, with a label of its name: slots that timetables keep for that label are the rota's."""
    place = here(request, brand, May.PUBLISH)
    return Status(201, reads.page(place, keep_rota(place, None, data), clock.now()))


@router.get("/brands/{brand}/rotas/{id}", response={200: schemas.RotaPage, **ERRORS}, operation_id="rota")
def rota(request: HttpRequest, brand: str, id: int) -> dict[str, Any]:
    """A rota, its turns, and what its slots get in the coming eight weeks."""
    place = here(request, brand)
    return reads.page(place, rota_of(place, id), clock.now())


@router.put("/brands/{brand}/rotas/{id}", response={200: schemas.RotaPage, **ERRORS}, operation_id="changeRota")
def change(request: HttpRequest, brand: str, id: int, data: schemas.RotaIn) -> dict[str, Any]:
    """Change a rota. What was fixed or made stays; all else is laid out anew."""
    place = here(request, brand, May.PUBLISH)
    return reads.page(place, keep_rota(place, id, data, began_from(request)), clock.now())


@router.delete("/brands/{brand}/rotas/{id}", response={204: None, **ERRORS}, operation_id="deleteRota")
def delete(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a rota: what it planned stays, its turns are drafts again."""
    delete_rota(here(request, brand, May.PUBLISH), id)
    return Status(204, None)


@router.post("/brands/{brand}/rotas/{id}/turns", response={201: schemas.AddedOut, **ERRORS}, operation_id="addTurns")
def add(request: HttpRequest, brand: str, id: int, data: schemas.TurnsIn) -> Status[dict[str, Any]]:
    """Turns of drafts, of posts that were out, and of pictures."""
    place = here(request, brand, May.PUBLISH)
    found = rota_of(place, id)
    if not data.posts and not data.assets:
        raise Invalid.at("/posts", "Choose something to put in.", "none")
    return Status(201, {"turns": turning.add_turns(place, found, data.posts, data.assets)})


@router.put("/brands/{brand}/rotas/{id}/turns", response={204: None, **ERRORS}, operation_id="orderTurns")
def order(request: HttpRequest, brand: str, id: int, data: schemas.OrderIn) -> Status[None]:
    """The turns in another order."""
    place = here(request, brand, May.PUBLISH)
    turning.put_in_order(place, rota_of(place, id), data.turns)
    return Status(204, None)


@router.put("/brands/{brand}/rotas/{id}/turns/{turn}", response={204: None, **ERRORS}, operation_id="changeTurn")
def change_turn(request: HttpRequest, brand: str, id: int, turn: int, data: schemas.TurnIn) -> Status[None]:
    """How often a turn goes, until when, and in which seasons."""
    place = here(request, brand, May.PUBLISH)
    with transaction.atomic():
        found = turn_of(place, rota_of(place, id, lock=True), turn)
        if faults := season_faults(data.seasons):
            raise Invalid(faults=faults)
        found.times, found.until = data.times, data.until
        found.seasons = [[list(s.first), list(s.last)] for s in data.seasons]
        found.save()
    return Status(204, None)


@router.delete("/brands/{brand}/rotas/{id}/turns/{turn}", response={204: None, **ERRORS}, operation_id="removeTurn")
def remove(request: HttpRequest, brand: str, id: int, turn: int) -> Status[None]:
    """A turn out of the rota: its wordings are drafts again."""
    place = here(request, brand, May.PUBLISH)
    found = rota_of(place, id)
    turning.take_out(place, found, turn_of(place, found, turn))
    return Status(204, None)


@router.post(
    "/brands/{brand}/rotas/{id}/turns/{turn}/wordings",
    response={201: schemas.TurnWordingOut, **ERRORS},
    operation_id="addTurnWording",
)
def add_wording(
    request: HttpRequest, brand: str, id: int, turn: int, data: schemas.TurnWordingIn
) -> Status[dict[str, Any]]:
    """Another wording of a turn: a copy of its last one, or a draft."""
    place = here(request, brand, May.PUBLISH)
    found = rota_of(place, id)
    made = turning.add_wording(place, found, turn_of(place, found, turn), data.post)
    return Status(201, {"id": made.pk, **reads.said(made.post)})


@router.delete(
    "/brands/{brand}/rotas/{id}/turns/{turn}/wordings/{wording}",
    response={204: None, **ERRORS},
    operation_id="removeTurnWording",
)
def remove_wording(request: HttpRequest, brand: str, id: int, turn: int, wording: int) -> Status[None]:
    """A wording out of its turn; with the last one goes the turn."""
    place = here(request, brand, May.PUBLISH)
    found = rota_of(place, id)
    one = turn_of(place, found, turn)
    if not one.wordings.filter(pk=wording).exists():
        raise NotFound()
    turning.take_out(place, found, one, wording)
    return Status(204, None)


@router.put("/brands/{brand}/rotas/{id}/slots", response={204: None, **ERRORS}, operation_id="keepSlots")
def slots(request: HttpRequest, brand: str, id: int, data: schemas.SlotsIn) -> Status[None]:
    """Keep slots for the rota in the timetables of all its profiles, or give them back."""
    place = here(request, brand, May.MANAGE_PROFILES)
    keep_slots(place, rota_of(place, id), set(data.weekdays), data.at, data.keep)
    return Status(204, None)


@router.put("/brands/{brand}/rotas/{id}/places", response={204: None, **ERRORS}, operation_id="putTurn")
def put(request: HttpRequest, brand: str, id: int, data: schemas.PlaceIn) -> Status[None]:
    """Fix one coming slot, leave it empty, or let the rota say again."""
    place = here(request, brand, May.PUBLISH)
    found = rota_of(place, id)
    if data.free:
        placing.free(place, found, data.profile, data.at)
    else:
        placing.put(place, found, data.profile, data.at, data.turn)
    return Status(204, None)


@router.post("/brands/{brand}/rotas/{id}/places/swap", response={204: None, **ERRORS}, operation_id="swapTurns")
def swap(request: HttpRequest, brand: str, id: int, data: schemas.SwapPlacesIn) -> Status[None]:
    """Two coming slots change what they get."""
    place = here(request, brand, May.PUBLISH)
    one, other = (data.one.profile, data.one.at), (data.other.profile, data.other.at)
    placing.swap(place, rota_of(place, id), one, other)
    return Status(204, None)


@router.get("/brands/{brand}/coming", response={200: list[schemas.ComingOut], **ERRORS}, operation_id="coming")
def coming(
    request: HttpRequest, brand: str, first: Day | None = None, days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 14
) -> list[dict[str, Any]]:
    """What the rotas will put into a window of the calendar that no post has been made of yet."""
    place, now = here(request, brand), clock.now()
    return reads.coming(place, within(first or now.astimezone(place.zone).date()), days, now)
