"""Several names in one cell: with semicolons between them, and quotation marks around one that holds what would part it."""

import re
from collections.abc import Iterable

# A quoted name, doubled marks inside; or anything up to what parts names.
_NAME = re.compile(r'[^\S\n]*"((?:[^"]|"")*)"[^\S\n]*(?=[;\n|]|$)|([^;\n|]*)')
_PARTS = ";\n|"


def join_names(names: Iterable[str]) -> str:
    """The names in one cell, so that `split_names` finds the same."""
    return "; ".join(_quoted(name) for name in names)


def split_names(cell: str) -> tuple[str, ...]:
    """The names in a cell, each once and in order. A semicolon, a bar or a line end parts them."""
    found, place = [], 0
    while place <= len(cell):
        match = _NAME.match(cell, place)
        assert match is not None
        name = match[1].replace('""', '"') if match[1] is not None else match[2].strip()
        if name:
            found.append(name)
        place = match.end() + 1
    return tuple(dict.fromkeys(found))


def _quoted(name: str) -> str:
    plain = name == name.strip() and not name.startswith('"') and not any(part in name for part in _PARTS)
    return name if plain else '"' + name.replace('"', '""') + '"'
