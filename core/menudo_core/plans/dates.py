"""Dates and times as people and spreadsheets write them."""

import re
from collections.abc import Iterable
from datetime import date, time

_ISO = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})")
_DOTS = re.compile(r"(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})")
_SLASHES = re.compile(r"(\d{1,2})[/-](\d{1,2})[/-](\d{4})")
_TIME = re.compile(r"(\d{1,2})(?:[:.h](\d{2})(?::(\d{2})(?:\.\d+)?)?)?\s*([ap]\.?m\.?)?", re.IGNORECASE)


_MOMENT = re.compile(
    r"(\d{4}-\d{1,2}-\d{1,2}|\d{1,2}\.\s?\d{1,2}\.\s?\d{4}|\d{1,2}[/-]\d{1,2}[/-]\d{4})(?:[T,]\s*|\s+)(\S.*)", re.DOTALL
)
_OFFSET = re.compile(r".*\d\s*(?:Z|UTC|[+-]\d{1,2}:?\d{0,2})", re.IGNORECASE)


class InvalidCellError(ValueError):
    """A cell that can't be read, with what to write instead."""


def is_day_first(cells: Iterable[str]) -> bool | None:
    """Whether dates with slashes have the day first, as the whole column shows; None: it doesn't show."""
    by_day, by_month = _unambiguous_dates(cells)
    return None if bool(by_day) == bool(by_month) else bool(by_day)


def conflicting_dates(cells: Iterable[str]) -> tuple[str, str] | None:
    """One date that has the day first and one that has the month first, where the column has both."""
    by_day, by_month = _unambiguous_dates(cells)
    return (by_day, by_month) if by_day and by_month else None


def _unambiguous_dates(cells: Iterable[str]) -> tuple[str, str]:
    """The first date of each kind that can be read in one way only; empty where there is none."""
    by_day = by_month = ""
    for cell in cells:
        if found := _SLASHES.fullmatch(split_moment(cell)[0]):
            by_day = by_day or (found[0] if int(found[1]) > 12 else "")
            by_month = by_month or (found[0] if int(found[2]) > 12 else "")
    return by_day, by_month


def split_moment(cell: str) -> tuple[str, str]:
    """A cell's date and what stands behind it, which ought to be a time; empty where nothing does."""
    found = _MOMENT.match(cell.strip())
    return (found[1], found[2].strip()) if found else (cell.strip(), "")


def parse_date(cell: str, day_first: bool | None, mixed: tuple[str, str] | None = None) -> date:
    """A date: 2026-12-01, 1.12.2026, or with slashes when the column shows which is the day. `mixed`: see `conflicting_dates`. Raises
    InvalidCellError."""
    cell = cell.strip()
    if not cell:
        raise InvalidCellError("The date is missing.")
    if found := _ISO.fullmatch(cell):
        year, month, day = int(found[1]), int(found[2]), int(found[3])
    elif found := _DOTS.fullmatch(cell):
        day, month, year = int(found[1]), int(found[2]), int(found[3])
    elif found := _SLASHES.fullmatch(cell):
        one, other, year = int(found[1]), int(found[2]), int(found[3])
        if mixed is not None:
            raise InvalidCellError(
                f"The column has dates with the day first (“{mixed[0]}”) and with the month first (“{mixed[1]}”). Write them all as {year}-12-01."
            )
        if day_first is None and one != other:
            raise InvalidCellError(
                f"“{cell}” may be two dates: nothing in the column shows whether the day or the month is first. Write {year}-{other:02d}-{one:02d} or {year}-{one:02d}-{other:02d}."
            )
        day, month = (one, other) if day_first is not False else (other, one)
    else:
        raise InvalidCellError(f"“{cell[:40]}” is no date. Write it as 2026-12-01.")
    try:
        return date(year, month, day)
    except ValueError:
        raise InvalidCellError(f"There is no {cell[:40]} in the calendar.") from None


def parse_time(cell: str) -> time:
    """A wall time: 15:00, 15:00:00, 3 pm, 3:05 p.m. Seconds are dropped. Raises InvalidCellError."""
    cell = cell.strip()
    if not cell:
        raise InvalidCellError(
            "The time is missing. Leave the column out, or write “slot”, for the next free slot of that day."
        )
    if _OFFSET.fullmatch(cell):
        raise InvalidCellError(
            f"“{cell[:40]}” has an offset. Leave it out, and name a zone in the column “zone” where it isn't the brand's."
        )
    found = _TIME.fullmatch(cell)
    if not found or (found[2] is None and found[4] is None):
        raise InvalidCellError(f"“{cell[:40]}” is no time. Write it as 15:00.")
    hour, minute, half = int(found[1]), int(found[2] or 0), (found[4] or "").lower()[:1]
    if half and not 1 <= hour <= 12:
        raise InvalidCellError(f"“{cell[:40]}” is no time: with am or pm the hour is 1 to 12.")
    if half:
        hour = hour % 12 + (12 if half == "p" else 0)
    try:
        return time(hour, minute)
    except ValueError:
        raise InvalidCellError(f"“{cell[:40]}” is no time: hours go to 23 and minutes to 59.") from None
