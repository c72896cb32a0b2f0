"""Routes for rotas."""

from dataclasses import asdict
from typing import Annotated

from django.db import transaction
from django.http import HttpRequest
from ninja import Router, Status
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import InvalidError, NotFoundError
from menudo.base.revisions import if_match_revision
from menudo.base.schemas import Day
from menudo.base.sentences import say
from menudo.calendar.api import MAX_DAYS, require_in_range
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.rotas import queries, schemas
from menudo.rotas.actions import change_turns as turning
from menudo.rotas.actions import fix_slot as placing
from menudo.rotas.actions.save_rota import delete_rota, rota_of, save_rota, season_faults, turn_of
from menudo.rotas.actions.save_slots import save_slots

router = Router(tags=["rotas"])


@router.get("/brands/{brand}/rotas", response=list[schemas.RotaOut], operation_id="rotas")
def list_rotas(request: HttpRequest, brand: str) -> list[schemas.RotaOut]:
    """The brand's rotas, by name, and where each runs dry."""
    return queries.rota_list(brand_context(request, brand), clock.now())


@router.post("/brands/{brand}/rotas", response={201: schemas.RotaPage}, operation_id="createRota")
def create_rota(request: HttpRequest, brand: str, data: schemas.RotaIn) -> Status[schemas.RotaPage]:
    """A new rota, with a label of its name: slots that timetables keep for that label are the rota's."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return Status(201, queries.rota_page(context, save_rota(context, None, data), clock.now()))


@router.get("/brands/{brand}/rotas/{rota_id}", response=schemas.RotaPage, operation_id="rota")
def get_rota(request: HttpRequest, brand: str, rota_id: int) -> schemas.RotaPage:
    """A rota, its turns, and what its slots get in the coming eight weeks."""
    context = brand_context(request, brand)
    return queries.rota_page(context, rota_of(context, rota_id), clock.now())


@router.put("/brands/{brand}/rotas/{rota_id}", response=schemas.RotaPage, operation_id="updateRota")
def update_rota(request: HttpRequest, brand: str, rota_id: int, data: schemas.RotaIn) -> schemas.RotaPage:
    """Change a rota. What was fixed or made stays; all else is laid out anew."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return queries.rota_page(context, save_rota(context, rota_id, data, if_match_revision(request)), clock.now())


@router.delete("/brands/{brand}/rotas/{rota_id}", response={204: None}, operation_id="deleteRota")
def destroy_rota(request: HttpRequest, brand: str, rota_id: int) -> Status[None]:
    """Delete a rota: what it planned stays, its turns are drafts again."""
    delete_rota(brand_context(request, brand, Capability.PUBLISH), rota_id)
    return Status(204, None)


@router.post("/brands/{brand}/rotas/{rota_id}/turns", response={201: schemas.AddedOut}, operation_id="addTurns")
def create_turns(request: HttpRequest, brand: str, rota_id: int, data: schemas.TurnsIn) -> Status[schemas.AddedOut]:
    """Turns of drafts, of posts that were out, and of pictures."""
    context = brand_context(request, brand, Capability.PUBLISH)
    found = rota_of(context, rota_id)
    if not data.posts and not data.assets:
        raise InvalidError.at("/posts", say("rota.nothing_chosen"))
    return Status(201, schemas.AddedOut(turns=turning.add_turns(context, found, data.posts, data.assets)))


@router.put("/brands/{brand}/rotas/{rota_id}/turns", response={204: None}, operation_id="reorderTurns")
def update_order(request: HttpRequest, brand: str, rota_id: int, data: schemas.OrderIn) -> Status[None]:
    """The turns in another order."""
    context = brand_context(request, brand, Capability.PUBLISH)
    turning.reorder_turns(context, rota_of(context, rota_id), data.turns)
    return Status(204, None)


@router.put("/brands/{brand}/rotas/{rota_id}/turns/{turn_id}", response={204: None}, operation_id="updateTurn")
def update_turn(request: HttpRequest, brand: str, rota_id: int, turn_id: int, data: schemas.TurnIn) -> Status[None]:
    """How often a turn goes, until when, and in which seasons."""
    context = brand_context(request, brand, Capability.PUBLISH)
    with transaction.atomic():
        found = turn_of(context, rota_of(context, rota_id, lock=True), turn_id)
        if faults := season_faults(data.seasons):
            raise InvalidError(faults=faults)
        found.times, found.until = data.times, data.until
        found.seasons = [[list(s.first), list(s.last)] for s in data.seasons]
        found.save()
    return Status(204, None)


