"""Public holidays by country, as the `holidays` package computes them."""

from collections.abc import Iterable
from datetime import date
from functools import lru_cache

import holidays
import pycountry

from menudo_core.almanac.rules import Day

# Laws as they are say nothing of centuries away.
_FIRST, _LAST = 1900, 2199


@lru_cache(maxsize=1)
def holiday_countries() -> dict[str, str]:
    """Countries whose holidays are known: ISO 3166-1 alpha-2 codes and names, by name."""
    named = {code: pycountry.countries.get(alpha_2=code) for code in holidays.list_supported_countries()}
    found = {code: getattr(c, "common_name", c.name) for code, c in named.items() if c is not None}
    return dict(sorted(found.items(), key=lambda item: item[1]))


@lru_cache(maxsize=256)
def _holidays_in(code: str, year: int) -> tuple[tuple[date, str], ...]:
    known = holiday_countries()
    if code not in known or not _FIRST <= year <= _LAST:
        return ()
    # In English where the package has it, since the interface speaks it; else in the country's own language.
    languages = holidays.country_holidays(code).supported_languages
    language = next((name for name in ("en_US", "en_GB", "en") if name in languages), None)
    return tuple(sorted(holidays.country_holidays(code, years=year, language=language).items()))


def public_holidays(codes: Iterable[str], first: date, last: date) -> list[Day]:
    """The public holidays of the countries from `first` to `last`, earliest first. Unknown codes have none.

    Kept in the whole country; those of a region alone are left out. Years that the package doesn't know have none.
    """
    found = [
        Day(day, name, "holiday", f"{code}:{day:%m-%d}", code)
        for code in codes
        for year in range(first.year, last.year + 1)
        for day, name in _holidays_in(code, year)
        if first <= day <= last
    ]
    return sorted(found, key=lambda d: (d.day, d.country, d.name))
