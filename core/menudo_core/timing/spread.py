"""Spreading: a delay between the profiles of one post (stagger), and a time that varies a little (sway)."""

from dataclasses import dataclass
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from menudo_core.choices import Choices
from menudo_core.timing.walltimes import wall_time_in

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


def stagger_delays(count: int, stagger: Stagger, seed: int) -> list[int]:
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


def apply_jitter(
    at: datetime, within: int, seed: int, zone: ZoneInfo, now: datetime, waking: Waking | None = None
) -> datetime:
    """The instant near `at`, at most `within` minutes off, that follows from the seed.

    It stays on `at`'s wall day in `zone`, inside the profile's waking hours, and after `now`. Where that leaves
    nothing, for a time outside the waking hours or one that has passed, it is `at` itself.
    """
    meant = wall_time_in(at, zone)
    least, most = at - within * _MINUTE, at + within * _MINUTE
    begins = datetime.combine(meant, waking.begins if waking else time())
    ends = datetime.combine(meant, waking.ends) if waking else datetime.combine(meant, time()) + timedelta(days=1)
    # Where no clock changes in between the wall goes as time does; else each instant is asked for what the clock shows: on such
    # a day the waking hours are no one span of instants.
    steady = least.astimezone(zone).utcoffset() == most.astimezone(zone).utcoffset() == at.astimezone(zone).utcoffset()
    allowed = []
    for n in range(-within, within + 1):
        instant = at + n * _MINUTE
        wall_time = meant + n * _MINUTE if steady else wall_time_in(instant, zone)
        if begins <= wall_time < ends and instant > now:
            allowed.append(instant)
    return allowed[Choices(seed).below(len(allowed))] if at in allowed else at
