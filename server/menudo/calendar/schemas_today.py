"""What the day strip and the morning page answer."""

from datetime import date, datetime

from menudo.base.schemas import Schema


class TickOut(Schema):
    """One delivery on the day strip: `share` of the 24 hours, `stack` within its quarter of an hour."""

    delivery: int
    post: int
    state: str
    share: float
    stack: int
    summary: str


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
    pending_signoffs: list[TodayItem]
