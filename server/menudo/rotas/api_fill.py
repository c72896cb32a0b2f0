"""Routes that fill rotas from elsewhere: quotations, a table."""

from typing import Any

from django.http import HttpRequest
from ninja import File, Router, Status
from ninja.files import UploadedFile

from menudo.base import clock
from menudo.base.problems import ERRORS
from menudo.brandsheet.reads import said_of
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.rotas import schemas
from menudo.rotas.actions.fill import add_quotations, add_table
from menudo.rotas.actions.keep import rota_of
from menudo.rotas.reads import did_well, said
from menudo_core.quotations.collection import SOURCES, Quotation, Subject, find

router = Router(tags=["rotas"])
_MOST = 120


@router.get("/brands/{brand}/quotations", response={200: schemas.QuotationsOut, **ERRORS}, operation_id="quotations")
def quotations(request: HttpRequest, brand: str, words: str = "", subject: Subject | None = None) -> dict[str, Any]:
    """Quotations out of copyright, those near to the brand's topics first; 120 at most at once."""
    place = here(request, brand)
    found = find(words[:200], subject, said_of(place.brand).get("topics", ()))
    return {"count": len(found), "quotations": [_out(one) for one in found[:_MOST]]}


def _out(one: Quotation) -> dict[str, Any]:
    return {
        "id": one.id, "subject": one.subject, "text": one.text, "author": one.author, "died": one.died,
        "work": one.work, "year": one.year, "source": SOURCES[one.source],
    }  # fmt: skip


@router.post(
    "/brands/{brand}/rotas/{id}/quotations", response={201: schemas.AddedOut, **ERRORS}, operation_id="addQuotations"
)
def add(request: HttpRequest, brand: str, id: int, data: schemas.QuotationsIn) -> Status[dict[str, Any]]:
    """A turn for each quotation, as text or as a picture; the rota goes out once a day at most from then on."""
    place = here(request, brand, May.PUBLISH)
    count = add_quotations(place, rota_of(place, id), data.quotations, data.pictures, data.tags)
    return Status(201, {"turns": count})


@router.post("/brands/{brand}/rotas/{id}/table", response={201: schemas.AddedOut, **ERRORS}, operation_id="addTable")
def table(request: HttpRequest, brand: str, id: int, file: File[UploadedFile]) -> Status[dict[str, Any]]:
    """A turn for each row of a CSV file: text (several are wordings), picture, link, times, until. All or none."""
    place = here(request, brand, May.PUBLISH)
    return Status(201, {"turns": add_table(place, rota_of(place, id), file.read(2_000_001))})


@router.get("/brands/{brand}/did-well", response={200: list[schemas.DidWellOut], **ERRORS}, operation_id="didWell")
def well(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The posts of the last year that did better than their profiles usually do, the best 30."""
    found = did_well(here(request, brand).brand, clock.now(), 30)
    return [
        {**said(post), "times_usual": round(one.times_usual, 1), "reactions": int(one.earned)} for post, one in found
    ]
