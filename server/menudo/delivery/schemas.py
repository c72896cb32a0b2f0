from datetime import datetime
from typing import Literal

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo.profiles.schemas import PauseOut


class DisconnectIn(InputSchema):
    then: Literal["drafts", "call_off"] = Field(description="what becomes of what is planned")


class CountOut(Schema):
    count: int


class PauseIn(InputSchema):
    """A pause from now on. `profile` null: the whole brand."""

    profile: int | None = None
    ends_at: str = Field(default="", max_length=30, description="a wall time in the brand's zone; empty: until resumed")
    reason: str = Field(default="", max_length=200)


class PauseAllIn(InputSchema):
    """A pause of every brand one may publish in. `ends_at` is meant in each brand's own zone."""

    ends_at: str = Field(default="", max_length=30)
    reason: str = Field(default="", max_length=200)


class MissedOut(Schema):
    """One delivery that was missed and can be caught up with."""

    delivery: int
    handle: str
    headline: str
    due_at: datetime
    held_for: str


class ExpiringConnectionOut(Schema):
    """A connection that ends soon, or has ended."""

    connection: int
    network: str
    account: str
    handles: list[str]
    expires_at: datetime | None
    days: int
    ended: bool


class ObstaclesOut(Schema):
    """What stands in the way of a brand's posts just now."""

    pauses: list[PauseOut]
    missed: list[MissedOut]
    expiring: list[ExpiringConnectionOut]
    by_hand: int = Field(description="deliveries that wait to be published by hand")


class CatchUpIn(InputSchema):
    choice: Literal["send_now", "next_slots", "drafts"]


class CaughtUpOut(Schema):
    count: int
    undo: int


class DoneIn(InputSchema):
    url: str = Field(default="", max_length=500)


class NotDoneIn(InputSchema):
    reason: str = Field(max_length=300)


class LaterIn(InputSchema):
    wall_time: str = Field(max_length=30, description="a wall time in the brand's zone, without an offset")
