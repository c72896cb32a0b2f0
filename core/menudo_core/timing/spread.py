"""Spreading: a delay between the profiles of one post (stagger), and a time that varies a little (sway)."""

from dataclasses import dataclass
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from menudo_core.choices import Choices
from menudo_core.timing.walltimes import day_bounds, resolve, wall_in

_MINUTE = timedelta(minutes=1)


@dataclass(frozen=True, slots=True)
class Stagger:
    """A delay of `least` to `most` whole minutes between one profile and the next; the same when they are."""

    least: int
    most: int

    def __post_init__(self) -> None:
        if not 0 <= self.least <= self.most:
            raise ValueError("a stagger's least is at most its most")


@dataclass(frozen=True, slots=True)
class Waking:
    """The wall times between which a profile may vary: [begins, ends), within one day."""

    begins: time
    ends: time


def delays(count: int, stagger: Stagger, seed: int) -> list[int]:
    """How many minutes after the first each of `count` profiles goes out, in order; the first at 0.

    Each delay is drawn from the seed alone, so that what was shown is what is kept.
    """
    choices = Choices(seed)
    found, total = [], 0
    for number in range(count):
        if number:
            total += stagger.least + choices.below(stagger.most - stagger.least + 1)
        found.append(total)
    return found


def swayed(
    at: datetime, within: int, seed: int, zone: ZoneInfo, now: datetime, waking: Waking | None = None
) -> datetime:
    """The instant near `at`, at most `within` minutes off, that follows from the seed.

    It stays on `at`'s wall day in `zone`, inside the profile's waking hours, and after `now`. Where that leaves
    nothing, for a time outside the waking hours or one that has passed, it is `at` itself.
    """
    least, most = _bounds(at, within, zone, now, waking)
    steps = (most - least) // _MINUTE
    if steps < 0 or not least <= at <= most:
        return at
    return least + Choices(seed).below(steps + 1) * _MINUTE


def _bounds(
    at: datetime, within: int, zone: ZoneInfo, now: datetime, waking: Waking | None
) -> tuple[datetime, datetime]:
    """The first and the last instant that are allowed, whole minutes away from `at`."""
    wall = wall_in(at, zone)
    begins, ends = day_bounds(wall, zone)
    if waking is not None:
        begins = max(begins, resolve(datetime.combine(wall.date(), waking.begins), zone).instant)
        ends = min(ends, resolve(datetime.combine(wall.date(), waking.ends), zone).instant)
    before = min((at - begins) // _MINUTE, -((now - at) // _MINUTE) - 1, within)
    after = min(-((at - ends) // _MINUTE) - 1, within)
    return at - before * _MINUTE, at + after * _MINUTE
