"""Trouble and listings as they are shown."""

from datetime import datetime

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo.posts.schemas import SkippedDelivery
from menudo.posts.schemas_content import Id


class TroubleItem(Schema):
    """One delivery that needs a person."""

    delivery: int
    post: int
    revision: int
    headline: str
    handle: str
    network: str
    due_at: datetime | None
    state: str
    reason: str
    tries: int
    allowed_actions: list[str]


class TroubleGroup(Schema):
    """Trouble of one cause. `remedy`: retry, write, look, reconnect, plan, sign or comment."""

    cause: str
    network: str
    title: str
    advice: str
    remedy: str
    items: list[TroubleItem]


class SentCount(Schema):
    profile: int
    handle: str
    network: str
    sent: int
    failed: int


class TroublesOut(Schema):
    groups: list[TroubleGroup]
    counts: list[SentCount]
    days: int


class RetryAt(InputSchema):
    id: Id
    revision: int


class RetriesIn(InputSchema):
    deliveries: list[RetryAt] = Field(min_length=1, max_length=500)


class RetriedOut(Schema):
    done: int
    left: list[SkippedDelivery]


class ListingOut(Schema):
    """How fresh a location's listing is. `ends_at`: when the last post that is there ends; null: none is there."""

    profile: int
    handle: str
    last_at: datetime | None
    ends_at: datetime | None
    next_at: datetime | None
    there: int
    cap: int | None
    state: str = Field(description="fresh, ending (within two days) or empty")
