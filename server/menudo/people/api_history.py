"""Routes for a brand's history."""

from datetime import datetime
from typing import Annotated, Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from menudo.base.problems import ERRORS
from menudo.base.schemas import Day
from menudo.people.here import here
from menudo.people.history import Wanted, as_csv, page

router = Router(tags=["history"])


class HistoryEntry(Schema):
    """One thing that was done. `kind` and `object` say to what."""

    id: int
    at: datetime
    who: str
    words: str
    kind: str
    object: int
    undone: bool


class HistoryPerson(Schema):
    id: int = Field(description="0: Menudo itself, and clients by link")
    name: str


class HistoryOut(Schema):
    entries: list[HistoryEntry]
    more: int | None = Field(description="ask for what is before this next; null: that was all")
    people: list[HistoryPerson]


class HistoryAsked(Schema):
    """What narrows the history. Days are of the brand's calendar."""

    who: Annotated[int | None, Field(ge=0, le=2**63 - 1)] = None
    what: Literal["", "written", "planned", "signed", "sent", "failed"] = ""
    words: Annotated[str, Field(max_length=200)] = ""
    first: Day | None = None
    last: Day | None = None

    def wanted(self) -> Wanted:
        return Wanted(self.who, self.what, self.words, self.first, self.last)


@router.get("/brands/{brand}/history", response={200: HistoryOut, **ERRORS}, operation_id="history")
def history(
    request: HttpRequest,
    brand: str,
    asked: Query[HistoryAsked],
    before: Annotated[int | None, Query(ge=1, le=2**63 - 1)] = None,
) -> dict[str, Any]:
    """Who did what when, newest first, a hundred at a time."""
    return page(here(request, brand), asked.wanted(), before)


@router.get("/brands/{brand}/history.csv", response={200: None, **ERRORS}, operation_id="historyCsv")
def history_csv(request: HttpRequest, brand: str, asked: Query[HistoryAsked]) -> HttpResponse:
    """The same as CSV."""
    place = here(request, brand)
    response = HttpResponse(as_csv(place, asked.wanted()), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{place.brand.slug}-history.csv"'
    return response
