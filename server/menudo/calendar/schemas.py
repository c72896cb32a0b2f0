"""The calendar as it is shown."""

import json
from datetime import date
from typing import Literal, TypedDict

from pydantic import Field

from menudo.base.schemas import Schema


class DayOut(Schema):
    date: date
    weekday: int
    week: int
    today: bool
    past: bool


class GapOut(Schema):
    """Days of the window, the first and the last."""

    first: int
    last: int
    summary: str


class CrowdOut(Schema):
    ids: list[int]
    summary: str


class LaneOut(Schema):
    """One profile's row."""

    profile: int
    network: str
    handle: str
    name: str
    display_name: str
    kind: str
    state: str
    paused: bool
    refuses: str = Field(description="why nothing can be planned there")
    holds: str = Field(description="why what is planned there would wait")


class LaneMarksOut(Schema):
    """What could be better about the spacing of a profile's row."""

    profile: int
    gaps: list[GapOut] = Field(description="days without a post, more than wished")
    crowds: list[CrowdOut] = Field(description="posts too close together, or too many in a day")


class LaneCountOut(Schema):
    """How many cards a profile's row has on each day."""

    profile: int
    days: list[int]


class HeapOut(Schema):
    """Cards of one network on one day, or in one hour of it (by the wall clock), by their count; `trouble` of them are in trouble."""

    day: int
    hour: int | None
    network: str
    count: int
    trouble: int


class GatheredOut(Schema):
    """A window's cards by their counts: of each profile that has any, or in heaps."""

    lanes: list[LaneCountOut]
    heaps: list[HeapOut]


Gather = Literal["profile", "network", "hour"]


class TicketOut(Schema):
    """One delivery's card, with what it shows. `day` counts from the window's first day, in the brand's zone."""

    id: int
    post: int
    profile: int
    state: str
    day: int
    time: str
    headline: str
    thumb: int | None
    pictures: int
    reason: str
    revision: int
    moves: bool
    movable: int = Field(description="how many deliveries of its post can be moved, on whichever day")
    labels: list[int]


class TicketRow(TypedDict):
    """A TicketOut as a plain dictionary. Thousands are answered at once: a test holds them against the schema, not each answer."""

    id: int
    post: int
    profile: int
    state: str
    day: int
    time: str
    headline: str
    thumb: int | None
    pictures: int
    reason: str
    revision: int
    moves: bool
    movable: int
    labels: list[int]


class TrayOut(Schema):
    """A draft without a date."""

    post: int
    headline: str
    thumb: int | None
    pictures: int
    networks: list[str]
    state: str
    labels: list[int]
    profiles: list[int]
    revision: int


class AlmanacDay(Schema):
    """A day worth a post; `day` counts from the window's first. `kind`: holiday, observance or own."""

    day: int
    date: date
    name: str
    kind: str
    country: str
    key: str


class CampaignBand(Schema):
    """A campaign across the window's days; `begins` and `ends`: whether it does within them."""

    id: int
    name: str
    ink: str
    first: int
    last: int
    begins: bool
    ends: bool


class TrayPage(Schema):
    """The drafts last changed, and how many there are."""

    drafts: list[TrayOut]
    total: int


class BandsOut(Schema):
    almanac: list[AlmanacDay]
    campaigns: list[CampaignBand]


class AdviceOut(Schema):
    """One thing about spacing that could be better: gap, close, same_media, near_text, pace. `subject` is the delivery
    that could move, to `proposed` (a wall time of the brand's zone)."""

    kind: str
    profile: int
    summary: str
    deliveries: list[int]
    subject: int | None
    revision: int | None
    other: int | None
    first: date | None
    last: date | None
    headline: str
    proposed: str | None


class AdvicePage(Schema):
    """What there is to say of some lanes, in the lanes' order. `checked` of the `lanes` there are were looked at up to here; `next` is
    the `after` of the page that follows, null at the end."""

    advice: list[AdviceOut]
    lanes: int
    checked: int
    next: int | None


class WindowOut(Schema):
    zone: str
    days: list[DayOut]
    lanes: list[LaneOut]
    tickets: list[TicketOut] = Field(
        description="none where there are more than can be read: then they come at `…/cards`"
    )
    marks: list[LaneMarksOut] = Field(description="of the lanes that have any; none without tickets")
    gathered: GatheredOut | None = Field(description="in place of the tickets")
    bands: BandsOut


class CalendarWindow(TypedDict):
    """A WindowOut whose cards are plain dictionaries."""

    zone: str
    days: list[DayOut]
    lanes: list[LaneOut]
    tickets: list[TicketRow]
    marks: list[LaneMarksOut]
    gathered: GatheredOut | None
    bands: BandsOut


class CardsOut(Schema):
    """Some cards of a window, in the order of their times; `next` is the `after` of the page that follows, null at the end."""

    tickets: list[TicketOut]
    marks: list[LaneMarksOut]
    next: str | None


class CardsPage(TypedDict):
    """A CardsOut whose cards are plain dictionaries."""

    tickets: list[TicketRow]
    marks: list[LaneMarksOut]
    next: str | None


class AllBrandOut(Schema):
    """One brand of a person's, in the calendar across all of them: times and days are in its own zone."""

    slug: str
    name: str
    ink: str
    zone: str
    lanes: list[LaneOut]
    tickets: list[TicketOut]
    heaps: list[HeapOut] = Field(
        description="in place of lanes and tickets, of a brand that has more than can be read here"
    )


class BrandLanes(TypedDict):
    """An AllBrandOut whose cards are plain dictionaries."""

    slug: str
    name: str
    ink: str
    zone: str
    lanes: list[LaneOut]
    tickets: list[TicketRow]
    heaps: list[HeapOut]


class AllBrandsWindow(TypedDict):
    """An AllOut whose cards are plain dictionaries."""

    days: list[DayOut]
    brands: list[BrandLanes]


class AllOut(Schema):
    days: list[DayOut]
    brands: list[AllBrandOut]


class FilterIn(Schema):
    """The filter of every view: ids and names with commas; empty is all."""

    sets: str = Field(default="", max_length=2000, description="profile sets")
    profiles: str = Field(default="", max_length=5000)
    networks: str = Field(default="", max_length=2000)
    states: str = Field(default="", max_length=300, description="of deliveries")
    labels: str = Field(default="", max_length=2000)
    campaigns: str = Field(default="", max_length=2000)
    people: str = Field(default="", max_length=2000, description="authors")
    words: str = Field(default="", max_length=200, description="in title, text or card")


def dump_window(window: CalendarWindow | CardsPage | AllBrandsWindow) -> str:
    """A window as JSON."""
    return json.dumps(window, default=lambda model: model.model_dump(mode="json"), separators=(",", ":"))
