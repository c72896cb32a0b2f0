"""Counting text in the four units that networks count in."""

from collections.abc import Iterator
from enum import StrEnum
from functools import lru_cache

import regex

_CLUSTER = regex.compile(r"\X")


class Unit(StrEnum):
    """What one step of a length limit is."""

    CLUSTERS = "clusters"
    CODE_POINTS = "code_points"
    UTF16 = "utf16"
    BYTES = "bytes"


UNIT_WORDS = {
    Unit.CLUSTERS: "characters",
    Unit.CODE_POINTS: "code points",
    Unit.UTF16: "UTF-16 units",
    Unit.BYTES: "bytes",
}


def clusters(text: str) -> Iterator[str]:
    """The extended grapheme clusters of `text` in order (UAX #29, as the `regex` package has it)."""
    return (match.group() for match in _CLUSTER.finditer(text))


def measure(text: str, unit: Unit) -> int:
    """How long `text` is in `unit`; bytes are UTF-8. Lone surrogates count as one of theirs."""
    match unit:
        case Unit.CLUSTERS:
            return _cluster_count(text)
        case Unit.CODE_POINTS:
            return len(text)
        case Unit.UTF16:
            return len(text.encode("utf-16-le", "surrogatepass")) // 2
        case Unit.BYTES:
            return len(text.encode("utf-8", "surrogatepass"))


@lru_cache(maxsize=64)
def _cluster_count(text: str) -> int:
    """Nine networks ask for the length of one text at once, so the last few are remembered."""
    if text.isascii() and "\r" not in text:
        return len(text)
    return sum(1 for _ in clusters(text))
