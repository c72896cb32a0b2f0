"""Routes for starters."""

from datetime import date, datetime
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema, Status

from menudo.base.problems import ERRORS
from menudo.base.schemas import In
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.starters.actions.supply import SUPPLY, supply
from menudo.starters.actions.take import keep, throw
from menudo.starters.models import Starter
from menudo_core.starters.choose import Kind, Reason

router = Router(tags=["starters"])


class StarterOut(Schema):
    """A proposed draft, made by rules; `why` says from what."""

    id: int
    kind: Kind
    why: str
    text: str
    link: str
    media: list[int]
    good_until: date | None
    made: datetime


class ThrownIn(In):
    reason: Reason


class KeptOut(Schema):
    post: int


@router.get("/brands/{brand}/starters", response={200: list[StarterOut], **ERRORS}, operation_id="starters")
def starters(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The starters that wait, the newest first."""
    place = here(request, brand)
    return _shown(place.brand.pk)


def _shown(brand: int) -> list[dict[str, Any]]:
    return [
        {
            "id": one.pk, "kind": one.kind, "why": one.why, "text": one.master.get("text", ""),
            "link": one.master.get("link", ""), "media": one.master.get("media", []), "good_until": one.good_until,
            "made": one.made,
        }
        for one in Starter.objects.filter(brand=brand, state=Starter.State.PROPOSED)
    ]  # fmt: skip


@router.post("/brands/{brand}/starters/more", response={200: list[StarterOut], **ERRORS}, operation_id="moreStarters")
def more(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """Fill the supply up, and a few more when it is full."""
    place = here(request, brand, May.WRITE)
    waiting = Starter.objects.filter(brand=place.brand, state=Starter.State.PROPOSED).count()
    supply(place.brand, SUPPLY if waiting < SUPPLY else min(waiting + 3, 2 * SUPPLY))
    return _shown(place.brand.pk)


@router.post("/brands/{brand}/starters/{id}/keep", response={201: KeptOut, **ERRORS}, operation_id="keepStarter")
def keep_it(request: HttpRequest, brand: str, id: int) -> Status[dict[str, Any]]:
    """It becomes a draft of one's own."""
    return Status(201, {"post": keep(here(request, brand, May.WRITE), id).pk})


@router.post("/brands/{brand}/starters/{id}/throw", response={204: None, **ERRORS}, operation_id="throwStarter")
def throw_away(request: HttpRequest, brand: str, id: int, data: ThrownIn) -> Status[None]:
    """It goes, with a reason that changes what comes."""
    throw(here(request, brand, May.WRITE), id, data.reason)
    return Status(204, None)
