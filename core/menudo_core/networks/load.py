"""Reading rule sheets: TOML, checked against the JSON Schema, into a RuleSheet."""

import json
import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from jsonschema import Draft202012Validator

from menudo_core.media.facts import MediaKind
from menudo_core.networks.sheet import (
    FieldRule,
    HashtagRule,
    KindRule,
    MediaRule,
    Pace,
    ProfileKind,
    RuleSheet,
    TextRule,
    WireRule,
)
from menudo_core.text.clusters import Unit

_HERE = files("menudo_core.networks")


@dataclass(frozen=True, slots=True)
class SheetError:
    """One fault of a rule sheet: where (a dotted path, empty for the whole) and what."""

    path: str
    words: str


class BadSheet(ValueError):
    """A rule sheet that can't be used, with every fault found."""

    def __init__(self, errors: list[SheetError]) -> None:
        self.errors = errors
        super().__init__("; ".join(f"{e.path}: {e.words}" if e.path else e.words for e in errors))


def schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of the rule sheet format, version 1."""
    loaded: dict[str, Any] = json.loads((_HERE / "sheet.schema.json").read_text("utf-8"))
    return loaded


def read(toml: str) -> RuleSheet:
    """The rule sheet written in `toml`. Raises BadSheet with every fault at once."""
    try:
        raw = tomllib.loads(toml)
    except tomllib.TOMLDecodeError as error:
        raise BadSheet([SheetError("", f"Not readable as TOML: {error}")]) from error
    faults = [
        SheetError(".".join(str(part) for part in error.absolute_path), error.message)
        for error in sorted(_validator().iter_errors(raw), key=lambda e: [str(p) for p in e.absolute_path])
    ]
    if faults:
        raise BadSheet(faults)
    return _sheet(raw)


def shipped() -> dict[str, RuleSheet]:
    """The sheets that ship with Menudo, by network, in the order of their file names."""
    return dict(_shipped())


@cache
def _shipped() -> tuple[tuple[str, RuleSheet], ...]:
    found = sorted((f for f in (_HERE / "sheets").iterdir() if f.name.endswith(".toml")), key=lambda f: f.name)
    sheets = (read(f.read_text("utf-8")) for f in found)
    return tuple((sheet.network, sheet) for sheet in sheets)


@cache
def _validator() -> Draft202012Validator:
    return Draft202012Validator(schema())


def _sheet(raw: dict[str, Any]) -> RuleSheet:
    media = raw.get("media", {})
    asked = raw.get("asks", {})
    text = raw["text"]
    return RuleSheet(
        network=raw["network"],
        name=raw["name"],
        letters=raw["tile"]["letters"],
        shape=raw["tile"]["shape"],
        about=raw.get("about", ""),
        text=TextRule(
            unit=Unit(text["unit"]),
            limit=text["limit"],
            link_weight=text.get("link_weight"),
            fold_clusters=text.get("fold_clusters"),
            fold_lines=text.get("fold_lines"),
        ),
        media=MediaRule(
            kinds={MediaKind(kind): _kind(rule) for kind, rule in media.get("kinds", {}).items()},
            max_count=media.get("max_count"),
            together=tuple(frozenset(MediaKind(k) for k in group) for group in media.get("together", [])),
        ),
        hashtags=HashtagRule(**raw.get("hashtags", {})),
        required=frozenset(asked.get("required", [])),
        one_of=tuple(frozenset(group) for group in asked.get("one_of", [])),
        forbidden=frozenset(asked.get("forbidden", [])),
        fields=tuple(
            FieldRule(**{**rule, "choices": tuple(rule.get("choices", ()))}) for rule in raw.get("fields", [])
        ),
        kinds=tuple(ProfileKind(**{**kind, "conditions": tuple(kind.get("conditions", ()))}) for kind in raw["kinds"]),
        pace=Pace(**raw.get("pace", {})),
        wire=WireRule(**raw.get("wire", {})),
        life_days=raw.get("life_days"),
    )


def _kind(rule: dict[str, Any]) -> KindRule:
    return KindRule(**{**rule, "formats": tuple(rule["formats"])})
