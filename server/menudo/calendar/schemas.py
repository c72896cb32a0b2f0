from datetime import date, datetime

from ninja import Schema


class DayOut(Schema):
    date: date
    weekday: int
    week: int
    today: bool
    past: bool


class LaneOut(Schema):
    """One profile's row."""

    profile: int
    network: str
    handle: str
    name: str
    called: str
    kind: str
    state: str
    paused: bool


class TicketOut(Schema):
    """One delivery's card. `day` counts from the window's first day, in the brand's zone."""

    id: int
    post: int
    profile: int
    state: str
    due_at: datetime
    day: int
    time: str
    headline: str
    thumb: int | None
    pictures: int
    reason: str
    remote_url: str
    revision: int
    moves: bool


class TrayOut(Schema):
    """A draft without a date."""

    post: int
    headline: str
    thumb: int | None
    pictures: int
    networks: list[str]
    state: str


class WindowOut(Schema):
    zone: str
    days: list[DayOut]
    lanes: list[LaneOut]
    tickets: list[TicketOut]
    tray: list[TrayOut]


class TickOut(Schema):
    """One delivery on the day strip: `share` of the 24 hours, `stack` within its quarter of an hour."""

    delivery: int
    post: int
    state: str
    share: float
    stack: int
    words: str


class HourOut(Schema):
    share: float
    label: str


class StripOut(Schema):
    now: datetime
    zone: str
    clock: str
    hours: list[HourOut]
    ticks: list[TickOut]
    trouble: int


class AllBrandOut(Schema):
    """One brand of a person's, in the calendar across all of them: times and days are in its own zone."""

    slug: str
    name: str
    ink: str
    zone: str
    lanes: list[LaneOut]
    tickets: list[TicketOut]


class AllOut(Schema):
    days: list[DayOut]
    brands: list[AllBrandOut]


class TodayItem(Schema):
    """One delivery on the morning page."""

    delivery: int
    post: int
    handle: str
    network: str
    state: str
    time: str
    headline: str
    reason: str


class TodayOut(Schema):
    """The morning page, in the brand's zone."""

    date: date
    zone: str
    going_out: list[TodayItem]
    by_hand: list[TodayItem]
    trouble: list[TodayItem]
    to_sign: list[TodayItem]
