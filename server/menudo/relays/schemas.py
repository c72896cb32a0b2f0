"""Relays as they are sent and shown."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema, WallTime
from menudo.posts.schemas_content import FieldName, Id
from menudo.relays.models import Relay
from menudo_core.relays.adaptation import TextUse
from menudo_core.relays.conditions import ContentFeature

SourceName = Literal["profile", "feed", "catalogue", "label"]
Key = Annotated[str, Field(pattern="^[pfcl][1-9][0-9]{0,17}$")]
Word = Annotated[str, Field(min_length=1, max_length=80)]
Template = Annotated[str, Field(max_length=5000)]


class SourceIO(InputSchema):
    """`key`: p and a profile's id, f a feed's, c a catalogue's with its event, l a label's."""

    key: Key
    event: str = Field(default="", max_length=10)
    event_name: str = Field(default="", max_length=60)


class RelayConditions(InputSchema):
    """What an item must be like; what is left empty asks nothing. `but`: none of these words."""

    has: list[ContentFeature] = Field(default=[], max_length=4)
    words: list[Word] = Field(default=[], max_length=30)
    but: list[Word] = Field(default=[], max_length=30)
    tags: list[Word] = Field(default=[], max_length=30)
    kinds: list[Word] = Field(default=[], max_length=12)
    languages: list[Annotated[str, Field(pattern="^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$")]] = Field(
        default=[], max_length=12
    )
    hours: list[WallTime] | None = Field(default=None, min_length=2, max_length=2)


class RelayMessage(InputSchema):
    """One template. `times`: how often it is used at most."""

    text: Template
    times: int | None = Field(default=None, ge=1, le=10_000)


class RelayAdaptation(InputSchema):
    """`adapts`: what the network would refuse is mended where it can be. `fields`: templates for the network's own fields."""

    take: TextUse = TextUse.ALL
    adapts: bool = True
    tags_below: bool = False
    link: bool = True
    link_to: Template = Field(
        default="", description="where it links to when it has no link; {address}: where it appeared"
    )
    fields: dict[FieldName, Template] = Field(default={}, max_length=20)


class RelaySettings(InputSchema):
    """What a cell of the board does; how it goes out, and whether it asks first."""

    conditions: RelayConditions = RelayConditions()
    messages: list[RelayMessage] = Field(default=[], max_length=20)
    adaptation: RelayAdaptation = RelayAdaptation()
    link_tags: Id | None = None
    timing: Relay.Timing = Relay.Timing.AT_ONCE
    delay_minutes: int = Field(default=30, ge=1, le=10_080)
    confirmation: Relay.Confirmation = Relay.Confirmation.GOES
    hours_from: WallTime | None = None
    hours_until: WallTime | None = None
    daily_limit: int | None = Field(default=None, ge=1, le=200)
    hourly_limit: int = Field(default=10, ge=1, le=200)


class RelayCellIn(RelaySettings):
    source: SourceIO
    target: Id


class RelayCellOut(RelaySettings):
    """A relay. `fires` of the last week; `paused_reason` says why it paused itself."""

    id: int
    revision: int
    source: SourceIO
    target: int
    active: bool
    paused_reason: str
    fires: int
    summary: str = Field(description="what it does, in a sentence")


class BoardRow(Schema):
    """A source. `group`: its catalogue's name; `start`: where a relay from it starts, by its place in the board's `starts`."""

    key: str
    event: str
    event_name: str
    kind: SourceName
    group: str
    name: str
    network: str
    last_error: str
    start: int


class BoardStart(Schema):
    """Where relays from some sources start: what they are unless they are told otherwise."""

    defaults: RelaySettings
    placeholders: list[str] = Field(description="what may stand in their messages")


class DuplicateOut(Schema):
    """What appears at a source would come to a target by more than one path; only the first is carried."""

    source: str
    target: int
    summary: str


class BoardOut(Schema):
    rows: list[BoardRow]
    starts: list[BoardStart]
    cells: list[RelayCellOut]
    cycles: list[list[int]]
    duplicates: list[DuplicateOut]
    asked: int


class SampleMedium(Schema):
    asset: int | None
    address: str


class SampleFinding(Schema):
    level: str
    message: str


class SampleOut(Schema):
    """What one item would become; `reason` says why nothing, if so."""

    title: str
    occurred_at: datetime
    fires: bool
    reason: str
    text: str
    first_comment: str
    link: str
    fields: dict[str, str]
    media: list[SampleMedium]
    fixes: list[str]
    findings: list[SampleFinding]


class SwitchIn(InputSchema):
    """`earlier_items`: so many of the last items are carried too; else from now on."""

    active: bool
    earlier_items: int = Field(default=0, ge=0, le=10)


class FiringOut(Schema):
    """`post` and `delivery`: what was made of it."""

    id: int
    relay: int
    source: str
    target: int
    title: str
    fired_at: datetime
    occurred_at: datetime
    verdict: str
    explanation: str
    post: int | None
    delivery: int | None
    state: str


class LogOut(Schema):
    firings: list[FiringOut]
    more: bool


class QuestionOut(Schema):
    """What a relay asks: the draft that it made."""

    firing: FiringOut
    text: str
    link: str
    media: list[int]


class RelayAnswerIn(InputSchema):
    yes: bool


class RelayAnswerOut(Schema):
    post: int | None


class StartOut(Schema):
    """A starting point: what it would set up, said in full, cell by cell."""

    key: str
    name: str
    about: str
    cells: list[RelayCellIn]
    summary: list[str]


class StartIn(InputSchema):
    cells: list[RelayCellIn] = Field(min_length=1, max_length=60)
