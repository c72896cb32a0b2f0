from datetime import datetime
from typing import Literal

from ninja import Schema
from pydantic import Field

from menudo.base.schemas import In
from menudo.profiles.schemas import PauseOut


class DisconnectIn(In):
    then: Literal["drafts", "call_off"] = Field(description="what becomes of what is planned")


class CountOut(Schema):
    count: int


class PauseIn(In):
    """A pause from now on. `profile` null: the whole brand."""

    profile: int | None = None
    until: str = Field(default="", max_length=30, description="a wall time in the brand's zone; empty: until resumed")
    why: str = Field(default="", max_length=200)


class PauseAllIn(In):
    """A pause of every brand one may publish in. `until` is meant in each brand's own zone."""

    until: str = Field(default="", max_length=30)
    why: str = Field(default="", max_length=200)


class MissedOut(Schema):
    """One delivery that was missed and can be caught up with."""

    delivery: int
    handle: str
    headline: str
    due_at: datetime
    held_for: str


class EndingOut(Schema):
    """A connection that ends soon, or has ended."""

    connection: int
    network: str
    account: str
    handles: list[str]
    ends: datetime | None
    days: int
    ended: bool


class StandingOut(Schema):
    """What stands in the way of a brand's posts just now."""

    pauses: list[PauseOut]
    missed: list[MissedOut]
    endings: list[EndingOut]
    by_hand: int = Field(description="deliveries that wait to be published by hand")


class CatchUpIn(In):
    choice: Literal["send_now", "next_slots", "drafts"]


class CaughtUpOut(Schema):
    count: int
    undo: int


class DoneIn(In):
    url: str = Field(default="", max_length=500)


class NotDoneIn(In):
    why: str = Field(max_length=300)


class LaterIn(In):
    wall: str = Field(max_length=30, description="a wall time in the brand's zone, without an offset")
