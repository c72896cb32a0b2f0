"""Laying out and plans brought in, as they are asked for and answered."""

from datetime import date, datetime
from typing import Literal

from pydantic import Field

from menudo.base.schemas import Day, InputSchema, Schema
from menudo.posts.schemas_content import Id


class IntervalIn(InputSchema):
    """Every `step` hours, days, weeks or months; `weekdays` (0 is Monday) and `nth` (1 to 5, -1 the last) narrow it."""

    unit: Literal["hours", "days", "weeks", "months"]
    step: int = Field(default=1, ge=1, le=366)
    weekdays: list[int] = Field(default_factory=list, max_length=7)
    nth: int | None = Field(default=None, ge=-1, le=5)


class BatchMoveIn(InputSchema):
    """One of what is laid, a post's or a picture's, put to a wall time of its zone by hand."""

    post: Id | None = None
    asset: Id | None = None
    profile: Id
    wall_time: str = Field(max_length=30)


class BatchIn(InputSchema):
    """Posts or pictures in their order, from a day onward.

    `slots`: each goes to the next free slot of each of its profiles. `run`: one date after another, at a wall time of
    the brand's zone. `profiles` are those it all goes to; empty: each post's own.
    """

    posts: list[Id] = Field(default_factory=list, max_length=200)
    assets: list[Id] = Field(default_factory=list, max_length=200)
    profiles: list[Id] = Field(default_factory=list, max_length=100)
    timing: Literal["slots", "run"]
    first: Day
    at: str = Field(default="15:00", max_length=8)
    interval: IntervalIn | None = None
    skip: list[Day] = Field(default_factory=list, max_length=200, description="days that are left out")
    jitter: int = Field(default=0, ge=0, le=180)
    seed: int = Field(default=0, ge=0, le=2**31)
    moved: list[BatchMoveIn] = Field(
        default_factory=list, max_length=2000, description="single ones put elsewhere by hand"
    )


class BatchNote(Schema):
    """What is to be said of a date. `kind`: stops, advice, clash, close, day, clock."""

    kind: str
    message: str


class BatchRowOut(Schema):
    """One delivery as it would be laid. `item` counts in posts, then pictures; `wall_time` null: nowhere, see the notes."""

    item: int
    post: int | None
    asset: int | None
    headline: str
    thumb: int | None
    profile: int
    wall_time: str | None
    zone: str
    jitter: int
    notes: list[BatchNote]


class BatchPreviewOut(Schema):
    rows: list[BatchRowOut]


class BatchRowIn(InputSchema):
    """Where one delivery goes: `post` or `asset`, a profile, a wall time of `zone`."""

    post: Id | None = None
    asset: Id | None = None
    profile: Id
    wall_time: str = Field(max_length=30)
    zone: str = Field(default="", max_length=64)
    jitter: int = Field(default=0, ge=-180, le=180)


class BatchScheduleIn(InputSchema):
    """What was looked at, to be planned so. `seed` is what the look drew its variations from; it is kept with them."""

    rows: list[BatchRowIn] = Field(min_length=1, max_length=2000)
    seed: int = Field(default=0, ge=0, le=2**31)


class SkippedRow(Schema):
    row: int
    reason: str


class BatchResultOut(Schema):
    planned: list[int]
    made: list[int] = Field(description="posts that were made of pictures")
    left: list[SkippedRow]
    undo: int | None


class CellOut(Schema):
    """What is wrong in one cell; `column` is the header's word, empty: the whole row."""

    column: str
    message: str


class PlanRowOut(Schema):
    """One row of a plan, as it would be brought in."""

    line: int
    wall_time: str | None
    day: date | None
    zone: str
    handles: list[str]
    text: str
    media: list[str]
    labels: list[str]
    title: str
    faults: list[CellOut]
    advice: list[CellOut]
    known: bool = Field(description="a row just like it was brought in before")


class PlanReadOut(Schema):
    """A file that was read. `known`: when the same file was brought in before."""

    name: str
    columns: list[str]
    encoding: str
    separator: str
    rows: list[PlanRowOut]
    known: datetime | None


class ImportResultOut(Schema):
    posts: list[int]
    planned: int
    undo: int | None


class PlanFormIn(Schema):
    """`lines`: with commas; empty is every row that has no fault and wasn't brought in before."""

    lines: str = Field(default="", max_length=20_000)
    plans: bool = True
    again: bool = False
