"""What a rota is: its turns, their order, and what keeps them apart."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum


class Order(StrEnum):
    IN_ORDER = "in_order"
    SHUFFLE = "shuffle"


@dataclass(frozen=True, slots=True)
class Season:
    """From one day of the year to another, both included, as (month, day); over New Year when the last comes first."""

    first: tuple[int, int]
    last: tuple[int, int]

    def contains(self, day: date) -> bool:
        """Whether the day lies in it. The 29th of February is a day of its own."""
        at = (day.month, day.day)
        if self.first <= self.last:
            return self.first <= at <= self.last
        return at >= self.first or at <= self.last


@dataclass(frozen=True, slots=True)
class Turn:
    """A post in a rota. `wordings`: how many texts it has, used one after another; `times`: how often it goes to a profile at
    most; `until`: its last day; `seasons`: when it may go, always when there are none."""

    id: int
    wordings: int = 1
    times: int | None = None
    until: date | None = None
    seasons: tuple[Season, ...] = ()


@dataclass(frozen=True, slots=True)
class Rota:
    """How its turns are laid out.

    `rest_days`: days before the same post returns to the same profile; `gap_days`: days between any two of the rota's posts on a
    profile, so 1 is at most one a day, 2 every second day, 7 once a week; 0: every slot. `closed`: days on which it is silent.
    """

    order: Order = Order.IN_ORDER
    seed: int = 0
    rest_days: int = 0
    gap_days: int = 0
    until: date | None = None
    seasons: tuple[Season, ...] = ()
    closed: frozenset[date] = frozenset()


@dataclass(frozen=True, slots=True, order=True)
class RotaSlot:
    """A slot of a profile that the rota may take: its instant (UTC), and its day on the profile's wall."""

    at: datetime
    day: date


@dataclass(frozen=True, slots=True)
class PastTurn:
    """A turn that has gone to the profile, on which of its days, and in which round (None: a person put it there)."""

    turn: int
    day: date
    round: int | None = None


class EmptyReason(StrEnum):
    """Why a spot stays empty."""

    SKIPPED = "skipped"
    CLOSED = "closed"
    OUT_OF_SEASON = "out_of_season"
    OVER = "over"
    APART = "apart"
    RESTING = "resting"
    USED_UP = "used_up"


@dataclass(frozen=True, slots=True)
class Assignment:
    """What a spot gets: a turn with one of its wordings and in which round (both from 0), or none, and why. `fixed`: a
    person said so."""

    slot: RotaSlot
    turn: int | None = None
    wording: int = 0
    round: int | None = None
    fixed: bool = False
    empty_reason: EmptyReason | None = None


def in_season(seasons: Sequence[Season], day: date) -> bool:
    """Whether the day lies in one of them; always when there are none."""
    return not seasons or any(season.contains(day) for season in seasons)
