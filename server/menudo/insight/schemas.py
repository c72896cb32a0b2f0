"""Insights as they are asked for and shown."""

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo.posts.schemas_content import Id, Text
from menudo.profiles.schemas import SlotOut


class TagsIn(InputSchema):
    text: Text
    campaign: Id | None = None


class SuggestionOut(Schema):
    """A hashtag without its sign, and every reason for it."""

    tag: str
    why: list[str]


class BetterHour(Schema):
    """A weekday (0 is Monday) and an hour of the wall, in the profile's zone. `lift`: the estimate over the usual, less
    one; `low` and `high` hold the estimate with 95 %."""

    weekday: int
    hour: int
    posts: int
    estimate: float
    low: float
    high: float
    lift: float
    sure: bool


class BetterOut(Schema):
    """What a profile's own results say of times, best first; `offered` are slots apart from one another and from those
    there are."""

    posts: int
    why_not: str = Field(description="why there isn't enough to say; empty: there is")
    hours: list[BetterHour]
    suggested_slots: list[SlotOut]
