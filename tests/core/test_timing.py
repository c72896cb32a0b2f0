"""Wall times and slots across clock changes, against zoneinfo and dateutil."""

from bisect import bisect_right
from datetime import UTC, datetime, time, timedelta
from itertools import islice, takewhile
from zoneinfo import ZoneInfo

import pytest
from dateutil import rrule, tz
from hypothesis import given, settings
from hypothesis import strategies as st

from menudo_core.timing.due import InvalidTimeError, due_at
from menudo_core.timing.slots import Slot, next_free_slots, slot_instants, slots_between
from menudo_core.timing.walltimes import WallKind, day_bounds, day_parts, full_hours, resolve_wall_time, wall_time_in

MADRID, NEW_YORK = ZoneInfo("Europe/Madrid"), ZoneInfo("America/New_York")
WEEKDAYS = (rrule.MO, rrule.TU, rrule.WE, rrule.TH, rrule.FR, rrule.SA, rrule.SU)


@pytest.mark.parametrize(
    ("zone", "wall", "utc", "kind"),
    [
        # IANA: Madrid goes from +1 to +2 at 01:00 UTC on 29 March 2026 and back on 25 October.
        (MADRID, datetime(2026, 3, 29, 2, 30), datetime(2026, 3, 29, 1, 30), WallKind.SKIPPED),
        (MADRID, datetime(2026, 10, 25, 2, 30), datetime(2026, 10, 25, 0, 30), WallKind.DOUBLED),
        (MADRID, datetime(2026, 11, 24, 15, 0), datetime(2026, 11, 24, 14, 0), WallKind.ONCE),
        # New York goes from -5 to -4 at 07:00 UTC on 8 March 2026 and back on 1 November.
        (NEW_YORK, datetime(2026, 3, 8, 2, 15), datetime(2026, 3, 8, 7, 15), WallKind.SKIPPED),
        (NEW_YORK, datetime(2026, 11, 1, 1, 15), datetime(2026, 11, 1, 5, 15), WallKind.DOUBLED),
    ],
)
def test_a_skipped_time_moves_by_the_gap_and_a_doubled_one_is_the_first(zone, wall, utc, kind):
    """RFC 5545, 3.3.5."""
    resolved = resolve_wall_time(wall, zone)
    assert (resolved.instant, resolved.kind) == (utc.replace(tzinfo=UTC), kind)


def test_the_wall_time_told_for_a_skipped_one_is_the_one_on_the_clock():
    assert resolve_wall_time(datetime(2026, 3, 29, 2, 30), MADRID).wall_time == datetime(2026, 3, 29, 3, 30)


def test_days_of_a_clock_change_have_23_and_25_hours():
    spring = day_bounds(datetime(2026, 3, 29), MADRID)
    autumn = day_bounds(datetime(2026, 10, 25), MADRID)
    assert spring[1] - spring[0] == timedelta(hours=23)
    assert autumn[1] - autumn[0] == timedelta(hours=25)


