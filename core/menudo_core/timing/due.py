"""When a delivery is to go out, as a person says it, and whether that can be."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from menudo_core.timing.walltimes import ResolvedTime, WallKind, resolve_wall_time

PLANNING_HORIZON = timedelta(days=3 * 366)


@dataclass(frozen=True, slots=True)
class InvalidTimeError(Exception):
    """A time that can't be planned for, with what to do instead; `offer` is a wall time that can."""

    code: str
    words: str
    offer: datetime | None = None


def due_at(wall_time: datetime, zone: ZoneInfo, now: datetime) -> ResolvedTime:
    """The instant for a wall time someone typed for `zone`. Raises InvalidTimeError.

    A skipped wall time is refused with an offer, not moved in silence: the person is
    there to ask. (Timetables and runs, where nobody is, move forward: see `resolve_wall_time`.)
    """
    resolved = resolve_wall_time(wall_time, zone)
    if resolved.kind is WallKind.SKIPPED:
        offer = resolved.wall_time
        instead = f"{offer:%H:%M}" if offer.date() == wall_time.date() else f"{_format_day(offer)}, {offer:%H:%M},"
        words = f"{wall_time:%H:%M} does not exist on {_format_day(wall_time)} in {zone.key}: the clocks go forward. Choose {instead} or another time."
        raise InvalidTimeError("skipped", words, offer)
    if resolved.instant <= now:
        raise InvalidTimeError(
            "past", f"{_format_day(wall_time)}, {wall_time:%H:%M} in {zone.key} has passed. Choose a later time."
        )
    if resolved.instant - now > PLANNING_HORIZON:
        raise InvalidTimeError("far", "That is more than three years away. Choose an earlier time.")
    return resolved


def _format_day(wall_time: datetime) -> str:
    return f"{wall_time:%a} {wall_time.day} {wall_time:%b %Y}"
