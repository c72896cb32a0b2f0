"""What lies just at a limit, one below and one above it: insight, plans, rotas, timing, sending, writing. All numbers are invented, or
the rule's own."""

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from zoneinfo import ZoneInfo

import pytest

from menudo_core.almanac.public_holidays import public_holidays
from menudo_core.catalogue.events import Availability
from menudo_core.catalogue.mapping import Field, parse_row, with_currency
from menudo_core.insight.posting_times import SIGNIFICANCE, Cell, PostingTimes, better_posting_times, suggested_slots
from menudo_core.insight.spacing import Kind, ScheduledItem, SpacingPreferences, spacing_advice
from menudo_core.insight.tags import PublishedPost, TagPerformance, tag_performance
from menudo_core.insight.top_posts import top_posts
from menudo_core.plans.dates import split_moment
from menudo_core.plans.lists import split_names
from menudo_core.plans.rows import parse_rows
from menudo_core.plans.table import parse_table
from menudo_core.rotas.assignment import assign_turns
from menudo_core.rotas.rota import PastTurn, Rota, RotaSlot, Turn
from menudo_core.sending.decision import Backoff
from menudo_core.signoff.schedule import Schedule, SendStep, unschedule
from menudo_core.signoff.states import DeliveryState, Event
from menudo_core.timing.default_slots import default_slots
from menudo_core.timing.slots import Slot, slots_between
from menudo_core.timing.spread import Waking, apply_jitter
from menudo_core.wording.builtin import BuiltInWriter
from menudo_core.wording.suggest import TagKnowledge, suggest_hashtags
from menudo_core.wording.writer import CannotWriteError, TaskKind, WritingTask

MADRID = ZoneInfo("Europe/Madrid")
MONDAY = datetime(2026, 11, 23, 12, tzinfo=UTC)
FIRST = datetime(2026, 11, 23, 9, tzinfo=UTC)
MINUTE, DAY = timedelta(minutes=1), timedelta(days=1)


def out(*earned: float | None, profile: int = 1, start: int = 0, tags: str = "") -> list[PublishedPost]:
    return [PublishedPost(start + n, profile, frozenset(tags.split()), value) for n, value in enumerate(earned)]


def test_a_post_is_better_than_usual_beside_five_measured_ones_of_its_profile():
    five, four = out(10, 10, 10, 10, 20, None), out(1, 1, 1, 50, profile=2, start=10)
    assert [(one.post_id, one.earned) for one in top_posts([*five, *four], 9)] == [(4, 20)]
    assert top_posts(five, 9)[0].times_usual == pytest.approx(20 / 12)
    assert top_posts(out(5, 5, 5, 5, 5), 9) == [], "as usual is not better"
    # Of two that did alike the first comes first; of one at two profiles it is the mean of both.
    level = [*out(1, 1, 1, 3, 3, 3), *out(2, 2, 2, 2, 2, 8, profile=2)]
    assert [one.post_id for one in top_posts(level, 3)] == [5, 3, 4]
    assert top_posts(level, 1)[0].times_usual == pytest.approx((3 / 2 + 8 / 3) / 2)
    assert top_posts(level, 1)[0].earned == 11


def test_a_tags_past_is_told_from_three_posts_on_among_twenty():
    def past(with_tag: int, others: int) -> TagPerformance:
        return tag_performance([*out(*[30] * with_tag, tags="moss"), *out(*[10] * others, start=50, tags="fern")])[
            "moss"
        ]

    assert past(3, 17).times_usual is not None and past(2, 18).times_usual is None is past(3, 16).times_usual
    assert (past(2, 18).posts, past(2, 18).earned) == (2, 30)


def test_posting_times_are_told_from_twenty_posts_at_three_times():
    def told(per_time: tuple[int, ...]) -> str:
        at = [(MONDAY + n * timedelta(hours=3), count) for n, count in enumerate(per_time)]
        results = [(when + 7 * k * DAY, 100.0 if when == MONDAY else 10.0 + k) for when, n in at for k in range(n)]
        found = better_posting_times(results, MADRID)
        return found.unavailable_reason if not found.cells else f"{len(found.cells)} times"

    assert told((7, 6, 6)) == "Not enough to say: 19 posts with results, and it takes 20."
    assert told((7, 7, 6)) == "3 times"
    assert "too few different times" in told((10, 10))
    assert "each only once" in told((1,) * 20)


