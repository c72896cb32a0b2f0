"""What a rule sheet says against itself: limits that nothing can keep, names that lead nowhere, things said twice.

A JSON Schema looks at each value alone; this looks at them beside each other. The sheet may have other faults as well, so that
nothing is taken to be of the kind it should be.
"""

import math
from collections.abc import Iterator
from typing import Any

from menudo_core.text.clusters import Unit, measure

Path = tuple[str | int, ...]
Contradictions = Iterator[tuple[Path, str]]
_PARTS = ("text", "media", "link", "first_comment")
_PAIRS = ("width", "height", "ratio", "seconds")
_STILL_FORMATS = {"jpeg", "png", "webp", "gif"}


def contradictions(raw: dict[str, Any]) -> list[tuple[Path, str]]:
    """Every contradiction, with the path of the value at which it is told."""
    found = [*_number_contradictions((), raw)]
    for step in (
        _media_contradictions,
        _story_contradictions,
        _presence_contradictions,
        _hashtag_contradictions,
        _field_contradictions,
        _profile_kind_contradictions,
        _proof_contradictions,
    ):
        found += step(raw)
    return found


def _number_contradictions(path: Path, value: Any) -> Contradictions:
    """Numbers that are none (nan), or without end."""
    if isinstance(value, float) and not math.isfinite(value):
        yield path, f"“{path[-1]}” is {value}, which is no limit. Write a number, or take the line out."
    elif isinstance(value, dict):
        for key, inner in value.items():
            yield from _number_contradictions((*path, key), inner)
    elif isinstance(value, list):
        for number, inner in enumerate(value):
            yield from _number_contradictions((*path, number), inner)


def _table(raw: Any, *names: str) -> dict[str, Any]:
    for name in names:
        raw = raw.get(name) if isinstance(raw, dict) else None
    return raw if isinstance(raw, dict) else {}


def _list(raw: Any, name: str) -> list[Any]:
    found = raw.get(name) if isinstance(raw, dict) else None
    return found if isinstance(found, list) else []


def _number(table: dict[str, Any], name: str) -> float | None:
    value = table.get(name)
    return value if isinstance(value, (int, float)) and not isinstance(value, bool) and math.isfinite(value) else None


def _range_contradictions(table: dict[str, Any], path: Path) -> Contradictions:
    """A least that is more than the most."""
    for what in _PAIRS:
        least, most = _number(table, f"min_{what}"), _number(table, f"max_{what}")
        if least is not None and most is not None and least > most:
            yield (*path, f"min_{what}"), f"“min_{what}” is {least:g} and “max_{what}” {most:g}: nothing is between."


def _media_contradictions(raw: dict[str, Any]) -> Contradictions:
    media = _table(raw, "media")
    kinds = _table(media, "kinds")
    for kind, rule in kinds.items():
        path: Path = ("media", "kinds", kind)
        if not isinstance(rule, dict):
            continue
        yield from _range_contradictions(rule, path)
        yield from _size_contradictions(rule, path)
        formats = {f for f in _list(rule, "formats") if isinstance(f, str)}
        fits = {"mp4"} if kind == "video" else _STILL_FORMATS
        if formats and not formats & fits:
            yield (*path, "formats"), f"No {kind} is of these formats: one of {', '.join(sorted(fits))} is needed."
    groups = [g for g in _list(media, "together") if isinstance(g, list)]
    if groups:
        for kind in kinds:
            if not any(kind in group for group in groups):
                yield ("media", "together"), f"“together” leaves {kind} out, so that none could ever be posted."


def _size_contradictions(rule: dict[str, Any], path: Path) -> Contradictions:
    """Pixels and shapes that no size keeps."""
    width, height, pixels = _number(rule, "min_width"), _number(rule, "min_height"), _number(rule, "max_pixels")
    if pixels is not None and (width or 1) * (height or 1) > pixels:
        yield (*path, "max_pixels"), f"“max_pixels” is {pixels:g}, and the least width and height make more."
    for one, other, ratio, way in (
        ("min_width", "max_height", "max_ratio", 1),
        ("max_width", "min_height", "min_ratio", -1),
    ):
        w, h, limit = _number(rule, one), _number(rule, other), _number(rule, ratio)
        # Half a per cent of grace, as when a picture is checked.
        if w and h and limit is not None and way * (w / h - limit * (1 + way * 0.005)) > 0:
            yield (*path, ratio), f"“{ratio}” is {limit:g}, and with “{one}” and “{other}” no size has such a shape."


def _story_contradictions(raw: dict[str, Any]) -> Contradictions:
    story = _table(raw, "story")
    yield from _range_contradictions(story, ("story",))
    if story and not _table(raw, "media", "kinds"):
        yield ("story",), "A story is made of pictures and videos, and [media.kinds] takes none."


def _presence_contradictions(raw: dict[str, Any]) -> Contradictions:
    asks = _table(raw, "asks")
    required = [p for p in _list(asks, "required") if p in _PARTS]
    forbidden = {p for p in _list(asks, "forbidden") if p in _PARTS}
    no_media = "media" in forbidden or not _table(raw, "media", "kinds")
    for part in required:
        if part in forbidden:
            yield ("asks", "required"), f"“{part}” is required and forbidden at once."
        elif part == "media" and no_media:
            yield ("asks", "required"), "“media” is required, and [media.kinds] takes none."
    for number, group in enumerate(g for g in _list(asks, "one_of") if isinstance(g, list)):
        possible = [p for p in group if isinstance(p, str) and p not in forbidden and not (p == "media" and no_media)]
        if group and not possible:
            yield ("asks", "one_of", number), f"None of {', '.join(map(str, group))} can be there: all are forbidden."
    if {"text", "link"} <= forbidden and no_media:
        yield ("asks", "forbidden"), "Nothing is left to post: text, link and media are forbidden."
    if "media" in forbidden and _table(raw, "media", "kinds"):
        yield ("asks", "forbidden"), "“media” is forbidden, and [media.kinds] takes some."


