"""Rotas: rounds, rest, seasons, what is fixed; against a plain model. Quotations go at most once a day: common practice, no
published source. All other numbers are invented."""

from collections import Counter
from datetime import UTC, date, datetime, time, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

from hypothesis import given
from hypothesis import strategies as st

from menudo_core.rotas.assignment import assign_turns
from menudo_core.rotas.exhaustion import find_exhaustion
from menudo_core.rotas.rota import Assignment, EmptyReason, Order, PastTurn, Rota, RotaSlot, Season, Turn
from menudo_core.timing.slots import Slot, slots_between

FIRST = date(2026, 11, 25)
DAY = timedelta(days=1)


def spots(count: int, every: int = 1, start: date = FIRST) -> list[RotaSlot]:
    """A slot every so many days."""
    days = [start + n * every * DAY for n in range(count)]
    return [RotaSlot(datetime.combine(day, time(9), UTC), day) for day in days]


def turns(*ids: int, **how) -> list[Turn]:
    return [Turn(turn_id, **how) for turn_id in ids]


def which(laid: list[Assignment]) -> list[int | None]:
    return [one.turn for one in laid]


def test_in_order_round_after_round_with_one_wording_after_another():
    laid = assign_turns(Rota(), [Turn(1, wordings=2), Turn(2), Turn(3)], 7, spots(7))
    assert which(laid) == [1, 2, 3, 1, 2, 3, 1]
    assert [one.wording for one in laid] == [0, 0, 0, 1, 0, 0, 0]
    assert [one.round for one in laid] == [0, 0, 0, 1, 1, 1, 2]


def test_what_rests_lets_the_next_go_first_and_where_all_rest_the_spot_stays_empty():
    two = assign_turns(Rota(rest_days=3), turns(1, 2), 7, spots(6))
    assert which(two) == [1, 2, None, 1, 2, None]
    assert two[2].empty_reason is EmptyReason.RESTING
    again = assign_turns(Rota(rest_days=3), turns(1, 2, 3), 7, spots(3), past=[PastTurn(1, FIRST - DAY)])
    assert which(again) == [2, 3, 1]


def test_seasons_ends_and_closed_days():
    winter = Season((11, 1), (2, 28))
    assert [winter.contains(date(2026, *md)) for md in ((10, 31), (11, 1), (12, 31), (1, 1), (2, 28), (3, 1))] == [
        False,
        True,
        True,
        True,
        True,
        False,
    ]
    yule = Turn(9, seasons=(Season((11, 27), (11, 28)),))
    rota = Rota(closed=frozenset({FIRST + DAY}), until=FIRST + 5 * DAY)
    laid = assign_turns(rota, [*turns(1, 2), yule], 7, spots(7))
    assert which(laid) == [1, None, 2, 9, 1, 2, None]
    assert (laid[1].empty_reason, laid[6].empty_reason) == (EmptyReason.CLOSED, EmptyReason.OVER)
    summer = assign_turns(Rota(seasons=(Season((6, 1), (8, 31)),)), turns(1), 7, spots(1))
    assert summer[0].empty_reason is EmptyReason.OUT_OF_SEASON
    assert which(assign_turns(Rota(), [Turn(1, until=FIRST), Turn(2)], 7, spots(4))) == [1, 2, 2, 2]


def test_a_turn_stops_after_so_many_times_and_the_rota_says_when_it_runs_dry():
    laid = assign_turns(Rota(), turns(1, 2, times=2), 7, spots(30))
    assert which(laid)[:5] == [1, 2, 1, 2, None] and laid[4].empty_reason is EmptyReason.USED_UP
    dry = find_exhaustion(laid, FIRST)
    assert dry is not None and (dry.day, dry.weeks, dry.reason) == (FIRST + 4 * DAY, 0, EmptyReason.USED_UP)
    assert find_exhaustion(assign_turns(Rota(), turns(1), 7, spots(30)), FIRST) is None
    assert find_exhaustion(assign_turns(Rota(rest_days=30), turns(*range(21)), 7, spots(60)), FIRST).weeks == 3
    assert find_exhaustion(assign_turns(Rota(until=FIRST), turns(1), 7, spots(5)), FIRST) is None
    dry_days = {n: find_exhaustion(laid[4:], FIRST + n * DAY) for n in (-10, -3, -2, 4, 9)}
    assert {n: one.weeks for n, one in dry_days.items() if one} == {-10: 2, -3: 1, -2: 0, 4: 0, 9: 0}


