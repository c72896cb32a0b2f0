"""Signs of currencies, and the codes they stand for (ISO 4217, by number, as `pycountry` ships it)."""

from functools import cache

import pycountry

_NUMBERS = {"€": "978", "$": "840", "£": "826", "¥": "392"}


@cache
def codes_by_sign() -> dict[str, str]:
    """Code by sign."""
    found = {sign: pycountry.currencies.get(numeric=number) for sign, number in _NUMBERS.items()}
    return {sign: one.alpha_3 for sign, one in found.items() if one is not None}


@cache
def signs_by_code() -> dict[str, str]:
    """Sign by code."""
    return {code: sign for sign, code in codes_by_sign().items()}
