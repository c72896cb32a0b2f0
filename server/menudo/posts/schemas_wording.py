from typing import Annotated

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo.posts.schemas_content import CardIO, Id, Link, Text
from menudo_core.wording.compare import Change
from menudo_core.wording.writer import TaskKind

Seed = Annotated[int, Field(ge=0, le=2**31 - 1)]


class WordingIn(InputSchema):
    """What is wished for. With `network` the proposals keep to its limit; the same seed gives the same proposals."""

    task: TaskKind
    text: Annotated[str, Field(max_length=10_000)] = ""
    network: str = Field(default="", max_length=32)
    link: Link = ""
    card: CardIO | None = None
    seed: Seed = 0


class SegmentOut(Schema):
    """A stretch of text: the same, gone, or new."""

    change: Change
    text: str


class ProposalOut(Schema):
    text: str
    segments: list[SegmentOut]


class CompareIn(InputSchema):
    before: Text
    after: Text


class InsertIn(InputSchema):
    """Hashtags to be put at a text's end, those that it hasn't yet."""

    text: Text
    tags: list[Annotated[str, Field(max_length=120)]] = Field(max_length=60)


class TextOut(Schema):
    text: str


class CardIn(InputSchema):
    link: Link


class CardOut(Schema):
    """What a page says of itself; `site` is its site's name."""

    card: CardIO
    site: str


class PlaceOut(Schema):
    """A country or region, by its ISO 3166 code."""

    code: str
    name: str


class DraftFromIn(InputSchema):
    ids: list[Id] = Field(min_length=1, max_length=200)
    profiles: list[Id] = Field(default_factory=list, max_length=500)


class DraftsOut(Schema):
    posts: list[int]