def test_a_repetition_is_one_within_the_days_and_none_at_their_end():
    def kinds(apart: timedelta) -> list[Kind]:
        going = [
            ScheduledItem(1, 1, MONDAY, media=frozenset({7})),
            ScheduledItem(2, 1, MONDAY + apart, media=frozenset({7})),
        ]
        wish = {1: SpacingPreferences(repeat_days=3)}
        return [a.kind for a in spacing_advice(going, wish, {1: MADRID}, date(2026, 11, 23), date(2026, 12, 6))]

    assert kinds(3 * DAY - MINUTE) == [Kind.MEDIA] and kinds(3 * DAY) == []


def test_words_near_the_same_are_a_repetition_within_the_days_and_a_day_takes_as_many_as_it_takes():
    def told(wish: SpacingPreferences, *apart: timedelta) -> list[Kind]:
        text = frozenset({"the moss on the wall"})
        going = [ScheduledItem(n, 1, MONDAY + when, text=text) for n, when in enumerate((0 * DAY, *apart))]
        return [a.kind for a in spacing_advice(going, {1: wish}, {1: MADRID}, date(2026, 11, 23), date(2026, 12, 6))]

    assert told(SpacingPreferences(repeat_days=3), 3 * DAY - MINUTE) == [Kind.TEXT]
    assert told(SpacingPreferences(repeat_days=3), 3 * DAY) == []
    two = SpacingPreferences(max_per_day=2)
    assert told(two, MINUTE) == [] and told(two, MINUTE, 2 * MINUTE) == [Kind.PACE]


def test_a_gap_goes_on_beyond_the_windows_last_day():
    going = [ScheduledItem(1, 1, MONDAY), ScheduledItem(2, 1, MONDAY + 15 * DAY)]
    wish = {1: SpacingPreferences(max_gap_days=4)}
    (gap,) = spacing_advice(going, wish, {1: MADRID}, date(2026, 11, 23), date(2026, 12, 6))
    assert (gap.first, gap.last) == (date(2026, 11, 24), date(2026, 12, 6)) and gap.summary.startswith("14 days")
    (gap,) = spacing_advice(going[:1], wish, {1: MADRID}, date(2026, 11, 23), date(2026, 12, 6))
    assert gap.summary.startswith("13 days")


def test_a_rota_lets_a_turn_go_again_when_its_rest_is_over_to_the_day():
    def laid(rest: int, fixed_on: int) -> list[int | None]:
        slots = [RotaSlot(MONDAY + n * DAY, (MONDAY + n * DAY).date()) for n in range(fixed_on + 1)]
        fixed = {slots[fixed_on].at: 1}
        return [one.turn for one in assign_turns(Rota(rest_days=rest), [Turn(1)], 7, slots, fixed=fixed)]

    assert laid(2, 2) == [1, None, 1] and laid(3, 2) == [None, None, 1]


def test_jitter_stays_after_now_and_inside_the_waking_hours():
    noon, waking = MONDAY, Waking(time(12), time(14))
    found = {apply_jitter(noon, 5, seed, MADRID, noon - 2 * MINUTE, waking) for seed in range(200)}
    assert found == {noon + n * MINUTE for n in range(-1, 6)}, "what is now has passed"
    # It is 13:00 in Madrid: the hours begin with their first minute, and end before their last.
    assert (
        min(apply_jitter(noon - 58 * MINUTE, 5, s, MADRID, noon - DAY, waking) for s in range(200))
        == noon - 60 * MINUTE
    )
    assert (
        max(apply_jitter(noon + 58 * MINUTE, 5, s, MADRID, noon - DAY, waking) for s in range(200))
        == noon + 59 * MINUTE
    )


def test_slots_from_the_very_start_to_before_the_very_end():
    daily = [Slot(day, time(13)) for day in range(7)]
    assert slots_between(daily, MONDAY, MONDAY + 2 * DAY, MADRID) == [MONDAY, MONDAY + DAY]
    assert slots_between(daily, MONDAY + MINUTE, MONDAY + DAY + MINUTE, MADRID) == [MONDAY + DAY]
    assert slots_between([], MONDAY, MONDAY + 9 * DAY, MADRID) == []


