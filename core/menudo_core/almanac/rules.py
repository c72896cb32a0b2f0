"""Rules for the days of a year: a date, a weekday of a month, or so many days from Easter."""

import re
from dataclasses import dataclass
from datetime import date, timedelta
from typing import NoReturn

from dateutil.easter import easter

from menudo_core.timing.runs import nth_weekday

WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
_DATE = re.compile(r"(\d\d)-(\d\d)")
_NTH = re.compile(r"(first|second|third|fourth|fifth|last) (mon|tue|wed|thu|fri|sat|sun) of (\d\d)(?: ([+-]\d+))?")
_EASTER = re.compile(r"easter(?: ([+-]\d+))?")
_ORDINALS = {"first": 1, "second": 2, "third": 3, "fourth": 4, "fifth": 5, "last": -1}


class InvalidRuleError(ValueError):
    """A rule that can't be read."""


@dataclass(frozen=True, slots=True)
class Day:
    """A day worth a post. `key` tells it apart for good; `kind` is holiday, observance or own; `country` for holidays."""

    day: date
    name: str
    kind: str
    key: str
    country: str = ""
    topics: tuple[str, ...] = ()


def day_of(rule: str, year: int) -> date | None:
    """The day of a rule in a year; None: that year has none (29 February, a fifth Monday). Raises InvalidRuleError.

    Rules: `MM-DD`; `first sun of 05`, to `fifth` and `last`, with `+1` or `-1` for days after or before it; `easter`,
    with `+49` or `-2`.
    """
    rule = rule.strip().lower()
    if found := _DATE.fullmatch(rule):
        month, day = int(found[1]), int(found[2])
        if _date_or_none(2024, month, day) is None:
            _raise_invalid(rule)
        return _date_or_none(year, month, day)
    if found := _NTH.fullmatch(rule):
        if not 1 <= int(found[3]) <= 12:
            _raise_invalid(rule)
        day_ = nth_weekday(year, int(found[3]), WEEKDAYS.index(found[2]), _ORDINALS[found[1]])
        return day_ + timedelta(days=int(found[4] or 0)) if day_ else None
    found = _EASTER.fullmatch(rule) or _raise_invalid(rule)
    # Where the computation holds (Gregorian, as dateutil has it).
    if not 1583 <= year <= 4099:
        return None
    return easter(year) + timedelta(days=int(found[1] or 0))


def _date_or_none(year: int, month: int, day: int) -> date | None:
    try:
        return date(year, month, day)
    except ValueError:
        return None


def _raise_invalid(rule: str) -> NoReturn:
    raise InvalidRuleError(f"“{rule[:60]}” is no rule for a day.")
