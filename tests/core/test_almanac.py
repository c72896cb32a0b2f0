"""Days worth a post: rules, observances, public holidays."""

import itertools
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.almanac.observances import all_observances, custom_days, observance_days
from menudo_core.almanac.public_holidays import holiday_countries, public_holidays
from menudo_core.almanac.rules import InvalidRuleError, day_of

# Easter Sundays as published in the tables of the Book of Common Prayer and the US Census Bureau (from memory).
EASTERS = {
    1998: (4, 12),
    1999: (4, 4),
    2000: (4, 23),
    2001: (4, 15),
    2002: (3, 31),
    2003: (4, 20),
    2004: (4, 11),
    2005: (3, 27),
    2008: (3, 23),
    2011: (4, 24),
    2016: (3, 27),
    2019: (4, 21),
    2024: (3, 31),
    2025: (4, 20),
    2026: (4, 5),
    2038: (4, 25),
}


@pytest.mark.parametrize("year", EASTERS)
def test_easter_is_where_the_tables_have_it(year):
    assert day_of("easter", year) == date(year, *EASTERS[year])


@given(st.integers(1583, 4099))
def test_easter_is_what_gauss_and_meeus_compute(year):
    """Meeus, Astronomical Algorithms, ch. 8 (the anonymous Gregorian algorithm), from memory."""
    a, b, c = year % 19, year // 100, year % 100
    d, e = b // 4, b % 4
    g = (8 * b + 13) // 25
    h = (19 * a + b - d - g + 15) % 30
    i, k = c // 4, c % 4
    length = (32 + 2 * e + 2 * i - h - k) % 7
    m = (a + 11 * h + 19 * length) // 433
    month = (h + length - 7 * m + 90) // 25
    day = (h + length - 7 * m + 33 * month + 19) % 32
    assert day_of("easter", year) == date(year, month, day)


def test_rules_for_weekdays_of_a_month_and_days_after_them():
    assert day_of("fourth thu of 11 +1", 2026) == date(2026, 11, 27)
    assert day_of("last fri of 05", 2026) == date(2026, 5, 29)
    assert day_of("easter +49", 2026) == date(2026, 5, 24)
    assert day_of("02-29", 2026) is None and day_of("02-29", 2028) == date(2028, 2, 29)
    days = [day_of(f"{nth} sun of 03", 2026) for nth in ("first", "second", "third", "fourth", "fifth", "last")]
    assert days == [date(2026, 3, day) for day in (1, 8, 15, 22, 29, 29)]
    assert day_of("fifth fri of 02", 2026) is None and day_of("first thu of 01 -1", 2026) == date(2025, 12, 31)
    assert day_of("first mon of 12", 2026) == date(2026, 12, 7) and day_of("easter", 1583) is not None


@pytest.mark.parametrize("rule", ["", "13-01", "02-30", "sixth mon of 01", "first mon of 13", "easter 5x", "11/24"])
def test_what_is_no_rule_is_told(rule):
    with pytest.raises(InvalidRuleError):
        day_of(rule, 2026)


def test_every_bundled_day_can_be_read_and_has_a_key_of_its_own():
    keys = [one.key for one in all_observances()]
    assert len(keys) == len(set(keys)) > 80
    year = observance_days(date(2028, 1, 1), date(2028, 12, 31))
    assert {day.key for day in year} == set(keys)
    assert all(a.day <= b.day for a, b in itertools.pairwise(year))


def test_the_bundled_list_leaves_out_what_isnt_wished():
    assert [d.key for d in observance_days(date(2026, 10, 16), date(2026, 10, 16), {"food"})] == ["bread"]


def test_public_holidays_are_those_of_the_law():
    """Spain: Real Decreto 2001/1983, article 45 (national holidays of every year), from memory."""
    days = {d.day for d in public_holidays(["ES"], date(2026, 1, 1), date(2026, 12, 31))}
    assert {date(2026, 1, 1), date(2026, 5, 1), date(2026, 8, 15), date(2026, 10, 12), date(2026, 12, 25)} <= days
    assert date(2026, 4, 3) in days  # Good Friday
    assert "ES" in holiday_countries() and public_holidays(["XX"], date(2026, 1, 1), date(2026, 12, 31)) == []


def test_a_brands_own_days_by_rule_and_by_date():
    found = custom_days(
        [(1, "Founded", "06-14"), (2, "Open night", "2026-12-13")], date(2026, 1, 1), date(2027, 12, 31)
    )
    assert [(d.day, d.name) for d in found] == [
        (date(2026, 6, 14), "Founded"),
        (date(2026, 12, 13), "Open night"),
        (date(2027, 6, 14), "Founded"),
    ]


def test_a_brands_own_days_from_the_first_to_the_last_and_over_the_years_end():
    ends = [(1, "On", "2026-12-01"), (2, "After", "2026-12-02"), (3, "Yearly", "12-01"), (4, "Leap", "02-29")]
    assert [d.name for d in custom_days(ends, date(2026, 12, 1), date(2026, 12, 1))] == ["On", "Yearly"]
    # As long as a date, and none.
    assert [d.day for d in custom_days([(5, "Whitsun", "easter +49")], date(2026, 1, 1), date(2026, 12, 31))] == [
        date(2026, 5, 24)
    ]
    assert [d.day.year for d in custom_days([(3, "Yearly", "01-01")], date(2025, 12, 1), date(2027, 1, 1))] == [
        2026,
        2027,
    ]


def test_holidays_speak_english_where_they_can_and_their_own_language_elsewhere():
    new_year = {d.country: d.name for d in public_holidays(["ES", "FR", "AR"], date(2027, 1, 1), date(2027, 1, 1))}
    assert new_year == dict.fromkeys(("AR", "ES", "FR"), "New Year's Day")
    [own] = public_holidays(["CL"], date(2027, 9, 18), date(2027, 9, 18))
    assert own.key == "CL:09-18" and own.country == "CL"
    # Over the turn of a year both years' are there, and none of a day outside.
    assert [d.day.isoformat() for d in public_holidays(["FR"], date(2026, 12, 25), date(2027, 1, 1))] == [
        "2026-12-25",
        "2027-01-01",
    ]
    assert public_holidays(["FR"], date(1900, 7, 14), date(1900, 7, 14)) and not public_holidays(
        ["FR"], date(1899, 7, 14), date(1899, 7, 14)
    )


def test_a_window_over_the_years_end_has_both_years():
    days = observance_days(date(2026, 12, 30), date(2026, 12, 30) + timedelta(days=3))
    assert [d.key for d in days] == ["new-years-eve", "new-year"]


def test_years_that_nobody_has_computed_have_no_days_of_their_own():
    assert day_of("easter", 4100) is None and day_of("easter", 1582) is None
    assert public_holidays(["ES"], date(8999, 1, 1), date(8999, 12, 31)) == []
    assert observance_days(date(8999, 12, 25), date(8999, 12, 25))[0].key == "christmas"