@pytest.mark.parametrize("zone", [MADRID, NEW_YORK])
def test_a_year_of_slots_over_both_clock_changes_is_what_dateutil_says(zone):
    """Against dateutil.rrule with dateutil's own reading of the zone; gaps resolved by its resolve_imaginary."""
    slots = [Slot(day, at) for day in range(7) for at in (time(0, 30), time(1, 15), time(2, 30), time(23, 45))]
    start, end = datetime(2026, 1, 1, tzinfo=UTC), datetime(2027, 1, 1, tzinfo=UTC)
    ours = list(takewhile(lambda at: at < end, slot_instants(slots, start, zone)))
    theirs_zone = tz.gettz(zone.key)
    theirs = set()
    for slot in slots:
        rule = rrule.rrule(
            rrule.WEEKLY,
            byweekday=WEEKDAYS[slot.weekday],
            dtstart=datetime.combine(datetime(2025, 12, 25), slot.at),
            until=datetime(2027, 1, 5),
        )
        walls = (tz.resolve_imaginary(wall.replace(tzinfo=theirs_zone)) for wall in rule)
        theirs |= {at for wall in walls if start < (at := wall.astimezone(UTC)) < end}
    assert ours == sorted(theirs)
    assert len(ours) in (28 * 365 // 7, 28 * 365 // 7 - 1)


@settings(max_examples=60)
@given(
    st.sampled_from(
        [
            "Europe/Madrid",
            "America/New_York",
            "Australia/Lord_Howe",
            "Africa/Cairo",
            "America/Santiago",
            "Asia/Kathmandu",
        ]
    ),
    st.datetimes(datetime(2024, 1, 1), datetime(2030, 1, 1), timezones=st.just(UTC)),
    st.lists(
        st.builds(Slot, st.integers(0, 6), st.times().map(lambda t: t.replace(microsecond=0, second=0))),
        min_size=1,
        max_size=8,
    ),
)
def test_every_slot_is_the_resolved_wall_time_of_its_day(zone_name, after, slots):
    zone = ZoneInfo(zone_name)
    walls = [datetime.combine(after.astimezone(zone).date() + timedelta(days=n), time()) for n in range(-1, 16)]
    slow = {
        resolve_wall_time(datetime.combine(day, s.at), zone).instant
        for day in walls
        for s in slots
        if s.weekday == day.weekday()
    }
    expected = sorted(at for at in slow if after < at <= after + timedelta(days=14))
    assert list(takewhile(lambda at: at <= after + timedelta(days=14), slot_instants(slots, after, zone))) == expected
    just = timedelta(microseconds=1)
    assert slots_between(slots, after + just, after + timedelta(days=14) + just, zone) == expected


def test_next_free_passes_over_what_is_taken_and_ends_for_an_empty_timetable():
    slots = [Slot(1, time(11)), Slot(3, time(11))]
    after = datetime(2026, 11, 24, 9, 0, tzinfo=UTC)
    free = next_free_slots(slots, {datetime(2026, 11, 24, 10, 0, tzinfo=UTC)}, after, MADRID)
    assert wall_time_in(next(free), MADRID) == datetime(2026, 11, 26, 11, 0)
    assert wall_time_in(next(free), MADRID) == datetime(2026, 12, 1, 11, 0)
    assert list(next_free_slots([], set(), after, MADRID)) == []


NOW = datetime(2026, 3, 1, 12, 0, tzinfo=UTC)


@pytest.mark.parametrize(
    ("wall", "code"),
    [
        (datetime(2026, 3, 1, 12, 59), "past"),
        (datetime(2026, 3, 1, 13, 0), "past"),
        (datetime(2026, 3, 29, 2, 30), "skipped"),
        (datetime(2036, 3, 1, 12, 0), "far"),
    ],
)
def test_a_time_that_cant_be_planned_says_why(wall, code):
    with pytest.raises(InvalidTimeError) as bad:
        due_at(wall, MADRID, NOW)
    assert bad.value.code == code


def test_a_skipped_time_comes_with_one_that_exists():
    with pytest.raises(InvalidTimeError) as bad:
        due_at(datetime(2026, 3, 29, 2, 30), MADRID, NOW)
    assert bad.value.offer == datetime(2026, 3, 29, 3, 30)
    assert "clocks go forward" in bad.value.words
    assert due_at(bad.value.offer, MADRID, NOW).instant == datetime(2026, 3, 29, 1, 30, tzinfo=UTC)


# Zones off the full hour, and changes of half an hour, at midnight and over a whole day.
ODD = [
    "Asia/Kolkata",
    "Asia/Kathmandu",
    "Australia/Lord_Howe",
    "Australia/Eucla",
    "America/St_Johns",
    "Pacific/Chatham",
    "Europe/Madrid",
]
CHANGES = [
    datetime(2026, 3, 28, 12),
    datetime(2026, 4, 4, 6),
    datetime(2026, 10, 3, 6),
    datetime(2026, 10, 24, 12),
    datetime(2026, 11, 27),
]


@given(st.sampled_from(ODD), st.sampled_from(CHANGES), st.integers(0, 48 * 3600))
def test_the_next_full_hour_is_one_on_the_wall_of_every_zone(zone, near, seconds):
    """Against dateutil's own reading of the zones, minute by minute."""
    now = near.replace(tzinfo=UTC) + timedelta(seconds=seconds)
    there, at = tz.gettz(zone), now.replace(second=0, microsecond=0) + timedelta(minutes=1)
    while at.astimezone(there).minute:
        at += timedelta(minutes=1)
    found = list(islice(full_hours(now, ZoneInfo(zone)), 3))
    assert found[0] == at and all(one.astimezone(there).minute == 0 for one in found)


@pytest.mark.parametrize(
    ("zone", "wall", "offered", "words"),
    [
        ("Europe/Madrid", datetime(2026, 3, 29, 2, 30), datetime(2026, 3, 29, 3, 30), "Choose 03:30 or"),
        # From the time zone database: Greenland's clocks go forward before midnight; Samoa left out a whole day.
        (
            "Pacific/Apia",
            datetime(2011, 12, 30, 15, 0),
            datetime(2011, 12, 31, 15, 0),
            "Choose Sat 31 Dec 2011, 15:00, or",
        ),
        (
            "America/Scoresbysund",
            datetime(2026, 3, 28, 23, 30),
            datetime(2026, 3, 29, 0, 30),
            "Choose Sun 29 Mar 2026, 00:30, or",
        ),
        (
            "America/Nuuk",
            datetime(2026, 3, 28, 23, 30),
            datetime(2026, 3, 29, 0, 30),
            "Choose Sun 29 Mar 2026, 00:30, or",
        ),
    ],
)
def test_an_offer_past_midnight_names_its_day(zone, wall, offered, words):
    with pytest.raises(InvalidTimeError) as bad:
        due_at(wall, ZoneInfo(zone), datetime(2011, 1, 1, tzinfo=UTC))
    assert bad.value.offer == offered and words in bad.value.words


@given(
    zone=st.sampled_from(
        ["Europe/Madrid", "Asia/Kathmandu", "Australia/Lord_Howe", "America/New_York", "Pacific/Apia"]
    ),
    # Every one of these changed its clocks in these years; Apia left out 30 December 2011 (IANA tzdata).
    at=st.datetimes(datetime(2011, 1, 1), datetime(2030, 1, 1))
    | st.datetimes(datetime(2011, 12, 29), datetime(2012, 1, 2)),
    parts=st.sampled_from([1, 4, 24]),
)
def test_an_instant_lies_in_the_part_of_the_day_that_its_wall_time_says(zone, at, parts):
    place = ZoneInfo(zone)
    instant = at.replace(tzinfo=UTC)
    wall = instant.astimezone(place)
    starts = day_parts(wall.date() - timedelta(days=1), 3, place, parts)
    assert starts == sorted(starts) and len(starts) == 3 * parts
    part = bisect_right(starts, instant) - 1
    assert part == parts + wall.hour * parts // 24
