"""Whom a post is for: countries and regions by their ISO 3166 codes, and ages."""

import re
from dataclasses import dataclass
from functools import cache

import pycountry

_SEPARATORS = re.compile(r"[,;\s]+")
YOUNGEST, OLDEST = 13, 99


@cache
def places() -> dict[str, str]:
    """Every country (ISO 3166-1 alpha-2) and region (ISO 3166-2) with its name, as `pycountry` ships them."""
    found = {country.alpha_2: country.name for country in pycountry.countries}
    for region in pycountry.subdivisions:
        found[region.code] = f"{region.name}, {found.get(region.country_code, region.country_code)}"
    return found


def codes(value: str) -> list[str]:
    """The codes in a field of countries, in order, each once."""
    return list(dict.fromkeys(code.upper() for code in _SEPARATORS.split(value) if code))


def not_places(value: str) -> list[str]:
    """The codes in `value` that are no country and no region."""
    return [code for code in codes(value) if code not in places()]


class BadAges(ValueError):
    """Ages that can't be; the text says why."""


@dataclass(frozen=True, slots=True)
class Ages:
    """From `least` to `most` years, both in; `most` OLDEST means without an upper end."""

    least: int
    most: int

    @classmethod
    def read(cls, value: str) -> "Ages":
        """Ages written 18-35 or 18+. Raises BadAges."""
        found = re.fullmatch(r"\s*(\d{1,3})\s*(?:\+|[-–]\s*(\d{1,3}))\s*", value)
        if found is None:
            raise BadAges("Ages are written as 18-35, or 18+ without an upper end.")
        least, most = int(found.group(1)), int(found.group(2) or OLDEST)
        if not YOUNGEST <= least <= most <= OLDEST:
            raise BadAges(f"Ages go from {YOUNGEST} to {OLDEST}, the lower one first.")
        return cls(least, most)
