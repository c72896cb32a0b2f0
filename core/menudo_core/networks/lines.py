"""Where in a TOML file each value stands, and what a fault is in plain words: for people who write a rule sheet by hand."""

import re
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from jsonschema.exceptions import ValidationError

Path = tuple[str, ...]
# A string of any of the four kinds; a bare word, number or date; a mark; a line end; what says nothing.
_TOKEN = re.compile(
    r'(?P<string>"""(?:[^\\]|\\.)*?"{3,5}|\'\'\'.*?\'{3,5}|"(?:[^"\\\n]|\\.)*"|\'[^\'\n]*\')'
    r"|(?P<end>\n)|(?P<mark>[\[\]{},=.])|(?P<word>[^\s\[\]{},=.#\"']+)|(?P<nothing>#[^\n]*|[^\S\n]+|.)",
    re.DOTALL,
)


def line_of(toml: str, path: Sequence[str | int]) -> int:
    """The line (from 1) of the longest part of `path` that is written in `toml`, which is well-formed; the last line when
    nothing is. Tables, arrays of tables, arrays and inline tables are known, and what stands in strings isn't."""
    wanted = tuple(str(part) for part in path)
    places = _line_numbers(toml)
    for depth in range(len(wanted), 0, -1):
        if wanted[:depth] in places:
            return places[wanted[:depth]]
    return max(toml.rstrip().count("\n") + 1, 1)


def _line_numbers(toml: str) -> dict[Path, int]:
    """The line at which each table, key and element begins, by its path; what is written first counts."""
    found: dict[Path, int] = {}
    tokens = _Tokens(toml)
    counts: dict[Path, int] = {}
    here: Path = ()
    while (token := tokens.next()) is not None:
        kind, text, line = token
        if kind == "end":
            continue
        if text == "[" and kind == "mark":
            here = _parse_header(tokens, counts)
            found.setdefault(here, line)
            continue
        path = here + _parse_key(tokens, text, kind)
        _note_line(found, path, line, len(here))
        _parse_value(tokens, path, found)
    return found


class _Tokens:
    """What a TOML text is made of, one after another, each with its line."""

    def __init__(self, toml: str) -> None:
        self._waiting: list[tuple[str, str, int]] = []
        self._rest = self._scan(toml)

    @staticmethod
    def _scan(toml: str) -> Iterator[tuple[str, str, int]]:
        line = 1
        for match in _TOKEN.finditer(toml.replace("\r\n", "\n")):
            kind, text = str(match.lastgroup), match.group()
            if kind != "nothing":
                yield kind, text, line
            line += text.count("\n")

    def next(self) -> tuple[str, str, int] | None:
        return self._waiting.pop() if self._waiting else next(self._rest, None)

    def push_back(self, token: tuple[str, str, int]) -> None:
        self._waiting.append(token)

    def skip_ends(self) -> tuple[str, str, int] | None:
        while (token := self.next()) is not None and token[0] == "end":
            pass
        return token


def _unquoted(token: str, kind: str) -> str:
    return token[1:-1] if kind == "string" else token


def _parse_key(tokens: _Tokens, first: str, kind: str) -> Path:
    """A key that may be dotted, up to its sign of equality."""
    parts = [_unquoted(first, kind)]
    while (token := tokens.next()) is not None and token[1] != "=":
        if token[0] in ("word", "string"):
            parts.append(_unquoted(token[1], token[0]))
    return tuple(parts)


def _parse_header(tokens: _Tokens, counts: dict[Path, int]) -> Path:
    """The path of a table, with the numbers of the arrays it stands in: `kinds.conditions` is `kinds.1.conditions.0`."""
    names, many, closed = [], False, 0
    while (token := tokens.next()) is not None and closed <= many:
        kind, text, _ = token
        if text == "[" and kind == "mark":
            many = True
        elif text == "]" and kind == "mark":
            closed += 1
            if closed > many:
                break
        elif kind in ("word", "string"):
            names.append(_unquoted(text, kind))
    path: Path = ()
    for place, name in enumerate(names):
        path += (name,)
        if many and place == len(names) - 1:
            counts[path] = counts.get(path, -1) + 1
        if path in counts:
            path += (str(counts[path]),)
    return path


def _note_line(found: dict[Path, int], path: Path, line: int, known: int) -> None:
    for depth in range(known + 1, len(path) + 1):
        found.setdefault(path[:depth], line)


def _parse_value(tokens: _Tokens, path: Path, found: dict[Path, int]) -> None:
    """A value behind a key or in an array: its own parts are noted, and it is passed over."""
    token = tokens.skip_ends()
    if token is None:
        return
    kind, text, _ = token
    if kind == "mark" and text == "[":
        _parse_array(tokens, path, found)
    elif kind == "mark" and text == "{":
        while (token := tokens.skip_ends()) is not None and token[1] != "}":
            if token[0] in ("word", "string"):
                inner = path + _parse_key(tokens, token[1], token[0])
                _note_line(found, inner, token[2], len(path))
                _parse_value(tokens, inner, found)
    else:
        # A number may have a dot in it, a date a space.
        while (token := tokens.next()) is not None:
            if token[0] == "end" or token[1] in (",", "]", "}"):
                tokens.push_back(token)
                return


def _parse_array(tokens: _Tokens, path: Path, found: dict[Path, int]) -> None:
    number = 0
    while (token := tokens.skip_ends()) is not None and token[1] != "]":
        if token[1] == "," and token[0] == "mark":
            number += 1
            continue
        found.setdefault((*path, str(number)), token[2])
        tokens.push_back(token)
        _parse_value(tokens, (*path, str(number)), found)


def unknown_names(error: ValidationError) -> list[str]:
    """The keys of a table that a rule sheet doesn't have there."""
    instance: Any = error.instance
    known = error.schema.get("properties", {}) if isinstance(error.schema, Mapping) else {}
    return sorted(set(instance) - set(known))


def describe_fault(error: ValidationError) -> str:
    """A schema's complaint as a person would say it."""
    name = str(error.absolute_path[-1]) if error.absolute_path else "the sheet"
    match error.validator:
        case "required":
            missing = error.message.split("'")[1]
            return f"“{missing}” is missing here. Add it."
        case "dependentRequired":
            missing, beside = error.message.split("'")[1::2][:2]
            return f"“{missing}” is missing beside “{beside}”. Add it."
        case "enum":
            taken = ", ".join(map(str, list(error.validator_value)))  # type: ignore[arg-type]
            return f"“{error.instance}” is not one of: {taken}."
        case "type":
            return f"“{name}” must be {_TYPES.get(str(error.validator_value), error.validator_value)}, not {error.instance!r}."
        case "minimum" | "exclusiveMinimum":
            return f"“{name}” is {error.instance}; it must be {'at least' if error.validator == 'minimum' else 'more than'} {error.validator_value}."
        case "minItems" | "minLength" | "minProperties":
            return f"“{name}” is empty, or has too little in it: at least {error.validator_value}."
        case "maxProperties":
            return f"“{name}” has too much in it: at most {error.validator_value}."
        case "pattern":
            return f"“{error.instance}” can't stand for “{name}”. Look at the rule sheets' page for how it is written."
        case "const":
            return f"“{name}” must be {error.validator_value!r}."
        case _:
            return f"“{name}”: {error.message}"


def describe_unknown(name: str) -> str:
    return f"“{name}” is not a thing a rule sheet says here. Take it out, or look for a slip in the name."


_TYPES = {
    "integer": "a whole number",
    "number": "a number",
    "string": "a text in quotes",
    "boolean": "true or false",
    "array": "a list in brackets",
    "object": "a table",
}
