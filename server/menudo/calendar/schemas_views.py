"""Views, addresses, the almanac, peeks and the grid proof as they are asked for and answered."""

from datetime import date, datetime

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo.labels.schemas import PostLabelOut
from menudo.posts.schemas import AssetBrief
from menudo.posts.schemas_content import Id


class ViewIn(InputSchema):
    """`query` holds what the address holds: view, sets, profiles, networks, states, labels, campaigns, people, words, sort."""

    name: str = Field(max_length=60)
    query: dict[str, str] = Field(max_length=20)
    shared: bool = False


class ViewOut(Schema):
    id: int
    name: str
    query: dict[str, str]
    shared: bool
    mine: bool
    by: str


class SubscribeIn(InputSchema):
    """`profiles`: a set's id; null and not `mine`: the whole brand."""

    profiles: Id | None = None
    mine: bool = Field(default=False, description="what I write, and what I am in charge of by hand")


class SubscriptionOut(Schema):
    id: int
    name: str
    by: str
    is_own: bool
    created_at: datetime
    last_read_at: datetime | None


class SubscribedOut(Schema):
    """A new address; it is told this once."""

    subscription: SubscriptionOut
    address: str


class AlmanacIn(InputSchema):
    countries: list[str] = Field(max_length=60, description="ISO 3166-1 alpha-2")
    observances: bool
    excluded: list[str] = Field(
        default_factory=list, max_length=300, description="keys of observances that aren't wished"
    )


class CountryOut(Schema):
    code: str
    name: str


class ObservanceOut(Schema):
    key: str
    name: str
    next: date
    topics: list[str]


class CustomDateIn(InputSchema):
    name: str = Field(max_length=120)
    rule: str = Field(max_length=40, description="2026-12-13, 12-13, “first sun of 05”, “easter +1”")


class CustomDateOut(Schema):
    id: int
    name: str
    rule: str


class AlmanacOut(Schema):
    countries: list[str]
    observances: bool
    excluded: list[str]
    custom: list[CustomDateOut]
    known: list[CountryOut]
    all: list[ObservanceOut]


class PeekDelivery(Schema):
    id: int
    profile: int
    handle: str
    network: str
    state: str
    zone: str
    wall_time: str | None
    reason: str
    delay: int
    jitter: int
    stops: int
    advice: int
    first: str = Field(description="the first finding's words")


class PeekWording(Schema):
    """A wording, and the deliveries that say it."""

    text: str
    media: list[int]
    link: str
    deliveries: list[PeekDelivery]


class PeekOut(Schema):
    post: int
    title: str
    state: str
    author: str
    updated_at: datetime
    campaign: str
    labels: list[PostLabelOut]
    wordings: list[PeekWording]
    assets: list[AssetBrief]


class TileOut(Schema):
    delivery: int
    post: int
    revision: int
    state: str
    thumb: int | None
    pictures: int
    headline: str
    moves: bool
    wall_time: str | None


class GridOut(Schema):
    """A page of pictures as it will be, the newest first; `ratio` is width over height of its tiles."""

    profile: int
    handle: str
    zone: str
    ratio: float
    tiles: list[TileOut]


class FullTextOut(Schema):
    """What a delivery says, as its version has it or as it was sent."""

    delivery: int
    text: str
    link: str
    first_comment: str
    media: list[int]


class FullTextPage(Schema):
    """Some deliveries' wording, in the order of their times; `next` is the `after` of what follows, null at the end."""

    items: list[FullTextOut]
    next: int | None


class SwapSide(InputSchema):
    id: Id
    revision: int


class SwapIn(InputSchema):
    one: SwapSide
    other: SwapSide


class SwappedOut(Schema):
    undo: int