def test_first_timetables_are_those_of_the_networks_use():
    def told(use: str) -> list[tuple[int, str]]:
        return [(slot.weekday, slot.at.isoformat("minutes")) for slot in default_slots(use)]

    assert told("listing") == [(0, "10:00"), (3, "10:00")] and told("photo") == [(d, "18:30") for d in range(7)]
    assert told("video") == [(3, "17:00"), (6, "11:00")] and told("board") == [(0, "20:00"), (2, "20:00"), (5, "20:00")]
    assert told("professional") == [(d, "08:30") for d in (1, 2, 3)] and told("?") == [(d, "12:00") for d in range(5)]
    assert told("page") == [*((d, "12:30") for d in range(5)), (5, "11:00"), (6, "11:00")]
    assert [at for day, at in told("short") if day == 4] == ["09:00", "13:00", "18:00"] and (6, "11:00") in told(
        "short"
    )


def test_a_catalogues_row_at_its_edges():
    mapping = {field: field.value for field in Field}

    def read(**cells: str):
        return parse_row(
            {"key": "1", "title": "Loaf", **cells} | {Field.KEY.value: "1", Field.TITLE.value: "Loaf"}, mapping
        )

    priced = read(**{Field.PRICE.value: "4.50"})
    assert priced.item.price == Decimal("4.50") and with_currency(priced, "EUR").item.currency == "EUR"
    assert with_currency(read(**{Field.PRICE.value: "4", Field.CURRENCY.value: "usd"}), "EUR").item.currency == "USD"
    assert with_currency(read(), "EUR").item.currency == ""
    assert read(**{Field.STANDING.value: "https://schema.org/SoldOut"}).item.availability is Availability.SOLD
    long, fits = "https://a.example/" + "x" * 1983, "https://a.example/" + "x" * 1982
    assert (read(**{Field.LINK.value: fits}).link, read(**{Field.LINK.value: long}).link) == (fits, "")
    assert read(**{Field.LINK.value: "ftp://a.example"}).link == ""


def test_suggested_tags_weigh_what_is_near_above_what_did_well_elsewhere():
    past = {"moss": TagPerformance(4, 12.0, 1.0), "garden": TagPerformance(10, 12.0, 1.0), "once": TagPerformance(1)}
    weights = {s.tag: s.weight for s in suggest_hashtags("Moss on the wall", TagKnowledge(past=past), 9)}
    assert weights == pytest.approx({"moss": 2.4, "garden": 1.5})
    assert {s.tag for s in suggest_hashtags("gas gas buses", TagKnowledge(topics=("gas",)), 9)} == {"gas"}


def test_a_moment_is_a_date_and_what_stands_behind_it():
    assert split_moment(" 2026-12-01 15:00 ") == ("2026-12-01", "15:00") and split_moment("tomorrow") == (
        "tomorrow",
        "",
    )


def test_waits_double_from_half_to_all_of_each_up_to_the_longest():
    back = Backoff(timedelta(seconds=20), timedelta(minutes=2))
    seconds = [[back.delay(tried, dice).total_seconds() for dice in (0, 0.5, 1)] for tried in (1, 2, 3, 4, 99)]
    assert seconds == [[10, 15, 20], [20, 30, 40], [40, 60, 80], [60, 90, 120], [60, 90, 120]]


def test_what_is_taken_off_is_in_nobodys_hand_and_keeps_how_far_sending_got():
    planned = Schedule(1, DeliveryState.PLANNED, MONDAY, MONDAY.replace(tzinfo=None), "Europe/Madrid", 3, 2, 7, tries=2)
    by_step = {step: unschedule(replace(planned, step=step), Event.UNPLAN) for step in SendStep}
    assert {step: off.step for step, off in by_step.items()} == {
        **{s: s for s in SendStep},
        SendStep.HAND: SendStep.NONE,
    }
    off = by_step[SendStep.HAND]
    assert (off.was_due, off.due_at, off.wall_time, off.delay, off.jitter, off.seed) == (MONDAY, None, None, 0, 0, None)
    assert (off.tries, off.zone) == (2, "Europe/Madrid")


@pytest.mark.parametrize(
    ("cell", "names"),
    [
        ("a", ("a",)),
        ("a;", ("a",)),
        (";a;;b", ("a", "b")),
        ("a|b\na", ("a", "b")),
        ('"a;b"; c', ("a;b", "c")),
        ('"say ""hi"""', ('say "hi"',)),
        ("", ()),
    ],
)
def test_names_in_a_cell(cell, names):
    assert split_names(cell) == names


