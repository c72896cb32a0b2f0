"""Where in a TOML file a fault stands, and what it is in plain words: for people who write a rule sheet by hand."""

import re
from collections.abc import Sequence

from jsonschema.exceptions import ValidationError

_TABLE = re.compile(r"^\s*\[(\[)?\s*([^\]]+?)\s*\]")
_KEY = re.compile(r"""^\s*("[^"]*"|'[^']*'|[A-Za-z0-9_-]+(?:\s*\.\s*[A-Za-z0-9_-]+)*)\s*=""")


def line_of(toml: str, path: Sequence[str | int]) -> int:
    """The line (from 1) of the longest part of `path` that is written in `toml`; the last line when nothing is.

    A walk over the lines, not a parser: it knows tables, arrays of tables and keys, which is how
    rule sheets are written; what stands inside one value is told at the value's line.
    """
    wanted = [str(part) for part in path]
    best, where = 0, max(toml.rstrip().count("\n") + 1, 1)
    here: list[str] = []
    counts: dict[tuple[str, ...], int] = {}
    for number, line in enumerate(toml.splitlines(), 1):
        if table := _TABLE.match(line):
            here = _inside(_parts(table.group(2)), bool(table.group(1)), counts)
            said = here
        elif key := _KEY.match(line):
            said = here + _parts(key.group(1))
        else:
            continue
        shared = next((i for i, (a, b) in enumerate(zip(said, wanted, strict=False)) if a != b), None)
        depth = min(len(said), len(wanted)) if shared is None else 0
        if depth > best:
            best, where = depth, number
    return where


def _parts(dotted: str) -> list[str]:
    return [part.strip().strip("\"'") for part in dotted.split(".")]


def _inside(parts: list[str], many: bool, counts: dict[tuple[str, ...], int]) -> list[str]:
    """A table's path with the numbers of the arrays it stands in: `kinds.conditions` is `kinds.1.conditions.0`."""
    out: list[str] = []
    for place, part in enumerate(parts):
        out.append(part)
        last = place == len(parts) - 1
        if last and many:
            counts[tuple(out)] = counts.get(tuple(out), -1) + 1
        if tuple(out) in counts:
            out.append(str(counts[tuple(out)]))
    return out


def plain_fault(error: ValidationError) -> str:
    """A schema's complaint as a person would say it."""
    name = str(error.absolute_path[-1]) if error.absolute_path else "the sheet"
    match error.validator:
        case "required":
            missing = error.message.split("'")[1]
            return f"“{missing}” is missing here. Add it."
        case "additionalProperties":
            unknown = error.message.split("'")[1] if "'" in error.message else name
            return f"“{unknown}” is not a thing a rule sheet says here. Take it out, or look for a slip in the name."
        case "enum":
            taken = ", ".join(map(str, list(error.validator_value)))  # type: ignore[arg-type]
            return f"“{error.instance}” is not one of: {taken}."
        case "type":
            return f"“{name}” must be {_TYPES.get(str(error.validator_value), error.validator_value)}, not {error.instance!r}."
        case "minimum" | "exclusiveMinimum":
            return f"“{name}” is {error.instance}; it must be {'at least' if error.validator == 'minimum' else 'more than'} {error.validator_value}."
        case "const":
            return f"“{name}” must be {error.validator_value!r}."
        case _:
            return f"“{name}”: {error.message}"


_TYPES = {
    "integer": "a whole number",
    "number": "a number",
    "string": "a text in quotes",
    "boolean": "true or false",
    "array": "a list in brackets",
    "object": "a table",
}
