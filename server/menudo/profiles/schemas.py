from datetime import datetime, time

from ninja import Schema
from pydantic import Field

from menudo.base.schemas import In


class KindOut(Schema):
    kind: str
    name: str
    direct: bool
    conditions: list[str]


class NetworkOut(Schema):
    """What the interface needs of a rule sheet."""

    network: str
    name: str
    letters: str
    shape: str
    about: str
    kinds: list[KindOut]
    connects: bool


class SlotOut(Schema):
    weekday: int = Field(ge=0, le=6, description="0 is Monday")
    at: time = Field(description="wall time in the profile's zone")


class ProfileOut(Schema):
    id: int
    network: str
    handle: str
    name: str
    kind: str
    zone: str
    state: str
    connection_ends: datetime | None
    account: str
    planned: int
    trouble: int
    last_published: datetime | None
    slots: list[SlotOut]


class ConnectIn(In):
    network: str = Field(max_length=32)


class GoTo(Schema):
    go_to: str


class SlotIn(In):
    weekday: int = Field(ge=0, le=6, description="0 is Monday")
    at: time = Field(description="wall time in the profile's zone")


class TimetableIn(In):
    slots: list[SlotIn] = Field(max_length=200)
