"""Routes for relays: the board, samples, the log, what they ask."""

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import ERRORS, Invalid
from menudo.base.revisions import began_from
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.relays import reads, schemas
from menudo.relays.actions import keep as keeping
from menudo.relays.actions.answer import answer as answer_leg
from menudo.relays.actions.answer import leg_of, make_draft
from menudo.relays.actions.switch import switch as switch_relay
from menudo.relays.models import Relay
from menudo.relays.sample import sample as sample_of
from menudo.relays.starts import starts as starts_for

router = Router(tags=["relays"])


@router.get("/brands/{brand}/relays", response={200: schemas.BoardOut, **ERRORS}, operation_id="relayBoard")
def board(request: HttpRequest, brand: str) -> dict[str, Any]:
    """The relay board: sources, relays, and what rings and doubles they make."""
    return reads.board(here(request, brand), clock.now())


@router.post("/brands/{brand}/relays", response={201: schemas.RelayCellOut, **ERRORS}, operation_id="makeRelay")
def make(request: HttpRequest, brand: str, data: schemas.RelayCellIn) -> Status[dict[str, Any]]:
    """Fill a cell. It begins switched off, so that a sample can be looked at first."""
    place = here(request, brand, May.PUBLISH)
    return Status(201, reads.cell(keeping.keep(place, None, data, source=data.source, target=data.target)))


@router.post(
    "/brands/{brand}/relays/sample", response={200: list[schemas.SampleOut], **ERRORS}, operation_id="sampleRelay"
)
def sample(request: HttpRequest, brand: str, data: schemas.RelayCellIn) -> list[dict[str, Any]]:
    """What a relay with these settings would make of the last ten items of its source. Nothing is kept."""
    place = here(request, brand, May.PUBLISH)
    relay = keeping.settings_only(place, data)
    return sample_of(place, relay, clock.now())


@router.get("/brands/{brand}/relays/log", response={200: schemas.LogOut, **ERRORS}, operation_id="relayLog")
def log(
    request: HttpRequest, brand: str, relay: int | None = None, page: Annotated[int, Field(ge=1, le=1000)] = 1
) -> dict[str, Any]:
    """Every item that relays saw, whether it fired, and why not; the latest first."""
    return reads.log(here(request, brand), relay, page)


@router.get("/brands/{brand}/relays/asked", response={200: list[schemas.AskedOut], **ERRORS}, operation_id="relaysAsk")
def asked(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """What relays ask, the oldest first."""
    return reads.asked(here(request, brand))


@router.get(
    "/brands/{brand}/relays/starts", response={200: list[schemas.StartOut], **ERRORS}, operation_id="relayStarts"
)
def starts(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """Starting points that fill several cells, each said in full."""
    return starts_for(here(request, brand))


@router.post(
    "/brands/{brand}/relays/starts", response={201: list[schemas.RelayCellOut], **ERRORS}, operation_id="startRelays"
)
def start(request: HttpRequest, brand: str, data: schemas.StartIn) -> Status[list[dict[str, Any]]]:
    """Fill several cells at once, all switched off; those filled already stay as they are."""
    place = here(request, brand, May.PUBLISH)
    return Status(201, [reads.cell(relay) for relay in keeping.keep_many(place, data.cells)])


@router.put("/brands/{brand}/relays/{id}", response={200: schemas.RelayCellOut, **ERRORS}, operation_id="changeRelay")
def change(request: HttpRequest, brand: str, id: int, data: schemas.RelaySettings) -> dict[str, Any]:
    """Change a relay; what it has carried stays."""
    place = here(request, brand, May.PUBLISH)
    keeping.relay_of(place, id)
    return reads.cell(keeping.keep(place, id, data, began_from(request)))


@router.delete("/brands/{brand}/relays/{id}", response={204: None, **ERRORS}, operation_id="emptyRelay")
def empty(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Empty a cell; what it carried stays."""
    keeping.empty(here(request, brand, May.PUBLISH), id)
    return Status(204, None)


@router.post(
    "/brands/{brand}/relays/{id}/switch", response={200: schemas.RelayCellOut, **ERRORS}, operation_id="switchRelay"
)
def switch(request: HttpRequest, brand: str, id: int, data: schemas.SwitchIn) -> dict[str, Any]:
    """On from now, or with the last few; or off."""
    place = here(request, brand, May.PUBLISH)
    found = keeping.relay_of(place, id)
    if data.on and not Relay.objects.get(pk=found.pk).messages:
        raise Invalid.at("/on", "It has no message yet.", "empty")
    return reads.cell(switch_relay(place, id, data.on, data.take))


@router.post(
    "/brands/{brand}/legs/{id}/answer", response={200: schemas.RelayAnswerOut, **ERRORS}, operation_id="answerRelay"
)
def answer(request: HttpRequest, brand: str, id: int, data: schemas.RelayAnswerIn) -> dict[str, Any]:
    """Yes: it goes out as the relay says. No: its draft goes to the bin."""
    place = here(request, brand, May.PUBLISH)
    leg_of(place, id)
    post = answer_leg(place, id, data.yes)
    return {"post": post.pk if post else None}


@router.post(
    "/brands/{brand}/legs/{id}/draft", response={200: schemas.RelayAnswerOut, **ERRORS}, operation_id="draftOfRelay"
)
def draft(request: HttpRequest, brand: str, id: int) -> dict[str, Any]:
    """A draft of what a relay only told of."""
    return {"post": make_draft(here(request, brand, May.WRITE), id).pk}
