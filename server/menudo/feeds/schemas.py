"""Feeds and the shelf as they are sent and shown."""

from datetime import datetime, time
from typing import Annotated

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema, WallTime
from menudo.posts.schemas_content import Id

Address = Annotated[str, Field(max_length=1000)]


class LookForIn(InputSchema):
    address: Address


class FeedOffer(Schema):
    address: str
    title: str
    entries: int
    latest: list[str] = Field(description="the titles of its first few entries")


class FollowFeedIn(InputSchema):
    """A feed to follow. `interval_minutes` is how often it is read."""

    address: Address
    title: str = Field(default="", max_length=200)
    shelved: bool = True
    interval_minutes: int = 60


class FeedIn(InputSchema):
    title: str = Field(max_length=200)
    shelved: bool = True
    interval_minutes: int = 60


class FeedOut(Schema):
    """A feed that is followed. `new_articles` of its articles came since; `last_error` says why it can't be read."""

    id: int
    revision: int
    title: str
    address: str
    site: str
    shelved: bool
    interval_minutes: int
    read_at: datetime | None
    next_at: datetime | None
    last_error: str
    is_gone: bool
    articles: int
    new_articles: int
    last: datetime | None


class OpmlOut(Schema):
    feeds: int
    left: list[str]


class ArticleOut(Schema):
    id: int
    feed: int
    from_feed: str
    title: str
    link: str
    summary: str
    author: str
    published_at: datetime | None
    tags: list[str]
    has_thumb: bool


class ReminderIO(InputSchema):
    """On which weekdays (0 is Monday) and when, on the brand's wall; none: no reminder."""

    weekdays: list[Annotated[int, Field(ge=0, le=6)]] = Field(max_length=7)
    at: WallTime = time(9)


class ShelfOut(Schema):
    articles: list[ArticleOut]
    more: bool
    tags: list[str]
    reminder: ReminderIO | None


class ShareIn(InputSchema):
    """`remark` stands over the title. `plans`: at the next free slots; else they wait as drafts."""

    articles: list[Id] = Field(min_length=1, max_length=50)
    remark: str = Field(default="", max_length=5000)
    profiles: list[Id] = Field(default=[], max_length=500)
    plans: bool = False


class SharedOut(Schema):
    posts: list[int]
    left: list[str] = Field(description="what could not be planned, and why")
