"""ISO 3166-1 alpha-2 codes, as the time zone database ships them (iso3166.tab)."""

import importlib.resources
from functools import cache


@cache
def _load_codes() -> frozenset[str]:
    table = importlib.resources.files("tzdata.zoneinfo").joinpath("iso3166.tab").read_text("utf-8")
    return frozenset(line.split("\t")[0] for line in table.splitlines() if line and not line.startswith("#"))


COUNTRIES = _load_codes()
