"""Weekly timetables: slots, and the instants they fall on."""

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from menudo_core.timing.walltimes import resolve

_DAY = timedelta(days=1)


@dataclass(frozen=True, slots=True, order=True)
class Slot:
    """A weekly slot: weekday 0 (Monday) to 6 (Sunday), and a wall time in the profile's zone."""

    weekday: int
    at: time


def next_free(
    slots: Sequence[Slot], taken: Collection[datetime], after: datetime, zone: ZoneInfo
) -> Iterator[datetime]:
    """Free slot times after `after`, earliest first, without end; nothing when there are no slots.

    Slots are wall times in `zone`; the times given and yielded are UTC instants. A wall time
    skipped by a clock change moves forward by the gap; one that happens twice is used once,
    the first time (RFC 5545, 3.3.5). Two slots that a gap moves onto one instant give it once.
    """
    used = set(taken)
    for instant in instants(slots, after, zone):
        if instant not in used:
            yield instant


def instants(slots: Sequence[Slot], after: datetime, zone: ZoneInfo) -> Iterator[datetime]:
    """Every slot time after the instant `after`, as UTC instants, earliest first, without end."""
    by_weekday = _by_weekday(slots)
    if not any(by_weekday):
        return
    # A day early: a slot of yesterday's wall date can't follow `after`, but a zone's midnight can be skipped.
    day = after.astimezone(zone).date() - _DAY
    last = after
    while True:
        for instant in _of_day(day, by_weekday[day.weekday()], zone):
            if instant > last:
                yield instant
                last = instant
        day += _DAY


def _by_weekday(slots: Sequence[Slot]) -> list[list[timedelta]]:
    days: list[set[timedelta]] = [set() for _ in range(7)]
    for slot in slots:
        at = slot.at
        days[slot.weekday].add(timedelta(hours=at.hour, minutes=at.minute, seconds=at.second))
    return [sorted(day) for day in days]


def _of_day(day: date, offsets: list[timedelta], zone: ZoneInfo) -> list[datetime]:
    """The instants of one wall day. Days without a clock change, nearly all, need one look at the zone."""
    if not offsets:
        return []
    midnight = datetime(day.year, day.month, day.day)
    here = midnight.replace(tzinfo=zone).utcoffset()
    if here == (midnight + _DAY).replace(tzinfo=zone).utcoffset():
        base = midnight.replace(tzinfo=UTC) - (here or timedelta())
        return [base + offset for offset in offsets]
    return sorted(resolve(midnight + offset, zone).instant for offset in offsets)
