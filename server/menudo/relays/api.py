"""Routes for relays: the board, samples, the log, what they ask."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import InvalidError
from menudo.base.revisions import if_match_revision
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.relays import queries, schemas
from menudo.relays.actions import save_relay as keeping
from menudo.relays.actions.answer_question import answer_question as answer_leg
from menudo.relays.actions.answer_question import create_draft, firing_of
from menudo.relays.actions.switch_relay import switch_relay
from menudo.relays.models import Relay
from menudo.relays.sample import sample_relay as sample_of
from menudo.relays.starting_points import starting_points as starts_for

router = Router(tags=["relays"])


@router.get("/brands/{brand}/relays", response=schemas.BoardOut, operation_id="relayBoard")
def get_board(request: HttpRequest, brand: str) -> schemas.BoardOut:
    """The relay board: sources, relays, and what rings and doubles they make."""
    return queries.relay_board(brand_context(request, brand), clock.now())


@router.post("/brands/{brand}/relays", response={201: schemas.RelayCellOut}, operation_id="createRelay")
def create_relay(request: HttpRequest, brand: str, data: schemas.RelayCellIn) -> Status[schemas.RelayCellOut]:
    """Fill a cell. It begins switched off, so that a sample can be looked at first."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return Status(
        201, queries.cell_out(keeping.save_relay(context, None, data, source=data.source, target=data.target))
    )


@router.post("/brands/{brand}/relays/sample", response=list[schemas.SampleOut], operation_id="sampleRelay")
def preview_relay(request: HttpRequest, brand: str, data: schemas.RelayCellIn) -> list[schemas.SampleOut]:
    """What a relay with these settings would make of the last ten items of its source. Nothing is kept."""
    context = brand_context(request, brand, Capability.PUBLISH)
    relay = keeping.unsaved_relay(context, data)
    return sample_of(context, relay, clock.now())


@router.get("/brands/{brand}/relays/log", response=schemas.LogOut, operation_id="relayLog")
def get_log(
    request: HttpRequest, brand: str, relay: int | None = None, page: Annotated[int, Field(ge=1, le=1000)] = 1
) -> schemas.LogOut:
    """Every item that relays saw, whether it fired, and why not; the latest first."""
    return queries.relay_log(brand_context(request, brand), relay, page)


@router.get(
    "/brands/{brand}/relays/questions",
    response=list[schemas.QuestionOut],
    operation_id="relayQuestions",
)
def list_questions(request: HttpRequest, brand: str) -> list[schemas.QuestionOut]:
    """What relays ask, the oldest first."""
    return queries.open_questions(brand_context(request, brand))


@router.get(
    "/brands/{brand}/relays/starting-points",
    response=list[schemas.StartOut],
    operation_id="startingPoints",
)
def list_starting_points(request: HttpRequest, brand: str) -> list[schemas.StartOut]:
    """Starting points that fill several cells, each said in full."""
    return starts_for(brand_context(request, brand))


@router.post(
    "/brands/{brand}/relays/starting-points",
    response={201: list[schemas.RelayCellOut]},
    operation_id="createFromStartingPoint",
)
def create_from_starting_point(
    request: HttpRequest, brand: str, data: schemas.StartIn
) -> Status[list[schemas.RelayCellOut]]:
    """Fill several cells at once, all switched off; those filled already stay as they are."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return Status(201, [queries.cell_out(relay) for relay in keeping.save_relays(context, data.cells)])


@router.put("/brands/{brand}/relays/{relay_id}", response=schemas.RelayCellOut, operation_id="updateRelay")
def update_relay(request: HttpRequest, brand: str, relay_id: int, data: schemas.RelaySettings) -> schemas.RelayCellOut:
    """Change a relay; what it has carried stays."""
    context = brand_context(request, brand, Capability.PUBLISH)
    keeping.relay_of(context, relay_id)
    return queries.cell_out(keeping.save_relay(context, relay_id, data, if_match_revision(request)))


@router.delete("/brands/{brand}/relays/{relay_id}", response={204: None}, operation_id="deleteRelay")
def destroy_relay(request: HttpRequest, brand: str, relay_id: int) -> Status[None]:
    """Empty a cell; what it carried stays."""
    keeping.delete_relay(brand_context(request, brand, Capability.PUBLISH), relay_id)
    return Status(204, None)


@router.post(
    "/brands/{brand}/relays/{relay_id}/switch",
    response=schemas.RelayCellOut,
    operation_id="switchRelay",
)
def set_relay_active(request: HttpRequest, brand: str, relay_id: int, data: schemas.SwitchIn) -> schemas.RelayCellOut:
    """On from now, or with the last few; or off."""
    context = brand_context(request, brand, Capability.PUBLISH)
    found = keeping.relay_of(context, relay_id)
    if data.active and not Relay.objects.get(pk=found.pk).messages:
        raise InvalidError.at("/active", say("relay.messageless"))
    return queries.cell_out(switch_relay(context, relay_id, data.active, data.earlier_items))


@router.post(
    "/brands/{brand}/firings/{firing_id}/answer",
    response=schemas.RelayAnswerOut,
    operation_id="answerFiring",
)
def answer_firing(
    request: HttpRequest, brand: str, firing_id: int, data: schemas.RelayAnswerIn
) -> schemas.RelayAnswerOut:
    """Yes: it goes out as the relay says. No: its draft goes to the bin."""
    context = brand_context(request, brand, Capability.PUBLISH)
    firing_of(context, firing_id)
    post = answer_leg(context, firing_id, data.yes)
    return schemas.RelayAnswerOut(post=post.pk if post else None)


@router.post(
    "/brands/{brand}/firings/{firing_id}/draft",
    response=schemas.RelayAnswerOut,
    operation_id="draftFiring",
)
def create_draft_of(request: HttpRequest, brand: str, firing_id: int) -> schemas.RelayAnswerOut:
    """A draft of what a relay only told of."""
    return schemas.RelayAnswerOut(post=create_draft(brand_context(request, brand, Capability.WRITE), firing_id).pk)
