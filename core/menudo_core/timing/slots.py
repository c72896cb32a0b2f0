"""Weekly timetables: slots, and the instants they fall on."""

from bisect import bisect_left
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

from menudo_core.timing.walltimes import resolve_wall_time

_DAY = timedelta(days=1)
_WEEK = timedelta(days=7)


@dataclass(frozen=True, slots=True, order=True)
class Slot:
    """A weekly slot: weekday 0 (Monday) to 6 (Sunday), and a wall time in the profile's zone.

    `reserved_for` says what it is kept for (a label's or a rota's key); empty: for anything.
    """

    weekday: int
    at: time
    reserved_for: str = ""


def open_slots(slots: Sequence[Slot], keys: Collection[str] = ()) -> list[Slot]:
    """The slots that something with these keys may take: those kept for one of them, else those kept for nothing."""
    reserved = [slot for slot in slots if slot.reserved_for and slot.reserved_for in keys]
    return reserved or [slot for slot in slots if not slot.reserved_for]


def next_free_slots(
    slots: Sequence[Slot], taken: Collection[datetime], after: datetime, zone: ZoneInfo
) -> Iterator[datetime]:
    """Free slot times after `after`, earliest first, without end; nothing when there are no slots.

    Slots are wall times in `zone`; the times given and yielded are UTC instants. A wall time
    skipped by a clock change moves forward by the gap; one that happens twice is used once,
    the first time (RFC 5545, 3.3.5). Two slots that a gap moves onto one instant give it once.
    """
    used = set(taken)
    for instant in slot_instants(slots, after, zone):
        if instant not in used:
            yield instant


def slot_instants(slots: Sequence[Slot], after: datetime, zone: ZoneInfo) -> Iterator[datetime]:
    """Every slot time after the instant `after`, as UTC instants, earliest first, without end."""
    offsets = _offsets(slots)
    if not offsets:
        return
    monday = _monday_before(after, zone)
    last = after
    while True:
        for instant in _week_instants(monday, offsets, zone):
            if instant > last:
                yield instant
                last = instant
        monday += _WEEK


def slots_between(slots: Sequence[Slot], start: datetime, end: datetime, zone: ZoneInfo) -> list[datetime]:
    """The slot times in [start, end), as UTC instants, earliest first, each once: what a plan for months asks for."""
    offsets = _offsets(slots)
    monday = _monday_before(start, zone)
    found: list[datetime] = []
    while offsets and monday - _DAY < end:
        week = _week_instants(monday, offsets, zone)
        # Weeks are in order, unless a clock change at a week's end carries a slot into the next one.
        if not found or week[0] > found[-1]:
            found += week
        else:
            found = sorted({*found, *week})
        monday += _WEEK
    return found[bisect_left(found, start) : bisect_left(found, end)]


def _offsets(slots: Sequence[Slot]) -> list[timedelta]:
    """The slots as times since Monday's midnight, in order, each once."""
    return sorted({timedelta(s.weekday, s.at.second, minutes=s.at.minute, hours=s.at.hour) for s in slots})


def _monday_before(instant: datetime, zone: ZoneInfo) -> datetime:
    """Midnight in `zone` of the Monday at least a day before the instant."""
    day = (instant.astimezone(zone) - _DAY).replace(hour=0, minute=0, second=0, microsecond=0, fold=0)
    return day - timedelta(days=day.weekday())


def _week_instants(monday: datetime, offsets: list[timedelta], zone: ZoneInfo) -> list[datetime]:
    """The instants of one wall week. Weeks without a clock change, nearly all, need three looks at the zone.

    Adding to `monday`, which is aware, goes by the wall and not by the clock: what is wanted here.
    """
    here = monday.utcoffset()
    if here == (monday + _WEEK / 2).utcoffset() == (monday + _WEEK).utcoffset():
        base = monday.astimezone(UTC)
        return [base + offset for offset in offsets]
    found: set[datetime] = set()
    for number in range(7):
        start, end = number * _DAY, (number + 1) * _DAY
        found.update(_day_instants(monday + start, [o - start for o in offsets if start <= o < end], zone))
    return sorted(found)


def _day_instants(midnight: datetime, offsets: list[timedelta], zone: ZoneInfo) -> list[datetime]:
    """The instants of one wall day; on the day of a clock change each wall time is resolved by itself."""
    if midnight.utcoffset() == (midnight + _DAY).utcoffset():
        base = midnight.astimezone(UTC)
        return [base + offset for offset in offsets]
    wall_time = midnight.replace(tzinfo=None)
    return [resolve_wall_time(wall_time + offset, zone).instant for offset in offsets]