def test_what_went_in_a_later_round_takes_the_profile_there():
    # Two of three went in a second round, on other days: what is left of it comes first, then the third.
    past = [PastTurn(1, FIRST - 2 * DAY, 1), PastTurn(2, FIRST - DAY, 1)]
    laid = assign_turns(Rota(), turns(1, 2, 3), 7, spots(4), past=past)
    assert [(one.turn, one.round) for one in laid] == [(3, 1), (1, 2), (2, 2), (3, 2)]
    # Put there by a person it has had its turn in the round; left out by one, nothing has.
    fixed = {spots(1)[0].at: 2}
    assert which(assign_turns(Rota(), turns(1, 2, 3), 7, spots(4), fixed=fixed)) == [2, 1, 3, 1]
    assert [one.wording for one in assign_turns(Rota(), turns(1, wordings=2), 7, spots(3))] == [0, 1, 0]


def test_every_second_day_once_a_week_and_at_most_once_a_day():
    twice_a_day = sorted(
        RotaSlot(datetime.combine(FIRST + n * DAY, time(hour), UTC), FIRST + n * DAY)
        for n in range(14)
        for hour in (9, 18)
    )
    for apart, count in ((0, 28), (1, 14), (2, 7), (7, 2)):
        laid = assign_turns(Rota(gap_days=apart), turns(1, 2, 3), 7, twice_a_day)
        days = [one.slot.day for one in laid if one.turn]
        assert len(days) == count
        assert all(b - a >= apart * DAY for a, b in pairwise(days))
    # Also before what a person put there: just far enough is far enough.
    fixed = {spots(4)[3].at: 9}
    assert which(assign_turns(Rota(gap_days=3), turns(1, 2), 7, spots(4), fixed=fixed)) == [1, None, None, 9]
    assert which(assign_turns(Rota(gap_days=4), turns(1, 2), 7, spots(4), fixed=fixed)) == [None, None, None, 9]


def test_what_is_fixed_stays_and_rest_is_kept_to_it_before_and_after():
    at = spots(8)
    fixed = {at[3].at: 1, at[5].at: None}
    laid = assign_turns(Rota(rest_days=2), turns(1, 2, 3), 7, at, fixed=fixed)
    assert (laid[3].turn, laid[3].fixed, laid[5].turn, laid[5].empty_reason) == (1, True, None, EmptyReason.SKIPPED)
    more = assign_turns(Rota(rest_days=2), turns(1, 2, 3, 4, 5), 7, at, fixed=fixed)
    assert [(one.turn, one.fixed) for one in more if one.fixed] == [(1, True), (None, True)]
    once_a_week = assign_turns(Rota(gap_days=7), turns(1, 2), 7, spots(15), fixed={spots(15)[10].at: 2})
    assert [n for n, one in enumerate(once_a_week) if one.turn] == [0, 10]


def test_a_shuffle_is_the_same_again_another_for_each_profile_and_hardly_changed_by_one_post_more():
    rota = Rota(Order.SHUFFLE, seed=5)
    one = which(assign_turns(rota, turns(*range(20)), 7, spots(20)))
    assert one == which(assign_turns(rota, turns(*range(20)), 7, spots(20)))
    assert sorted(one) == list(range(20)) != one
    assert one != which(assign_turns(rota, turns(*range(20)), 8, spots(20)))
    more = which(assign_turns(rota, turns(*range(21)), 7, spots(21)))
    assert [turn_id for turn_id in more if turn_id != 20] == one


rotas = st.builds(
    Rota,
    order=st.sampled_from(Order),
    seed=st.integers(0, 9),
    rest_days=st.integers(0, 9),
    gap_days=st.integers(0, 3),
    closed=st.frozensets(st.integers(0, 40).map(lambda n: FIRST + n * DAY), max_size=4),
)
some_turns = st.lists(
    st.builds(
        Turn,
        st.integers(1, 12),
        st.integers(1, 3),
        st.none() | st.integers(1, 4),
        seasons=st.sampled_from([(), (), (Season((12, 1), (12, 10)),)]),
    ),
    max_size=8,
    unique_by=lambda turn: turn.id,
)


