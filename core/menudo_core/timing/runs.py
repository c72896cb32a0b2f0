"""Runs: the dates at which many posts are laid out, one after another."""

import calendar
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from enum import StrEnum
from zoneinfo import ZoneInfo

from menudo_core.timing.walltimes import ResolvedTime, resolve_wall_time

MAX_OCCURRENCES = 1000
_DAY = timedelta(days=1)
_WEEK = timedelta(days=7)
_LAST_YEAR = 9990


class Unit(StrEnum):
    HOURS = "hours"
    DAYS = "days"
    WEEKS = "weeks"
    MONTHS = "months"


@dataclass(frozen=True, slots=True)
class Interval:
    """Every `step` hours, days, weeks or months.

    `weekdays` (0 is Monday) are those wanted: of each week for weeks, and the only ones kept for hours and days; none
    said is all of them, or for weeks the weekday of the run's first day. `nth` is for months: 1 to 5 the first to the
    fifth, -1 the last, of `weekdays`; None is the same day of the month, and a month without that day is left out
    (RFC 5545, 3.3.10).
    """

    unit: Unit
    step: int = 1
    weekdays: frozenset[int] = frozenset()
    nth: int | None = None

    def __post_init__(self) -> None:
        if self.step < 1:
            raise ValueError("an interval is at least one step long")


@dataclass(frozen=True, slots=True)
class Run:
    """From the wall time `at` on `first`, every `interval`; wall times of one zone."""

    first: date
    at: time
    interval: Interval


def wall_times(run: Run) -> Iterator[datetime]:
    """The run's wall times, earliest first, on or after its first; without end but for the calendar's."""
    start = datetime.combine(run.first, run.at)
    unit = run.interval.unit
    if unit is Unit.WEEKS:
        days = _weekly_days(run)
    elif unit is Unit.MONTHS:
        days = _monthly_days(run)
    else:
        yield from _stepped_times(run, start)
        return
    for day in days:
        if day >= run.first:
            yield datetime.combine(day, run.at)


def resolved_times(run: Run, zone: ZoneInfo) -> Iterator[ResolvedTime]:
    """The run's instants in `zone`, each once. What a clock change skips moves forward by the gap, and what it doubles
    is meant the first time (RFC 5545, 3.3.5)."""
    last = None
    for wall_time in wall_times(run):
        found = resolve_wall_time(wall_time, zone)
        if last is None or found.instant > last:
            yield found
            last = found.instant


def _stepped_times(run: Run, start: datetime) -> Iterator[datetime]:
    hours = run.interval.unit is Unit.HOURS
    step = timedelta(hours=run.interval.step) if hours else run.interval.step * _DAY
    wanted = run.interval.weekdays or frozenset(range(7))
    # A step of whole weeks never leaves its weekday: one that isn't wanted would be sought for ever.
    if step % _WEEK == timedelta() and start.weekday() not in wanted:
        return
    at = start
    while at.year < _LAST_YEAR:
        if at.weekday() in wanted:
            yield at
        at += step


def _weekly_days(run: Run) -> Iterator[date]:
    wanted = sorted(run.interval.weekdays or {run.first.weekday()})
    monday = run.first - timedelta(days=run.first.weekday())
    while monday.year < _LAST_YEAR:
        for weekday in wanted:
            yield monday + timedelta(days=weekday)
        monday += run.interval.step * _WEEK


def _monthly_days(run: Run) -> Iterator[date]:
    year, month = run.first.year, run.first.month
    while year < _LAST_YEAR:
        if run.interval.nth is None:
            if run.first.day <= calendar.monthrange(year, month)[1]:
                yield date(year, month, run.first.day)
        else:
            wanted = run.interval.weekdays or {run.first.weekday()}
            found = {nth_weekday(year, month, weekday, run.interval.nth) for weekday in wanted}
            yield from sorted(day for day in found if day)
        month += run.interval.step
        year, month = year + (month - 1) // 12, (month - 1) % 12 + 1


def nth_weekday(year: int, month: int, weekday: int, nth: int) -> date | None:
    """The `nth` such weekday of a month (1 to 5, or -1 for the last); None: the month has none."""
    length = calendar.monthrange(year, month)[1]
    if nth < 0:
        last = date(year, month, length)
        day = length - (last.weekday() - weekday) % 7 + (nth + 1) * 7
    else:
        day = 1 + (weekday - date(year, month, 1).weekday()) % 7 + (nth - 1) * 7
    return date(year, month, day) if 1 <= day <= length else None
