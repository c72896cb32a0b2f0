"""Wall times and the instants they mean."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from enum import StrEnum
from zoneinfo import ZoneInfo

_MINUTE = timedelta(minutes=1)


class WallKind(StrEnum):
    """Whether a wall time happens once, never (clocks go forward) or twice (clocks go back)."""

    ONCE = "once"
    SKIPPED = "skipped"
    DOUBLED = "doubled"


@dataclass(frozen=True, slots=True)
class ResolvedTime:
    """The UTC instant of a wall time, and the wall time that will really be on the clock."""

    instant: datetime
    kind: WallKind
    wall_time: datetime


def resolve_wall_time(wall_time: datetime, zone: ZoneInfo) -> ResolvedTime:
    """The instant that a naive wall time means in `zone`.

    A wall time skipped by a clock change moves forward by the gap; one that happens twice
    means the first (RFC 5545, 3.3.5). Raises ValueError for an aware `wall`.
    """
    if wall_time.tzinfo is not None:
        raise ValueError("a wall time has no zone of its own")
    first = wall_time.replace(tzinfo=zone, fold=0)
    instant = first.astimezone(UTC)
    used = instant.astimezone(zone).replace(tzinfo=None, fold=0)
    if used != wall_time:
        return ResolvedTime(instant, WallKind.SKIPPED, used)
    before, after = first.utcoffset(), first.replace(fold=1).utcoffset()
    kind = WallKind.ONCE if before == after else WallKind.DOUBLED
    return ResolvedTime(instant, kind, wall_time)


def wall_time_in(instant: datetime, zone: ZoneInfo) -> datetime:
    """The naive wall time of an aware instant in `zone`."""
    return instant.astimezone(zone).replace(tzinfo=None, fold=0)


def full_hours(after: datetime, zone: ZoneInfo) -> Iterator[datetime]:
    """The instants after `after`, UTC, at which the clocks in `zone` show a full hour, earliest first, without end.

    Full hours of a wall aren't those of UTC everywhere (Kolkata, Kathmandu), and not even an hour apart where clocks change by
    half of one (Lord Howe): each minute is looked at.
    """
    at = after.astimezone(UTC).replace(second=0, microsecond=0)
    while True:
        at += _MINUTE
        wall_time = at.astimezone(zone)
        if wall_time.minute == 0:
            if wall_time.second == 0:
                yield at
            # No clock change brings a full hour nearer than this.
            at += 13 * _MINUTE


def day_bounds(day: datetime, zone: ZoneInfo, days: int = 1) -> tuple[datetime, datetime]:
    """The UTC instants at which the wall day of `day` begins and `days` days later ends."""
    start = day.replace(hour=0, minute=0, second=0, microsecond=0)
    return resolve_wall_time(start, zone).instant, resolve_wall_time(start + timedelta(days=days), zone).instant


def day_parts(first: date, days: int, zone: ZoneInfo, parts: int = 1) -> list[datetime]:
    """The UTC instants at which the equal parts of each wall day begin, earliest first: `parts` divides 24, and 1 is the day itself.

    A part that a clock change leaves out begins with the one after it; of an hour that comes twice both are of the first's part.
    """
    found: list[datetime] = []
    for n in reversed(range(days * parts)):
        day, part = divmod(n, parts)
        start = resolve_wall_time(datetime.combine(first + timedelta(days=day), time(24 // parts * part)), zone).instant
        # Where a whole day is left out (Apia, 30 December 2011) its hours would begin in the midst of the next one's.
        found.append(min(start, found[-1]) if found else start)
    return found[::-1]