def test_a_row_may_have_fewer_cells_than_the_header_and_more_where_they_are_blank():
    head = "date,profiles,text,labels\n"

    def faults(row: str) -> list[str]:
        (found,) = parse_rows(parse_table((head + row).encode()), [])
        return [fault.message for fault in found.faults]

    assert (
        faults("2026-12-01,a,Moss\n")
        == []
        == faults("2026-12-01,a,Moss,Talks\n")
        == faults("2026-12-01,a,Moss,Talks, ,\n")
    )
    assert [words[:28] for words in faults("2026-12-01,a,Moss,Talks,x\n")] == ["The row has more cells than "]


def laid(rota: Rota, turns: list[Turn], days: int, **how) -> list:
    slots = [RotaSlot(FIRST + n * DAY, (FIRST + n * DAY).date()) for n in range(days)]
    return assign_turns(rota, turns, 7, slots, **how)


def test_a_rota_goes_on_in_the_round_and_with_the_wording_it_had():
    yesterday = (FIRST - DAY).date()
    two = [Turn(1, wordings=2), Turn(2)]
    on = laid(Rota(), two, 3, past=[PastTurn(1, yesterday, 3)])
    assert [(one.turn, one.wording, one.round) for one in on] == [(2, 0, 3), (1, 1, 4), (2, 0, 4)]
    fresh = laid(Rota(), two, 2)
    assert [(one.turn, one.wording, one.round) for one in fresh] == [(1, 0, 0), (2, 0, 0)]
    # Of a turn that is gone, only that something went out that day is known.
    apart = laid(Rota(gap_days=2), two, 3, past=[PastTurn(99, yesterday, 0)])
    assert [one.turn for one in apart] == [None, 1, None]


def test_so_many_times_and_until_that_day_and_no_more():
    assert [one.turn for one in laid(Rota(), [Turn(1, times=2)], 3)] == [1, 1, None]
    until = [Turn(1, until=(FIRST + DAY).date())]
    assert [one.turn for one in laid(Rota(), until, 3)] == [1, 1, None]
    ends = Rota(until=(FIRST + DAY).date())
    assert [one.turn for one in laid(ends, [Turn(1)], 3)] == [1, 1, None]
    closed = Rota(closed=frozenset({FIRST.date()}))
    assert [one.turn for one in laid(closed, [Turn(1)], 2)] == [None, 1]


def test_jitter_on_a_night_of_a_clock_change_goes_by_what_the_clock_shows():
    # IANA: Madrid goes back from +2 to +1 at 01:00 UTC on 25 October 2026.
    at = datetime(2026, 10, 25, 1, 2, tzinfo=UTC)
    waking = Waking(time(1, 55), time(2, 50))
    found = {apply_jitter(at, 5, seed, MADRID, at - DAY, waking) for seed in range(200)}
    assert found == {at + n * MINUTE for n in range(-2, 6)}, "before the change the clock shows 02:57"


def test_a_cell_is_better_where_it_lies_above_the_usual_and_chance_seldom_does_that():
    cell = Cell(0, 9, 5, 12.0, 12.0, 11.0, 13.0, 0.1, SIGNIFICANCE)
    assert cell.is_significant and not replace(cell, lift=0.0).is_significant
    assert not replace(cell, chance=SIGNIFICANCE + 0.001).is_significant
    cells = tuple(replace(cell, weekday=day, hour=hour) for day, hour in ((0, 9), (0, 12), (0, 11), (6, 23), (6, 22)))
    told = [(s.weekday, s.at.hour) for s in suggested_slots(PostingTimes(cells, 30), 3, 3)]
    assert told == [(0, 9), (0, 12), (6, 23)]
    # A week goes round: from Sunday at 23 to Monday at one it is two hours.
    assert suggested_slots(PostingTimes(cells[3:4], 30), 3, 3, [Slot(0, time(1))]) == []
    assert len(suggested_slots(PostingTimes(cells[3:4], 30), 3, 2, [Slot(0, time(1))])) == 1


def test_holidays_are_told_from_the_first_year_that_laws_say_something_of():
    christmas = [date(year, 12, 25) for year in (1899, 1900, 2026)]
    assert [bool(public_holidays(["PT"], day, day)) for day in christmas] == [False, True, True]
    assert public_holidays(["??"], christmas[1], christmas[1]) == []


def test_nothing_is_written_of_a_link_that_says_nothing():
    with pytest.raises(CannotWriteError):
        BuiltInWriter().propose(WritingTask(TaskKind.FROM_LINK, "", link="https://a.example/x"), 1)
