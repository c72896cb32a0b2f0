"""Starters as they are sent and shown."""

from datetime import date, datetime

from menudo.base.schemas import InputSchema, Schema
from menudo_core.starters.choose import Kind, Reason


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
