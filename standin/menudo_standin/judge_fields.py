"""The networks' own judgement of their own fields, by type and beside each other."""

import re
from typing import Any

import pycountry

from menudo_standin.refused import RefusedError

_WHEN = re.compile(r"(\d{4})-(\d\d)-(\d\d)[T ](\d\d):(\d\d)(:[0-5]\d)?")
_DAYS = (31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)


def judge_typed(rule: dict[str, Any], value: str) -> None:
    """Raises RefusedError when the value isn't what the field's type asks for."""
    name = rule["name"]
    match rule["type"]:
        case "address" if not re.fullmatch(r"https?://[^\W_][^\s<>\"]*", value, re.IGNORECASE):
            raise RefusedError(f"{name} is not a web address")
        case "date" if _parse_moment(value) is None:
            raise RefusedError(f"{name} is not a day and a time")
        case "countries":
            for code in re.split(r"[,;\s]+", value.upper()):
                known = not code or pycountry.countries.get(alpha_2=code) or pycountry.subdivisions.get(code=code)  # type: ignore[no-untyped-call]
                if not known:
                    raise RefusedError(f"{name}: {code} is no country or region")
        case "ages":
            _judge_ages(name, value)


def _judge_ages(name: str, value: str) -> None:
    found = re.fullmatch(r"(\d+)\s*\+|(\d+)\s*[-–]\s*(\d+)", value.strip())
    if not found:
        raise RefusedError(f"{name} is not a span of ages")
    low, high = int(found[1] or found[2]), int(found[3] or 99)
    if low < 13 or high > 99 or low > high:
        raise RefusedError(f"{name} must lie between 13 and 99")


def judge_related(rule: dict[str, Any], fields: dict[str, str], asked: list[dict[str, Any]]) -> None:
    """Raises RefusedError when the field goes against another: an end before its start, a button that leads nowhere."""
    value = fields.get(rule["name"], "").strip()
    if not value:
        return
    if "after" in rule:
        first, second = _parse_moment(fields.get(rule["after"], "").strip()), _parse_moment(value)
        if first and second and second <= first:
            raise RefusedError(f"{rule['name']} is not after {rule['after']}")
    if "link_unless" in rule and value not in rule["link_unless"]:
        addresses = [fields.get(other["name"], "") for other in asked if other["type"] == "address"]
        if not any(text.strip() for text in [fields.get("link", ""), *addresses]):
            raise RefusedError(f"the button {value} leads nowhere")


def _parse_moment(value: str) -> tuple[int, ...] | None:
    found = _WHEN.fullmatch(value)
    if not found:
        return None
    year, month, day, hour, minute = (int(found[n]) for n in range(1, 6))
    leap = year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
    if not (1 <= month <= 12 and 1 <= day <= _DAYS[month - 1] and hour < 24 and minute < 60 and year > 0):
        return None
    return None if month == 2 and day == 29 and not leap else (year, month, day, hour, minute)
