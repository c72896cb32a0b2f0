"""Reading rule sheets: TOML, checked against the JSON Schema, into a RuleSheet."""

import json
import re
import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any, cast

from jsonschema import Draft202012Validator
from jsonschema.exceptions import ValidationError
from jsonschema.validators import extend

from menudo_core.media.facts import MediaKind
from menudo_core.networks.contradictions import Path, contradictions
from menudo_core.networks.lines import describe_fault, describe_unknown, line_of, unknown_names
from menudo_core.networks.sheet import (
    Condition,
    FieldRule,
    HashtagRule,
    KindRule,
    LookRule,
    MediaRule,
    Pace,
    Paint,
    ProfileKind,
    ProofRule,
    RuleSheet,
    StoryRule,
    TextRule,
    WireRule,
)
from menudo_core.text.clusters import Unit

_FOLDER = files("menudo_core.networks")
_MAX_DOTS = 500
_LINE = re.compile(r"at line (\d+)")


@dataclass(frozen=True, slots=True)
class SheetFault:
    """One fault of a rule sheet: where (a dotted path, empty for the whole; a line from 1, 0 when unknown) and what."""

    path: str
    message: str
    line: int = 0


class InvalidSheetError(ValueError):
    """A rule sheet that can't be used, with every fault found."""

    def __init__(self, errors: list[SheetFault]) -> None:
        self.errors = errors
        super().__init__("; ".join(f"{e.path}: {e.message}" if e.path else e.message for e in errors))


def sheet_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of the rule sheet format, version 1."""
    loaded: dict[str, Any] = json.loads((_FOLDER / "sheet.schema.json").read_text("utf-8"))
    return loaded


def parse_sheet(toml: str) -> RuleSheet:
    """The rule sheet written in `toml`. Raises InvalidSheetError with every fault at once."""
    # Each part of a name costs Python's own reader as much as all before it.
    for number, written in enumerate(toml.splitlines(), 1):
        if written.count(".") > _MAX_DOTS:
            raise InvalidSheetError(
                [SheetFault("", "This line is no line of a rule sheet: it has too many dots.", number)]
            )
    try:
        raw = tomllib.loads(toml)
    except tomllib.TOMLDecodeError as error:
        found = _LINE.search(str(error))
        line = int(found.group(1)) if found else toml.count("\n") + 1
        raise InvalidSheetError([SheetFault("", f"Not readable as TOML: {error}", line)]) from error
    except RecursionError as error:
        raise InvalidSheetError([SheetFault("", "Its tables are nested too deep.", 1)]) from error
    violations = [one for error in _validator().iter_errors(raw) for one in _schema_faults(error)] + contradictions(raw)
    faults = {_sheet_fault(toml, path, words) for path, words in violations}
    if faults:
        raise InvalidSheetError(sorted(faults, key=lambda fault: (fault.line, fault.path, fault.message)))
    return _sheet_of(raw)


def _schema_faults(error: ValidationError) -> list[tuple[Path, str]]:
    """A schema's complaint, with its place; one for each key that doesn't belong there."""
    path = tuple(error.absolute_path)
    if error.validator == "additionalProperties" and error.validator_value is False:
        return [((*path, name), describe_unknown(name)) for name in unknown_names(error)]
    return [(path, describe_fault(error))]


def _sheet_fault(toml: str, path: Path, words: str) -> SheetFault:
    return SheetFault(".".join(map(str, path)), words, line_of(toml, path))


def shipped_sheets() -> dict[str, RuleSheet]:
    """The sheets that ship with Menudo, by network, in the order of their file names."""
    return dict(load_shipped())


@cache
def permissive_sheet() -> RuleSheet:
    """The sheet of a place that has none: all goes, by hand."""
    return parse_sheet((_FOLDER / "plain.toml").read_text("utf-8"))


@cache
def load_shipped() -> tuple[tuple[str, RuleSheet], ...]:
    found = sorted((f for f in (_FOLDER / "sheets").iterdir() if f.name.endswith(".toml")), key=lambda f: f.name)
    sheets = (parse_sheet(f.read_text("utf-8")) for f in found)
    return tuple((sheet.network, sheet) for sheet in sheets)


@cache
def _validator() -> Draft202012Validator:
    # As JSON Schema has them: a pattern's end is that of the text, not of its last line; a whole number has no point in TOML.
    whole = Draft202012Validator.TYPE_CHECKER.redefine(
        "integer", lambda _, value: isinstance(value, int) and not isinstance(value, bool)
    )
    made = extend(Draft202012Validator, {"pattern": _validate_pattern}, type_checker=whole)  # type: ignore[no-untyped-call]
    return cast(Draft202012Validator, made(sheet_schema()))


def _validate_pattern(validator: Any, pattern: str, value: Any, schema: Any) -> Iterator[ValidationError]:
    if isinstance(value, str) and not re.fullmatch(pattern.removesuffix("$"), value):
        yield ValidationError(f"{value!r} does not match {pattern!r}")


def _sheet_of(raw: dict[str, Any]) -> RuleSheet:
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
            kinds={MediaKind(kind): _kind_of(rule) for kind, rule in media.get("kinds", {}).items()},
            max_count=media.get("max_count"),
            together=tuple(frozenset(MediaKind(k) for k in group) for group in media.get("together", [])),
            people=media.get("people"),
            cover=media.get("cover", False),
        ),
        hashtags=_hashtags_of(raw.get("hashtags", {})),
        required=frozenset(asked.get("required", [])),
        one_of=tuple(frozenset(group) for group in asked.get("one_of", [])),
        forbidden=frozenset(asked.get("forbidden", [])),
        fields=tuple(_field_of(rule) for rule in raw.get("fields", [])),
        kinds=tuple(_profile_kind_of(kind) for kind in raw["kinds"]),
        pace=Pace(**raw.get("pace", {})),
        wire=WireRule(**raw.get("wire", {})),
        life_days=raw.get("life_days"),
        story=StoryRule(**raw["story"]) if "story" in raw else None,
        proof=ProofRule(**raw.get("proof", {})),
        look=_look_of(raw["look"]) if "look" in raw else LookRule(),
        use=raw.get("use", ""),
    )


def _hashtags_of(rule: dict[str, Any]) -> HashtagRule:
    return HashtagRule(rule.get("most"), rule.get("good"))


def _look_of(raw: dict[str, Any]) -> LookRule:
    return LookRule(Paint(**raw["light"]), Paint(**raw["dark"]), raw.get("letters", "sans"))


def _field_of(rule: dict[str, Any]) -> FieldRule:
    when = next(((name, tuple(values)) for name, values in rule.get("when", {}).items()), None)
    unless = tuple(rule["link_unless"]) if "link_unless" in rule else None
    return FieldRule(**{**rule, "choices": tuple(rule.get("choices", ())), "when": when, "link_unless": unless})


def _profile_kind_of(kind: dict[str, Any]) -> ProfileKind:
    conditions = (
        Condition(c["id"], c["words"], c.get("fact", ""), tuple(c.get("accepts", ())), c.get("mend", ""))
        for c in kind.get("conditions", ())
    )
    return ProfileKind(**{**kind, "conditions": tuple(conditions)})


def _kind_of(rule: dict[str, Any]) -> KindRule:
    return KindRule(**{**rule, "formats": tuple(rule["formats"]), "codecs": tuple(rule.get("codecs", ()))})
