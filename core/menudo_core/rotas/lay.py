"""Lay a rota's turns into a profile's coming slots. The same turns, seed and past give the same plan."""

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime

from menudo_core.rotas.rota import Gone, Laid, Order, Rota, Season, Spot, Turn, Why, in_season


def lay(
    rota: Rota,
    turns: Sequence[Turn],
    profile: int,
    spots: Sequence[Spot],
    gone: Sequence[Gone] = (),
    fixed: Mapping[datetime, int | None] | None = None,
) -> list[Laid]:
    """What each spot of one profile gets, in their order.

    Turns go in rounds: in each round every turn that may go goes once, in the rota's order or one drawn by its seed, the
    round and the profile; one that rests or is out of season lets the next go first. A turn never returns to the profile
    within its rest, counted also to where it is fixed later on; where all that are left rest, the spot stays empty.
    `gone`: what went to the profile before, the oldest first. `fixed`: what a person put at a spot's instant, None for
    nothing: it stays, whatever the rules say.
    """
    table = _Table(rota, turns, profile)
    for one in gone:
        table.went(one)
    ahead = _ahead(spots, fixed or {})
    found = []
    for spot, later in zip(spots, ahead, strict=True):
        if fixed and spot.at in fixed:
            found.append(table.fixed(spot, fixed[spot.at]))
        else:
            found.append(table.next(spot, later))
    return found


# Of what is fixed after a spot: the first day of each turn, and the first of all. Days are counted from the year 1, as
# `date.toordinal` has them.
_Later = tuple[Mapping[int, int], int | None]


def _ahead(spots: Sequence[Spot], fixed: Mapping[datetime, int | None]) -> list[_Later]:
    days: dict[int, int] = {}
    first: int | None = None
    found: list[_Later] = []
    for spot in reversed(spots):
        found.append((days, first))
        turn = fixed.get(spot.at)
        if turn is not None:
            day = spot.day.toordinal()
            days, first = {**days, turn: day}, day
    return found[::-1]


@dataclass(slots=True)
class _Table:
    """Where the rounds of one profile stand."""

    rota: Rota
    turns: Sequence[Turn]
    profile: int
    by_id: dict[int, Turn] = field(init=False)
    round: int = 0
    pending: dict[int, Turn] = field(default_factory=dict)
    times: dict[int, int] = field(default_factory=dict)
    last: dict[int, int] = field(default_factory=dict)
    newest: int | None = None

    def __post_init__(self) -> None:
        self.by_id = {turn.id: turn for turn in self.turns}
        self.pending = self._ordered(0)

    def went(self, one: Gone) -> None:
        """It went before, in a round of then."""
        if one.round is not None and one.round > self.round:
            self.round, self.pending = one.round, self._ordered(one.round)
        self._take(one.turn, one.day)

    def fixed(self, spot: Spot, id: int | None) -> Laid:
        """What a person put there. It is its turn in the present round, if it hadn't had it."""
        if id is None:
            return Laid(spot, fixed=True, why=Why.SKIPPED)
        return Laid(spot, id, self._take(id, spot.day), fixed=True)

    def _take(self, id: int, day: date) -> int:
        """The turn goes on that day; which of its wordings."""
        had = self.times.get(id, 0)
        self.newest = self.last[id] = day.toordinal()
        self.times[id] = had + 1
        self.pending.pop(id, None)
        turn = self.by_id.get(id)
        return had % turn.wordings if turn else 0

    def next(self, spot: Spot, later: _Later) -> Laid:
        why = self._silent(spot.day, later[1])
        if why is not None:
            return Laid(spot, why=why)
        turn, resting = self._first(self.pending, spot.day, later[0])
        if turn is None and not resting:
            # A round begins when something of it goes, not before: so what is laid out tomorrow is what was today.
            fresh = self._ordered(self.round + 1)
            turn, resting = self._first(fresh, spot.day, later[0])
            if turn is not None:
                self.round, self.pending = self.round + 1, fresh
        if turn is None:
            return Laid(spot, why=Why.RESTING if resting else Why.USED_UP)
        return Laid(spot, turn.id, self._take(turn.id, spot.day), self.round)

    def _silent(self, day: date, later: int | None) -> Why | None:
        rota = self.rota
        if rota.until is not None and day > rota.until:
            return Why.OVER
        if day in rota.closed:
            return Why.CLOSED
        if not in_season(rota.seasons, day):
            return Why.OUT_OF_SEASON
        if rota.apart:
            at = day.toordinal()
            before = self.newest is not None and at - self.newest < rota.apart
            if before or (later is not None and later - at < rota.apart):
                return Why.APART
        return None

    def _first(self, round: Mapping[int, Turn], day: date, later: Mapping[int, int]) -> tuple[Turn | None, bool]:
        """The first of a round that may go, and whether any that could only rests."""
        at, rest, resting = day.toordinal(), self.rota.rest, False
        # Turns share their seasons, mostly: each is looked at once a day.
        open_now: dict[tuple[Season, ...], bool] = {}
        for id, turn in round.items():
            if turn.seasons:
                if turn.seasons not in open_now:
                    open_now[turn.seasons] = in_season(turn.seasons, day)
                if not open_now[turn.seasons]:
                    continue
            if (turn.times is not None and self.times.get(id, 0) >= turn.times) or (turn.until and day > turn.until):
                continue
            if at - self.last.get(id, -rest) < rest or (id in later and later[id] - at < rest):
                resting = True
                continue
            return turn, resting
        return None, resting

    def _ordered(self, round: int) -> dict[int, Turn]:
        if self.rota.order is Order.IN_ORDER:
            return {turn.id: turn for turn in self.turns}
        # By a hash of each, not by one shuffle of all: a turn more leaves the others in their order.
        start = f"{self.rota.seed}:{self.profile}:{round}:"
        drawn = sorted(self.turns, key=lambda turn: hashlib.sha256(f"{start}{turn.id}".encode()).digest())
        return {turn.id: turn for turn in drawn}
