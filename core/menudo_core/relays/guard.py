"""What keeps relays in hand: nothing old, nothing twice, nothing back to where it has been, no flood."""

from collections.abc import Set
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from enum import StrEnum

from menudo_core.relays.item import Item
from menudo_core.timing.hours import Hours

HOUR = timedelta(hours=1)


@dataclass(frozen=True, slots=True)
class RelayState:
    """From a source (its key) to a profile (its id). `since`: what appeared before isn't carried; `hourly_limit`: how many an hour,
    before it pauses and tells. `paused`: it has, or somebody paused it."""

    source: str
    target: int
    since: datetime
    hourly_limit: int = 10
    paused: bool = False


class Verdict(StrEnum):
    """What becomes of an item at a relay; all but the first say why it didn't fire."""

    FIRES = "fires"
    PAUSED = "paused"
    OLD = "old"
    BEEN_THERE = "been_there"
    TWICE = "twice"
    TOO_MANY = "too_many"


def evaluate_relay(relay: RelayState, item: Item, seen_by: Set[str], fired_last_hour: int) -> Verdict:
    """Whether the relay carries the item.

    `seen_by`: the origins of all that was ever carried to the target or appeared there, by whatever path; `fired_last_hour`: how many the
    relay carried in the last hour. With TOO_MANY the relay pauses, and people are told.
    """
    if relay.paused:
        return Verdict.PAUSED
    if item.at < relay.since:
        return Verdict.OLD
    if relay.target in item.trail:
        return Verdict.BEEN_THERE
    if item.origin in seen_by:
        return Verdict.TWICE
    return Verdict.TOO_MANY if fired_last_hour >= relay.hourly_limit else Verdict.FIRES


def must_wait(at: time, hours: Hours | None, today: int, per_day: int | None) -> bool:
    """Whether what a relay takes has to wait: it is `at` (on the wall) outside its hours, or it carried its number for the
    day already. None: as it comes."""
    return (hours is not None and not hours.contains(at)) or (per_day is not None and today >= per_day)
