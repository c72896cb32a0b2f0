"""Laying out and plans brought in, as they are asked for and answered."""

from datetime import date, datetime
from typing import Literal

from ninja import Schema
from pydantic import Field

from menudo.base.schemas import Day, In
from menudo.posts.content_io import Id


class IntervalIn(In):
    """Every `step` hours, days, weeks or months; `weekdays` (0 is Monday) and `nth` (1 to 5, -1 the last) narrow it."""

    unit: Literal["hours", "days", "weeks", "months"]
    step: int = Field(default=1, ge=1, le=366)
    weekdays: list[int] = Field(default_factory=list, max_length=7)
    nth: int | None = Field(default=None, ge=-1, le=5)


class PutIn(In):
    """One of what is laid, a post's or a picture's, put to a wall time of its zone by hand."""

    post: Id | None = None
    asset: Id | None = None
    profile: Id
    wall: str = Field(max_length=30)


class LayIn(In):
    """Posts or pictures in their order, from a day onward.

    `slots`: each goes to the next free slot of each of its profiles. `run`: one date after another, at a wall time of
    the brand's zone. `profiles` are those it all goes to; empty: each post's own.
    """

    posts: list[Id] = Field(default_factory=list, max_length=200)
    assets: list[Id] = Field(default_factory=list, max_length=200)
    profiles: list[Id] = Field(default_factory=list, max_length=100)
    how: Literal["slots", "run"]
    first: Day
    at: str = Field(default="15:00", max_length=8)
    interval: IntervalIn | None = None
    skip: list[Day] = Field(default_factory=list, max_length=200, description="days that are left out")
    sway: int = Field(default=0, ge=0, le=180)
    seed: int = Field(default=0, ge=0, le=2**31)
    moved: list[PutIn] = Field(default_factory=list, max_length=2000, description="single ones put elsewhere by hand")


class LaidNote(Schema):
    """What is to be said of a date. `kind`: stops, advice, clash, close, day, clock."""

    kind: str
    words: str


class LaidOut(Schema):
    """One delivery as it would be laid. `thing` counts in posts, then pictures; `wall` null: nowhere, see the notes."""

    thing: int
    post: int | None
    asset: int | None
    headline: str
    thumb: int | None
    profile: int
    wall: str | None
    zone: str
    sway: int
    notes: list[LaidNote]


class LookedOut(Schema):
    rows: list[LaidOut]


class RowIn(In):
    """Where one delivery goes: `post` or `asset`, a profile, a wall time of `zone`."""

    post: Id | None = None
    asset: Id | None = None
    profile: Id
    wall: str = Field(max_length=30)
    zone: str = Field(default="", max_length=64)
    sway: int = Field(default=0, ge=-180, le=180)


class FixIn(In):
    """What was looked at, to be planned so. `seed` is what the look drew its variations from; it is kept with them."""

    rows: list[RowIn] = Field(min_length=1, max_length=2000)
    seed: int = Field(default=0, ge=0, le=2**31)


class LeftRow(Schema):
    row: int
    words: str


class FixedOut(Schema):
    planned: list[int]
    made: list[int] = Field(description="posts that were made of pictures")
    left: list[LeftRow]
    undo: int | None


class CellOut(Schema):
    """What is wrong in one cell; `column` is the header's word, empty: the whole row."""

    column: str
    words: str


class PlanRowOut(Schema):
    """One row of a plan, as it would be brought in."""

    line: int
    wall: str | None
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


class TakenOut(Schema):
    posts: list[int]
    planned: int
    undo: int | None
