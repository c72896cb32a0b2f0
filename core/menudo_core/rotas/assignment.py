"""Lay a rota's turns into a profile's coming slots. The same turns, seed and past give the same plan."""

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime

from menudo_core.rotas.rota import Assignment, EmptyReason, Order, PastTurn, Rota, RotaSlot, Season, Turn, in_season


def assign_turns(
    rota: Rota,
    turns: Sequence[Turn],
    profile: int,
    spots: Sequence[RotaSlot],
    past: Sequence[PastTurn] = (),
    fixed: Mapping[datetime, int | None] | None = None,
) -> list[Assignment]:
    """What each spot of one profile gets, in their order.

    Turns go in rounds: in each round every turn that may go goes once, in the rota's order or one drawn by its seed, the
    round and the profile; one that rests or is out of season lets the next go first. A turn never returns to the profile
    within its rest, counted also to where it is fixed later on; where all that are left rest, the spot stays empty.
    `past`: what went to the profile before, the oldest first. `fixed`: what a person put at a spot's instant, None for
    nothing: it stays, whatever the rules say.
    """
    table = _Assigner(rota, turns, profile)
    for one in past:
        table.replay(one)
    ahead = _upcoming_fixed(spots, fixed or {})
    found = []
    for slot, later in zip(spots, ahead, strict=True):
        if fixed and slot.at in fixed:
            found.append(table.assign_fixed(slot, fixed[slot.at]))
        else:
            found.append(table.assign_next(slot, later))
    return found


# Of what is fixed after a spot: the first day of each turn, and the first of all. Days are counted from the year 1, as
# `date.toordinal` has them.
_Upcoming = tuple[Mapping[int, int], int | None]


def _upcoming_fixed(spots: Sequence[RotaSlot], fixed: Mapping[datetime, int | None]) -> list[_Upcoming]:
    days: dict[int, int] = {}
    first: int | None = None
    found: list[_Upcoming] = []
    for slot in reversed(spots):
        found.append((days, first))
        turn = fixed.get(slot.at)
        if turn is not None:
            day = slot.day.toordinal()
            days, first = {**days, turn: day}, day
    return found[::-1]


@dataclass(slots=True)
class _Assigner:
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
        self.pending = self._round_order(0)

    def replay(self, past: PastTurn) -> None:
        """It went before, in a round of then."""
        if past.round is not None and past.round > self.round:
            self.round, self.pending = past.round, self._round_order(past.round)
        self._take(past.turn, past.day)

    def assign_fixed(self, slot: RotaSlot, turn_id: int | None) -> Assignment:
        """What a person put there. It is its turn in the present round, if it hadn't had it."""
        if turn_id is None:
            return Assignment(slot, fixed=True, empty_reason=EmptyReason.SKIPPED)
        return Assignment(slot, turn_id, self._take(turn_id, slot.day), fixed=True)

    def _take(self, turn_id: int, day: date) -> int:
        """The turn goes on that day; which of its wordings."""
        times_used = self.times.get(turn_id, 0)
        self.newest = self.last[turn_id] = day.toordinal()
        self.times[turn_id] = times_used + 1
        self.pending.pop(turn_id, None)
        turn = self.by_id.get(turn_id)
        return times_used % turn.wordings if turn else 0

    def assign_next(self, slot: RotaSlot, later: _Upcoming) -> Assignment:
        why = self._empty_reason(slot.day, later[1])
        if why is not None:
            return Assignment(slot, empty_reason=why)
        turn, resting = self._first_eligible(self.pending, slot.day, later[0])
        if turn is None and not resting:
            # A round begins when something of it goes, not before: so what is laid out tomorrow is what was today.
            fresh = self._round_order(self.round + 1)
            turn, resting = self._first_eligible(fresh, slot.day, later[0])
            if turn is not None:
                self.round, self.pending = self.round + 1, fresh
        if turn is None:
            return Assignment(slot, empty_reason=EmptyReason.RESTING if resting else EmptyReason.USED_UP)
        return Assignment(slot, turn.id, self._take(turn.id, slot.day), self.round)

    def _empty_reason(self, day: date, later: int | None) -> EmptyReason | None:
        rota = self.rota
        if rota.until is not None and day > rota.until:
            return EmptyReason.OVER
        if day in rota.closed:
            return EmptyReason.CLOSED
        if not in_season(rota.seasons, day):
            return EmptyReason.OUT_OF_SEASON
        if rota.gap_days:
            at = day.toordinal()
            before = self.newest is not None and at - self.newest < rota.gap_days
            if before or (later is not None and later - at < rota.gap_days):
                return EmptyReason.APART
        return None

    def _first_eligible(
        self, round_number: Mapping[int, Turn], day: date, later: Mapping[int, int]
    ) -> tuple[Turn | None, bool]:
        """The first of a round that may go, and whether any that could only rests."""
        at, rest, resting = day.toordinal(), self.rota.rest_days, False
        # Turns share their seasons, mostly: each is looked at once a day.
        open_now: dict[tuple[Season, ...], bool] = {}
        for turn_id, turn in round_number.items():
            if turn.seasons:
                if turn.seasons not in open_now:
                    open_now[turn.seasons] = in_season(turn.seasons, day)
                if not open_now[turn.seasons]:
                    continue
            if (turn.times is not None and self.times.get(turn_id, 0) >= turn.times) or (
                turn.until and day > turn.until
            ):
                continue
            if at - self.last.get(turn_id, -rest) < rest or (turn_id in later and later[turn_id] - at < rest):
                resting = True
                continue
            return turn, resting
        return None, resting

    def _round_order(self, round_number: int) -> dict[int, Turn]:
        if self.rota.order is Order.IN_ORDER:
            return {turn.id: turn for turn in self.turns}
        # By a hash of each, not by one shuffle of all: a turn more leaves the others in their order.
        start = f"{self.rota.seed}:{self.profile}:{round_number}:"
        drawn = sorted(self.turns, key=lambda turn: hashlib.sha256(f"{start}{turn.id}".encode()).digest())
        return {turn.id: turn for turn in drawn}
