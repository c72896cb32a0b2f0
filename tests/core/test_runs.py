"""Runs, stagger and sway, against dateutil and recurring-ical-events, over clock changes of ten zones."""

from datetime import UTC, date, datetime, time, timedelta
from itertools import islice, pairwise, takewhile
from zoneinfo import ZoneInfo

import icalendar
import pytest
import recurring_ical_events
from dateutil import rrule, tz
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.timing.runs import Interval, Run, Unit, nth_weekday, resolved_times, wall_times
from menudo_core.timing.slots import Slot, next_free_slots, open_slots
from menudo_core.timing.spread import Stagger, Waking, apply_jitter, stagger_delays
from menudo_core.timing.walltimes import wall_time_in

# Half-hour shift (Lord Howe), changes at midnight (Beirut, Havana, Santiago), southern, none at all, odd offsets.
ZONES = (
    "Europe/Madrid",
    "America/New_York",
    "Australia/Lord_Howe",
    "Asia/Beirut",
    "America/Havana",
    "America/Santiago",
    "Pacific/Auckland",
    "Asia/Kathmandu",
    "Africa/Casablanca",
    "Pacific/Chatham",
)
DAYS = (rrule.MO, rrule.TU, rrule.WE, rrule.TH, rrule.FR, rrule.SA, rrule.SU)
END = datetime(2030, 12, 31, 23, 59)
CASES = [
    (Interval(Unit.DAYS, 1), {"freq": rrule.DAILY}),
    (Interval(Unit.DAYS, 2), {"freq": rrule.DAILY, "interval": 2}),
    (Interval(Unit.DAYS, 1, frozenset({0, 2, 4})), {"freq": rrule.DAILY, "byweekday": [0, 2, 4]}),
    (Interval(Unit.WEEKS, 1, frozenset({1, 6})), {"freq": rrule.WEEKLY, "byweekday": [1, 6]}),
    (Interval(Unit.WEEKS, 3), {"freq": rrule.WEEKLY, "interval": 3}),
    (Interval(Unit.MONTHS, 1), {"freq": rrule.MONTHLY}),
    (Interval(Unit.MONTHS, 1, frozenset({0}), 1), {"freq": rrule.MONTHLY, "byweekday": [rrule.MO(1)]}),
    (Interval(Unit.MONTHS, 2, frozenset({4}), -1), {"freq": rrule.MONTHLY, "interval": 2, "byweekday": [rrule.FR(-1)]}),
    (Interval(Unit.MONTHS, 1, frozenset({6}), 5), {"freq": rrule.MONTHLY, "byweekday": [rrule.SU(5)]}),
    (Interval(Unit.DAYS, 14, frozenset(range(7))), {"freq": rrule.DAILY, "interval": 14}),
    (Interval(Unit.HOURS, 7), {"freq": rrule.HOURLY, "interval": 7}),
]


@pytest.mark.parametrize(("interval", "theirs"), CASES)
@pytest.mark.parametrize("start", [datetime(2024, 1, 31, 15, 0), datetime(2024, 2, 29, 0, 30)])
def test_wall_times_of_seven_years_are_those_of_dateutil(interval, theirs, start):
    """Against dateutil.rrule (RFC 5545, 3.3.10), on the wall."""
    ours = list(takewhile(lambda at: at <= END, wall_times(Run(start.date(), start.time(), interval))))
    assert ours == list(rrule.rrule(dtstart=start, until=END, **theirs))
    assert ours


@pytest.mark.parametrize("zone", ZONES)
@pytest.mark.parametrize("at", [time(0, 0), time(0, 30), time(2, 15), time(2, 45), time(15, 0)])
def test_a_daily_run_is_at_the_instants_of_dateutil_in_every_zone(zone, at):
    """Gaps as dateutil's resolve_imaginary has them; a doubled time the first time (fold 0)."""
    run = Run(date(2024, 1, 1), at, Interval(Unit.DAYS))
    ours = [r.instant for r in takewhile(lambda r: r.wall_time <= END, resolved_times(run, ZoneInfo(zone)))]
    there = tz.gettz(zone)
    meant = rrule.rrule(rrule.DAILY, dtstart=datetime.combine(date(2024, 1, 1), at), until=END)
    theirs = [tz.resolve_imaginary(wall.replace(tzinfo=there)).astimezone(UTC) for wall in meant]
    assert ours == theirs[: len(ours)]
    assert len(theirs) - len(ours) <= 1


@pytest.mark.parametrize("zone", ZONES)
@pytest.mark.parametrize("rule", ["FREQ=WEEKLY;BYDAY=MO,TH", "FREQ=MONTHLY;BYDAY=1MO", "FREQ=DAILY;INTERVAL=2"])
def test_a_run_is_what_a_calendar_program_would_show(zone, rule):
    """Against recurring-ical-events, which reads RFC 5545; at 15:00, which no zone's change touches."""
    run = {
        "FREQ=WEEKLY;BYDAY=MO,TH": Interval(Unit.WEEKS, 1, frozenset({0, 3})),
        "FREQ=MONTHLY;BYDAY=1MO": Interval(Unit.MONTHS, 1, frozenset({0}), 1),
        "FREQ=DAILY;INTERVAL=2": Interval(Unit.DAYS, 2),
    }[rule]
    event = icalendar.Event()
    event.add("uid", "run")
    event.add("dtstart", datetime(2024, 1, 1, 15, tzinfo=ZoneInfo(zone)))
    event.add("rrule", icalendar.vRecur.from_ical(rule))
    calendar = icalendar.Calendar()
    calendar.add_component(event)
    until = datetime(2025, 12, 31, tzinfo=UTC)
    theirs = recurring_ical_events.of(calendar).between(datetime(2024, 1, 1, tzinfo=UTC), until)
    ours = takewhile(lambda r: r.instant < until, resolved_times(Run(date(2024, 1, 1), time(15), run), ZoneInfo(zone)))
    assert [r.instant for r in ours] == sorted(e["DTSTART"].dt.astimezone(UTC) for e in theirs)


