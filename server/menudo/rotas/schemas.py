"""Rotas as they are sent and shown."""

from datetime import date, datetime
from typing import Annotated

from pydantic import AwareDatetime, Field

from menudo.base.schemas import Day, InputSchema, Schema, WallTime
from menudo.posts.schemas_content import Id
from menudo_core.quotations.collection import Subject
from menudo_core.rotas.rota import Order

MonthDay = Annotated[list[Annotated[int, Field(ge=1, le=31)]], Field(min_length=2, max_length=2)]
Days = Annotated[int, Field(ge=0, le=400)]


class SeasonIO(Schema):
    """From one day of the year to another, both included, as month and day; over New Year when the last comes first."""

    first: MonthDay
    last: MonthDay


class RotaIn(InputSchema):
    """A rota as it is set. A turn becomes a post of its own `ahead_hours` before its time."""

    name: str = Field(max_length=80)
    ink: str = Field(max_length=12)
    profiles: list[Id] = Field(max_length=200)
    active: bool = False
    order: Order = Order.IN_ORDER
    seed: int = Field(default=0, ge=0, le=2**31 - 1)
    rest_days: Days = 0
    gap_days: Days = 1
    until: Day | None = None
    seasons: list[SeasonIO] = Field(default=[], max_length=12)
    closed_days: list[date] = Field(default=[], max_length=366)
    signoff_each_copy: bool = True
    ahead_hours: int = Field(default=48, ge=1, le=336)


class ExhaustionOut(Schema):
    """Where a rota runs dry: the first day that stays empty, and how many whole weeks ahead that is."""

    profile: int
    handle: str
    day: date
    weeks: int
    summary: str


class RotaOut(RotaIn):
    """A rota in the list. `slots` are weekly, of all its profiles together."""

    id: int
    revision: int
    label: int
    turns: int
    slots: int
    without_slots: list[str] = Field(description="profiles whose timetables keep no slot for it")
    next: datetime | None
    exhaustion: list[ExhaustionOut]


class TurnWordingOut(Schema):
    id: int
    post: int
    headline: str
    thumb: int | None
    pictures: int


class TurnOut(Schema):
    id: int
    times: int | None
    until: date | None
    seasons: list[SeasonIO]
    used: int = Field(description="how many posts were made of it")
    wordings: list[TurnWordingOut]


class UpcomingOut(Schema):
    """What a slot of a rota gets. `empty_reason` says why it stays empty. `delivery`: what was made of it already."""

    rota: int
    ink: str
    profile: int
    handle: str
    at: datetime
    date: date
    time: str
    turn: int | None
    post: int | None
    headline: str
    thumb: int | None
    pictures: int
    fixed: bool
    empty_reason: str
    delivery: int | None
    state: str
    last_error: str


class WeeklyOut(Schema):
    """A time of the week at which a rota has slots, and for how many of its profiles."""

    weekday: int
    at: WallTime
    profiles: int


class RotaPage(Schema):
    rota: RotaOut
    turns: list[TurnOut]
    weekly: list[WeeklyOut]
    upcoming: list[UpcomingOut]


class TurnsIn(InputSchema):
    """Drafts become turns themselves; of what is planned or out a copy does; each picture becomes a turn with its caption."""

    posts: list[Id] = Field(default=[], max_length=500)
    assets: list[Id] = Field(default=[], max_length=500)


class TurnIn(InputSchema):
    times: int | None = Field(default=None, ge=1, le=1000)
    until: Day | None = None
    seasons: list[SeasonIO] = Field(default=[], max_length=12)


class OrderIn(InputSchema):
    turns: list[Id] = Field(max_length=2000)


class TurnWordingIn(InputSchema):
    """A wording more: a copy of one there is, to be changed on the Bench; or a draft, which becomes it."""

    post: Id | None = None


class SlotsIn(InputSchema):
    """Weekdays (0 is Monday) at a time of each profile's own wall. `keep` false: such slots of the rota's are taken out."""

    weekdays: list[Annotated[int, Field(ge=0, le=6)]] = Field(min_length=1, max_length=7)
    at: WallTime
    keep: bool = True


class SpotIn(InputSchema):
    profile: Id
    at: AwareDatetime


class PlacementIn(SpotIn):
    """`turn` null: nothing shall go there. `free`: what the rota says shall hold again."""

    turn: Id | None = None
    free: bool = False


class SwapPlacementsIn(InputSchema):
    one: SpotIn
    other: SpotIn


class AddedOut(Schema):
    turns: int


class QuotationOut(Schema):
    """One of the collection. `source`: what its wording was compared with."""

    id: str
    subject: Subject
    text: str
    author: str
    died: int
    work: str
    year: int
    source: str


class QuotationsOut(Schema):
    count: int
    quotations: list[QuotationOut]


class QuotationsIn(InputSchema):
    """`tags` stand under each, with or without their sign; `pictures`: drawn in the brand's colours."""

    quotations: list[Annotated[str, Field(max_length=20)]] = Field(min_length=1, max_length=500)
    pictures: bool = False
    tags: list[Annotated[str, Field(min_length=1, max_length=60, pattern=r"^#?[^\s#]+$")]] = Field(
        default=[], max_length=30
    )


class TopPostOut(Schema):
    """A post that earned more than its profiles usually do, and how many times as much."""

    post: int
    headline: str
    thumb: int | None
    pictures: int
    times_usual: float
    reactions: int
