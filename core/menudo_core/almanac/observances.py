"""The bundled days worth a post, and those of a window."""

import tomllib
from collections.abc import Collection, Iterable
from dataclasses import dataclass
from datetime import date
from functools import cache
from importlib.resources import files

from menudo_core.almanac.rules import Day, day_of


@dataclass(frozen=True, slots=True)
class Observance:
    """A day widely kept; `rule` as rules.day_of reads it, `topics` what it speaks to."""

    key: str
    name: str
    rule: str
    topics: tuple[str, ...]


@cache
def all_observances() -> tuple[Observance, ...]:
    """All that ship, in the order of the file."""
    raw = tomllib.loads(files(__package__).joinpath("observances.toml").read_text("utf-8"))
    return tuple(Observance(d["key"], d["name"], d["rule"], tuple(d["topics"])) for d in raw["day"])


def observance_days(first: date, last: date, without: Collection[str] = ()) -> list[Day]:
    """The observances from `first` to `last`, earliest first; `without`: keys of those that aren't wished."""
    found = [
        Day(day, one.name, "observance", one.key, topics=one.topics)
        for one in all_observances()
        if one.key not in without
        for year in range(first.year, last.year + 1)
        if (day := day_of(one.rule, year)) and first <= day <= last
    ]
    return sorted(found, key=lambda d: (d.day, d.name))


def custom_days(dates: Iterable[tuple[int, str, str]], first: date, last: date) -> list[Day]:
    """A brand's dates, (id, name, rule) each, from `first` to `last`. A rule may also be one whole date, YYYY-MM-DD."""
    found = []
    for date_id, name, rule in dates:
        days = [date.fromisoformat(rule)] if len(rule) == 10 and rule[4] == "-" else _yearly(rule, first, last)
        found += [Day(day, name, "own", f"own:{date_id}") for day in days if day and first <= day <= last]
    return sorted(found, key=lambda d: (d.day, d.name))


def _yearly(rule: str, first: date, last: date) -> list[date | None]:
    return [day_of(rule, year) for year in range(first.year, last.year + 1)]