@given(
    rotas,
    some_turns,
    st.integers(1, 60),
    st.lists(st.tuples(st.integers(0, 59), st.none() | st.integers(1, 12)), max_size=4),
)
def test_rest_counts_and_what_is_fixed_are_always_kept(rota, found, count, wished):
    at = spots(count)
    fixed = {at[n].at: turn for n, turn in wished if n < count}
    laid = assign_turns(rota, found, 7, at, fixed=fixed)
    assert [one.slot for one in laid] == at
    assert {one.slot.at: one.turn for one in laid if one.fixed} == fixed
    by_turn: dict[int, list[Assignment]] = {}
    for one in laid:
        if one.turn is not None:
            by_turn.setdefault(one.turn, []).append(one)
    known = {turn.id: turn for turn in found}
    for turn_id, times in by_turn.items():
        for a, b in pairwise(times):
            assert b.slot.day - a.slot.day >= rota.rest_days * DAY or (a.fixed and b.fixed)
        for n, one in enumerate(times):
            if not one.fixed:
                assert known[turn_id].times is None or n < known[turn_id].times
                assert not known[turn_id].seasons or known[turn_id].seasons[0].contains(one.slot.day)
                assert one.slot.day not in rota.closed


@given(rotas, st.integers(1, 8), st.integers(1, 60))
def test_every_post_goes_once_before_any_goes_twice(rota, posts, count):
    had: Counter[int] = Counter(dict.fromkeys(range(posts), 0))
    for one in assign_turns(rota, turns(*range(posts)), 7, spots(count)):
        if one.turn is not None:
            had[one.turn] += 1
        assert max(had.values()) - min(had.values()) <= 1


@given(rotas, some_turns, st.integers(1, 50), st.integers(0, 50))
def test_what_was_seen_to_come_comes_whenever_one_looks(rota, found, count, past):
    """Laid out today, and again when some of it has gone: the rest is the same."""
    at = spots(count)
    whole = assign_turns(rota, found, 7, at)
    gone = [PastTurn(one.turn, one.slot.day, one.round) for one in whole[:past] if one.turn is not None]
    assert assign_turns(rota, found, 7, at[past:], past=gone) == whole[past:]


def plainly(rota: Rota, found: list[Turn], profile: int, at: list[RotaSlot]) -> list[int | None]:
    """The same, the long way: each spot from all that went before, nothing remembered but the round's posts."""
    went: list[tuple[int, date]] = []
    this_round: set[int] = set()
    number, answer = 0, []
    for spot in at:
        day, chosen = spot.day, None
        silent = day in rota.closed or any((day - d).days < rota.gap_days for _, d in went)
        able = [
            t
            for t in found
            if (t.times is None or sum(turn_id == t.id for turn_id, _ in went) < t.times)
            and (not t.seasons or any(s.contains(day) for s in t.seasons))
        ]
        if able and not silent:
            if all(t.id in this_round for t in able):
                this_round, number = set(), number + 1
            ready = [
                t
                for t in able
                if t.id not in this_round
                and not any(turn_id == t.id and (day - d).days < rota.rest_days for turn_id, d in went)
            ]
            if ready and rota.order is Order.SHUFFLE:
                # The order drawn is taken from the code itself: the model is of what is made of it.
                free = turns(*(t.id for t in found))
                ids = which(
                    assign_turns(Rota(Order.SHUFFLE, rota.seed), free, profile, spots(len(found) * (number + 1)))
                )
                drawn = ids[len(found) * number :]
                ready.sort(key=lambda t: drawn.index(t.id))
            chosen = ready[0].id if ready else None
        if chosen is not None:
            went.append((chosen, day))
            this_round.add(chosen)
        answer.append(chosen)
    return answer


def test_a_year_of_forty_posts_on_ten_profiles_is_what_a_plain_model_says():
    zone = ZoneInfo("Europe/Madrid")
    start, end = datetime(2026, 1, 1, tzinfo=UTC), datetime(2027, 1, 1, tzinfo=UTC)
    found = [
        Turn(
            n,
            wordings=1 + n % 3,
            times=6 if n % 10 == 0 else None,
            seasons=(Season((3, 1), (5, 31)),) if n % 7 == 0 else (),
        )
        for n in range(40)
    ]
    for profile in range(10):
        slots = [Slot((profile + k) % 7, time(8 + k, 30)) for k in range(1 + profile % 5)]
        at = [RotaSlot(instant, instant.astimezone(zone).date()) for instant in slots_between(slots, start, end, zone)]
        order = Order.SHUFFLE if profile % 2 else Order.IN_ORDER
        rota = Rota(order, seed=3, rest_days=30 + profile, gap_days=profile % 3)
        laid = assign_turns(rota, found, profile, at)
        plain = [Turn(t.id, times=t.times, seasons=t.seasons) for t in found]
        assert which(laid) == plainly(rota, plain, profile, at)
        assert sum(one.turn is not None for one in laid) > 40
