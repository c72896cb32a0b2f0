"""Placeholders that are filled in for each profile, and blanks that a person fills in."""

import re
from collections.abc import Mapping
from datetime import date

_PLACEHOLDER = re.compile(r"\{([a-z]+)\}")
_BLANK = re.compile(r"(?<!_)_{3,}(?!_)")
NAMES = ("brand", "network", "profile", "link", "title", "campaign", "date", "day", "month", "year")
_MONTHS = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
_DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


def fill_placeholders(text: str, values: Mapping[str, str]) -> str:
    """`text` with each {name} of `values` filled in. Other words in braces stay as they are; nothing is filled twice."""
    if "{" not in text:
        return text
    return _PLACEHOLDER.sub(lambda found: values.get(found.group(1), found.group()), text)


def day_values(day: date) -> dict[str, str]:
    """What the placeholders of time say on a day (of the profile's zone), in English."""
    month = _MONTHS[day.month - 1]
    return {"date": f"{day.day} {month}", "day": _DAYS[day.weekday()], "month": month, "year": str(day.year)}


def count_blanks(text: str) -> int:
    """How many blanks (three or more low lines) still stand in a text."""
    return len(_BLANK.findall(text)) if "___" in text else 0
