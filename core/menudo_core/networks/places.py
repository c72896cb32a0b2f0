"""Whom a post is for: countries and regions by their ISO 3166 codes, and ages."""

import re
from dataclasses import dataclass
from functools import cache

import pycountry

_SEPARATORS = re.compile(r"[,;\s]+")
YOUNGEST, OLDEST = 13, 99


@cache
def place_names() -> dict[str, str]:
    """Every country (ISO 3166-1 alpha-2) and region (ISO 3166-2) with its name, as `pycountry` ships them."""
    found = {country.alpha_2: country.name for country in pycountry.countries}
    for region in pycountry.subdivisions:
        found[region.code] = f"{region.name}, {found.get(region.country_code, region.country_code)}"
    return found


def split_codes(value: str) -> list[str]:
    """The codes in a field of countries, in order, each once."""
    return list(dict.fromkeys(code.upper() for code in _SEPARATORS.split(value) if code))


def unknown_codes(value: str) -> list[str]:
    """The codes in `value` that are no country and no region."""
    return [code for code in split_codes(value) if code not in place_names()]


class InvalidAgesError(ValueError):
    """Ages that can't be; the text says why."""


@dataclass(frozen=True, slots=True)
class Ages:
    """From `minimum` to `maximum` years, both in; `maximum` OLDEST means without an upper end."""

    minimum: int
    maximum: int

    @classmethod
    def parse(cls, value: str) -> "Ages":
        """Ages written 18-35 or 18+. Raises InvalidAgesError."""
        found = re.fullmatch(r"\s*(\d{1,3})\s*(?:\+|[-–]\s*(\d{1,3}))\s*", value)
        if found is None:
            raise InvalidAgesError("Ages are written as 18-35, or 18+ without an upper end.")
        least, most = int(found.group(1)), int(found.group(2) or OLDEST)
        if not YOUNGEST <= least <= most <= OLDEST:
            raise InvalidAgesError(f"Ages go from {YOUNGEST} to {OLDEST}, the lower one first.")
        return cls(least, most)