def _hashtag_contradictions(raw: dict[str, Any]) -> Contradictions:
    tags = _table(raw, "hashtags")
    good, most = _number(tags, "good"), _number(tags, "most")
    if good is not None and most is not None and good > most:
        yield ("hashtags", "good"), f"“good” is {good:g}, and more than {most:g} (“most”) are refused."


def _field_contradictions(raw: dict[str, Any]) -> Contradictions:
    rules = [(n, r) for n, r in enumerate(_list(raw, "fields")) if isinstance(r, dict)]
    by_name: dict[str, dict[str, Any]] = {}
    for number, rule in rules:
        name = rule.get("name")
        if isinstance(name, str):
            if name in by_name:
                yield ("fields", number, "name"), f"There is a field “{name}” already."
            by_name.setdefault(name, rule)
    unit = _table(raw, "text").get("unit")
    for number, rule in rules:
        path: Path = ("fields", number)
        choices = [c for c in _list(rule, "choices") if isinstance(c, str)]
        yield from _choice_contradictions(rule, choices, path, unit)
        yield from _when_contradictions(rule, by_name, path)
        yield from _after_contradictions(rule, by_name, path)
        for unknown in [v for v in _list(rule, "link_unless") if choices and v not in choices]:
            yield (*path, "link_unless"), f"“{unknown}” is none of the field's choices."
        if "link_unless" in rule and not choices:
            yield (*path, "link_unless"), "“link_unless” is about choices, and the field has none."


def _choice_contradictions(rule: dict[str, Any], choices: list[str], path: Path, unit: Any) -> Contradictions:
    if rule.get("type") == "choice" and not choices:
        yield path, "A field of type choice needs “choices”. Add them."
    for number, choice in enumerate(choices):
        if choice in choices[:number]:
            yield (*path, "choices", number), f"“{choice}” is among the choices twice."
    limit = _number(rule, "limit")
    if limit is not None and unit in list(Unit):
        for number, choice in enumerate(choices):
            if measure(choice, Unit(unit)) > limit:
                yield (*path, "choices", number), f"“{choice}” is longer than the field's limit of {limit:g}."


def _when_contradictions(rule: dict[str, Any], by_name: dict[str, dict[str, Any]], path: Path) -> Contradictions:
    for other, values in _table(rule, "when").items():
        place: Path = (*path, "when")
        beside = by_name.get(other)
        if other == rule.get("name"):
            yield place, "A field can't be asked for by itself."
        elif beside is None:
            yield place, f"There is no field “{other}”."
        else:
            known = _list(beside, "choices")
            for unknown in [v for v in values if known and v not in known] if isinstance(values, list) else ():
                yield place, f"“{unknown}” is none of the choices of “{other}”."
            if _is_circular(rule.get("name"), by_name, "when"):
                yield place, "The fields ask for each other, so that none would ever be asked for."


def _after_contradictions(rule: dict[str, Any], by_name: dict[str, dict[str, Any]], path: Path) -> Contradictions:
    other = rule.get("after")
    if not isinstance(other, str):
        return
    place: Path = (*path, "after")
    if other not in by_name:
        yield place, f"There is no field “{other}”."
    elif rule.get("type") != "date" or by_name[other].get("type") != "date":
        yield place, "Only a date can be later than another: both fields must be of type date."
    elif _is_circular(rule.get("name"), by_name, "after"):
        yield place, "The fields would each have to be later than the other."


def _is_circular(name: Any, by_name: dict[str, dict[str, Any]], by: str) -> bool:
    """Whether the chain of fields that begins here comes back to it."""
    seen: set[str] = set()
    at = name
    while isinstance(at, str) and at in by_name and at not in seen:
        seen.add(at)
        next_name = by_name[at].get(by)
        at = next(iter(next_name), None) if isinstance(next_name, dict) else next_name
    return bool(seen) and at == name


def _profile_kind_contradictions(raw: dict[str, Any]) -> Contradictions:
    seen: set[str] = set()
    for number, kind in enumerate(_list(raw, "kinds")):
        name = kind.get("kind") if isinstance(kind, dict) else None
        if isinstance(name, str):
            if name in seen:
                yield ("kinds", number, "kind"), f"There is a kind of profile “{name}” already."
            seen.add(name)
        ids: set[str] = set()
        for place, condition in enumerate(_list(kind, "conditions")):
            condition_id = condition.get("id") if isinstance(condition, dict) else None
            if isinstance(condition_id, str):
                if condition_id in ids:
                    yield (
                        ("kinds", number, "conditions", place, "id"),
                        f"There is a condition “{condition_id}” already.",
                    )
                ids.add(condition_id)


def _proof_contradictions(raw: dict[str, Any]) -> Contradictions:
    names = [r.get("name") for r in _list(raw, "fields") if isinstance(r, dict)]
    proof = _table(raw, "proof")
    for part in ("title", "button"):
        value = proof.get(part)
        if isinstance(value, str) and value not in names:
            yield ("proof", part), f"There is no field “{value}”."
