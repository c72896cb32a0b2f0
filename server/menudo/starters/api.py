"""Routes for starters."""

from datetime import date, datetime
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema, Status

from menudo.base.schemas import InputSchema
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.starters.actions.answer_starter import discard_starter, keep_starter
from menudo.starters.actions.supply_starters import TARGET_COUNT, supply_brand
from menudo.starters.models import Starter
from menudo_core.starters.choose import Kind, Reason

router = Router(tags=["starters"])


class StarterOut(Schema):
    """A proposed draft, made by rules; `reason` says from what."""

    id: int
    kind: Kind
    reason: str
    text: str
    link: str
    media: list[int]
    expires_on: date | None
    created_at: datetime


class DiscardedIn(InputSchema):
    reason: Reason


class KeptOut(Schema):
    post: int


@router.get("/brands/{brand}/starters", response=list[StarterOut], operation_id="starters")
def list_starters(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The starters that wait, the newest first."""
    context = brand_context(request, brand)
    return _starters_out(context.brand.pk)


def _starters_out(brand: int) -> list[dict[str, Any]]:
    return [
        {
            "id": one.pk, "kind": one.kind, "reason": one.why, "text": one.master.get("text", ""),
            "link": one.master.get("link", ""), "media": one.master.get("media", []), "expires_on": one.expires_on,
            "created_at": one.created_at,
        }
        for one in Starter.objects.filter(brand=brand, state=Starter.State.PROPOSED)
    ]  # fmt: skip


@router.post("/brands/{brand}/starters/more", response=list[StarterOut], operation_id="moreStarters")
def supply_more(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """Fill the supply up, and a few more when it is full."""
    context = brand_context(request, brand, Capability.WRITE)
    waiting = Starter.objects.filter(brand=context.brand, state=Starter.State.PROPOSED).count()
    supply_brand(context.brand, TARGET_COUNT if waiting < TARGET_COUNT else min(waiting + 3, 2 * TARGET_COUNT))
    return _starters_out(context.brand.pk)


@router.post("/brands/{brand}/starters/{starter_id}/keep", response={201: KeptOut}, operation_id="keepStarter")
def keep_as_draft(request: HttpRequest, brand: str, starter_id: int) -> Status[dict[str, Any]]:
    """It becomes a draft of one's own."""
    return Status(201, {"post": keep_starter(brand_context(request, brand, Capability.WRITE), starter_id).pk})


@router.post("/brands/{brand}/starters/{starter_id}/discard", response={204: None}, operation_id="discardStarter")
def discard(request: HttpRequest, brand: str, starter_id: int, data: DiscardedIn) -> Status[None]:
    """It goes, with a reason that changes what comes."""
    discard_starter(brand_context(request, brand, Capability.WRITE), starter_id, data.reason)
    return Status(204, None)
