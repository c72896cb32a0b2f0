"""Findings and proofs as they are asked for and answered."""

from typing import Literal

from pydantic import Field

from menudo.base.schemas import Day, InputSchema, Schema
from menudo.posts.schemas_content import BoxIO, CardIO, ContentIO, Id, OverridesIO, PersonIO, PointIO, VersionIO


class FieldValueOut(Schema):
    """One of the network's own fields, with what it says."""

    label: str
    value: str


class FixOut(Schema):
    """A step that mends a finding for this version."""

    fix: str
    label: str


class FindingOut(Schema):
    level: Literal["stops", "advice"]
    rule: str
    field: str
    message: str
    limit: str
    actual: str
    fixes: list[FixOut]


class PieceOut(Schema):
    """One picture or video of a proof, in the shape it is seen in; `focus` stays in sight where the network cuts."""

    asset: int
    kind: str
    width: int
    height: int
    share: float
    alt: str
    seconds: float | None
    turn: int
    crop: BoxIO
    focus: PointIO
    words: str
    words_at: str
    people: list[PersonIO]
    cover: int | None
    cover_at: float | None


class ProofOut(Schema):
    """What followers see. `layout`: feed, grid, board, reel, listing, story. `card` stands where there are no media."""

    visible_text: str
    folded_text: str
    link: str
    layout: str
    one_by_one: bool
    title: str
    button: str
    facts: list[FieldValueOut]
    card: CardIO | None
    comment: str
    rows: list[list[PieceOut]]


class SizeOut(Schema):
    """What a network gets of an asset, in pixels."""

    asset: int
    width: int
    height: int


class ColumnOut(Schema):
    """One column of the Bench: a network's, or that of a profile split off. Its findings and its proof."""

    network: str
    profile: int | None
    length: int
    comment_length: int
    limit: int
    unit: str
    fits: bool
    asks: list[str] = Field(description="the network's own fields that are asked for as things stand")
    findings: list[FindingOut]
    sizes: list[SizeOut]
    proof: ProofOut


class BenchColumnOut(ColumnOut):
    """A column of the Bench with all that its version says, as it is written."""

    written: OverridesIO = Field(description="what the version has of its own and what it inherits")


class ColumnIn(InputSchema):
    """A column to check: a network with the profiles it goes to; with `profile`, one that was split off."""

    network: str = Field(max_length=32)
    profile: Id | None = None
    profiles: list[Id] = Field(default_factory=list, max_length=500)


class CheckIn(InputSchema):
    """`day` is the day it is meant for, in the brand's zone, for what placeholders say; null: today."""

    title: str = Field(default="", max_length=200)
    master: ContentIO
    versions: list[VersionIO] = Field(default_factory=list, max_length=200)
    columns: list[ColumnIn] = Field(max_length=100)
    day: Day | None = None
    campaign: Id | None = None


class FixIn(CheckIn):
    """A mend of one finding, in the first of `columns`."""

    fix: str = Field(max_length=32)
    field: str = Field(max_length=64)
