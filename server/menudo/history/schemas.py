"""What the routes for a brand's history take and give."""

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import Field

from menudo.base.schemas import Day, Schema


class HistoryEventOut(Schema):
    """One thing that was done. `kind` and `object` say to what; `code` and `params` say what, without the words of `summary` (empty for
    what was done before there were codes)."""

    id: int
    occurred_at: datetime
    actor: str
    summary: str
    code: str
    params: dict[str, Any]
    kind: str
    object: int
    undone: bool


class HistoryPerson(Schema):
    id: int = Field(description="0: Menudo itself, and clients by link")
    name: str


class HistoryOut(Schema):
    events: list[HistoryEventOut]
    more: int | None = Field(description="ask for what is before this next; null: that was all")
    people: list[HistoryPerson]


class HistoryFilter(Schema):
    """What narrows the history: by whom (0: Menudo itself), what, in which words, between which days. Days are of the brand's calendar."""

    who: Annotated[int | None, Field(ge=0, le=2**63 - 1)] = None
    what: Literal["", "written", "planned", "signed", "sent", "failed"] = ""
    words: Annotated[str, Field(max_length=200)] = ""
    first: Day | None = None
    last: Day | None = None