@router.delete("/brands/{brand}/rotas/{rota_id}/turns/{turn_id}", response={204: None}, operation_id="removeTurn")
def destroy_turn(request: HttpRequest, brand: str, rota_id: int, turn_id: int) -> Status[None]:
    """A turn out of the rota: its wordings are drafts again."""
    context = brand_context(request, brand, Capability.PUBLISH)
    found = rota_of(context, rota_id)
    turning.remove_turn(context, found, turn_of(context, found, turn_id))
    return Status(204, None)


@router.post(
    "/brands/{brand}/rotas/{rota_id}/turns/{turn_id}/wordings",
    response={201: schemas.TurnWordingOut},
    operation_id="addTurnWording",
)
def create_wording(
    request: HttpRequest, brand: str, rota_id: int, turn_id: int, data: schemas.TurnWordingIn
) -> Status[schemas.TurnWordingOut]:
    """Another wording of a turn: a copy of its last one, or a draft."""
    context = brand_context(request, brand, Capability.PUBLISH)
    found = rota_of(context, rota_id)
    made = turning.add_wording(context, found, turn_of(context, found, turn_id), data.post)
    return Status(201, schemas.TurnWordingOut(id=made.pk, **asdict(queries.card_of(made.post))))


@router.delete(
    "/brands/{brand}/rotas/{rota_id}/turns/{turn_id}/wordings/{wording_id}",
    response={204: None},
    operation_id="removeTurnWording",
)
def destroy_wording(request: HttpRequest, brand: str, rota_id: int, turn_id: int, wording_id: int) -> Status[None]:
    """A wording out of its turn; with the last one goes the turn."""
    context = brand_context(request, brand, Capability.PUBLISH)
    found = rota_of(context, rota_id)
    one = turn_of(context, found, turn_id)
    if not one.wordings.filter(pk=wording_id).exists():
        raise NotFoundError()
    turning.remove_turn(context, found, one, wording_id)
    return Status(204, None)


@router.put("/brands/{brand}/rotas/{rota_id}/slots", response={204: None}, operation_id="saveRotaSlots")
def update_slots(request: HttpRequest, brand: str, rota_id: int, data: schemas.SlotsIn) -> Status[None]:
    """Keep slots for the rota in the timetables of all its profiles, or give them back."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    save_slots(context, rota_of(context, rota_id), set(data.weekdays), data.at, data.keep)
    return Status(204, None)


@router.put("/brands/{brand}/rotas/{rota_id}/placements", response={204: None}, operation_id="setPlacement")
def update_upcoming(request: HttpRequest, brand: str, rota_id: int, data: schemas.PlacementIn) -> Status[None]:
    """Fix one coming slot, leave it empty, or let the rota say again."""
    context = brand_context(request, brand, Capability.PUBLISH)
    found = rota_of(context, rota_id)
    if data.free:
        placing.release_slot(context, found, data.profile, data.at)
    else:
        placing.fix_slot(context, found, data.profile, data.at, data.turn)
    return Status(204, None)


@router.post("/brands/{brand}/rotas/{rota_id}/placements/swap", response={204: None}, operation_id="swapPlacements")
def swap_upcoming(request: HttpRequest, brand: str, rota_id: int, data: schemas.SwapPlacementsIn) -> Status[None]:
    """Two coming slots change what they get."""
    context = brand_context(request, brand, Capability.PUBLISH)
    one, other = (data.one.profile, data.one.at), (data.other.profile, data.other.at)
    placing.swap_slots(context, rota_of(context, rota_id), one, other)
    return Status(204, None)


@router.get("/brands/{brand}/upcoming", response=list[schemas.UpcomingOut], operation_id="upcomingTurns")
def list_upcoming(
    request: HttpRequest, brand: str, first: Day | None = None, days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14
) -> list[schemas.UpcomingOut]:
    """What the rotas will put into a window of the calendar that no post has been made of yet."""
    context, now = brand_context(request, brand), clock.now()
    return queries.upcoming_turns(context, require_in_range(first or now.astimezone(context.zone).date()), days, now)