def test_a_month_of_pictures_one_a_day_at_three():
    """A month's run: 31 posts for a 31-day month, one a day at 15:00; common practice, no published source."""
    madrid = ZoneInfo("Europe/Madrid")
    month = list(islice(resolved_times(Run(date(2026, 3, 1), time(15), Interval(Unit.DAYS)), madrid), 31))
    assert [r.wall_time for r in month] == [datetime(2026, 3, day, 15) for day in range(1, 32)]
    assert month[27].instant.hour == 14 and month[28].instant.hour == 13  # the clocks go forward on the 29th


def test_a_run_that_never_comes_ends_instead_of_searching():
    assert list(wall_times(Run(date(2026, 11, 24), time(9), Interval(Unit.DAYS, 7, frozenset({0}))))) == []


def test_nth_weekdays():
    assert nth_weekday(2026, 11, 3, 4) == date(2026, 11, 26)
    assert nth_weekday(2026, 2, 6, 5) is None
    assert nth_weekday(2024, 2, 3, -1) == date(2024, 2, 29)


def test_a_slot_kept_for_a_label_is_taken_by_that_label_alone():
    plain, kept = Slot(0, time(9)), Slot(1, time(9), "label:4")
    assert open_slots([plain, kept]) == [plain]
    assert open_slots([plain, kept], ["label:4"]) == [kept]
    assert open_slots([plain, kept], ["label:5"]) == [plain]


INSTANTS = st.datetimes(datetime(2024, 1, 1), datetime(2030, 1, 1), timezones=st.just(UTC)).map(
    lambda at: at.replace(second=0, microsecond=0)
)


@given(st.integers(1, 30), st.integers(0, 600), st.integers(0, 600), st.integers(0, 2**32))
def test_stagger_keeps_the_order_and_its_bounds(count, one, other, seed):
    least, most = sorted((one, other))
    found = stagger_delays(count, Stagger(least, most), seed)
    assert found[0] == 0 and found == stagger_delays(count, Stagger(least, most), seed)
    assert all(least <= b - a <= most for a, b in pairwise(found))


@given(
    INSTANTS, st.integers(0, 180), st.integers(0, 2**32), st.sampled_from(ZONES), st.integers(-600, 600), st.booleans()
)
def test_sway_stays_near_on_its_day_in_waking_hours_and_to_come(at, within, seed, zone, ahead, wakes):
    where = ZoneInfo(zone)
    now = at - timedelta(minutes=ahead)
    waking = Waking(time(8), time(22)) if wakes else None
    found = apply_jitter(at, within, seed, where, now, waking)
    assert found == apply_jitter(at, within, seed, where, now, waking)
    assert abs(found - at) <= timedelta(minutes=within)
    assert wall_time_in(found, where).date() == wall_time_in(at, where).date()
    if found != at:
        assert found > now
        assert not wakes or time(8) <= wall_time_in(found, where).time() < time(22)


def test_sway_reaches_the_whole_hour_either_way():
    """Anywhere within an hour of the set time; common practice, no published source."""
    at, zone = datetime(2026, 11, 24, 14, tzinfo=UTC), ZoneInfo("Europe/Madrid")
    found = {
        (apply_jitter(at, 60, seed, zone, at - timedelta(days=1)) - at) // timedelta(minutes=1) for seed in range(3000)
    }
    assert found == set(range(-60, 61))


@given(
    st.sets(
        st.tuples(st.integers(0, 6), st.times().map(lambda t: t.replace(second=0, microsecond=0))),
        min_size=1,
        max_size=8,
    ),
    st.sampled_from(ZONES),
    INSTANTS,
)
def test_no_slot_is_given_twice(pairs, zone, after):
    slots = [Slot(day, at) for day, at in pairs]
    given_, taken = [], set()
    for _ in range(20):
        at = next(next_free_slots(slots, taken, after, ZoneInfo(zone)))
        given_.append(at)
        taken.add(at)
    assert given_ == sorted(set(given_)) and given_[0] > after


@given(
    st.sampled_from(["Europe/Madrid", "Australia/Lord_Howe", "America/Santiago", "America/Nuuk", "Africa/Cairo"]),
    st.sampled_from(
        [
            date(2026, 3, 29),
            date(2026, 4, 5),
            date(2026, 10, 4),
            date(2026, 10, 25),
            date(2026, 9, 6),
            date(2026, 4, 24),
            date(2026, 3, 28),
        ]
    ),
    st.integers(0, 24 * 60 - 1),
    st.integers(0, 180),
    st.integers(0, 2**31),
    st.integers(0, 23 * 2),
    st.integers(1, 24),
)
def test_on_days_of_clock_changes_what_varies_stays_within_waking_hours_by_the_wall(
    zone, day, minute, within, seed, begins, long
):
    """The clock is read by dateutil's zones."""
    where, there = ZoneInfo(zone), tz.gettz(zone)
    at = datetime.combine(day, time(), tzinfo=UTC) + timedelta(minutes=minute)
    wakes = begins * 30
    waking = Waking(
        time(wakes // 60, wakes % 60),
        time(23, 59) if wakes + long * 60 >= 1439 else time((wakes + long * 60) // 60, wakes % 60),
    )
    found = apply_jitter(at, within, seed, where, at - timedelta(days=2), waking)
    clock = found.astimezone(there)
    if found != at:
        assert waking.begins <= clock.time() < waking.ends and clock.date() == at.astimezone(there).date()
    assert abs(found - at) <= timedelta(minutes=within)
