"""Two texts side by side, by words: what is the same, what went, what came."""

from dataclasses import dataclass
from difflib import SequenceMatcher
from enum import StrEnum

import regex

_PIECE = regex.compile(r"\s+|[\p{L}\p{M}\p{N}_#@’'-]+|\X")
_MOST = 4000


class Change(StrEnum):
    SAME = "same"
    GONE = "gone"
    NEW = "new"


@dataclass(frozen=True, slots=True)
class Segment:
    """A stretch of text and what became of it."""

    change: Change
    text: str


def compare_words(before: str, after: str) -> list[Segment]:
    """What turns `before` into `after`. SAME and GONE joined are `before`; SAME and NEW joined are `after`."""
    old, new = _PIECE.findall(before), _PIECE.findall(after)
    if len(old) + len(new) > _MOST:
        return [s for s in (Segment(Change.GONE, before), Segment(Change.NEW, after)) if s.text]
    out: list[Segment] = []
    for tag, a, b, c, d in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if tag == "equal":
            out.append(Segment(Change.SAME, "".join(old[a:b])))
            continue
        if b > a:
            out.append(Segment(Change.GONE, "".join(old[a:b])))
        if d > c:
            out.append(Segment(Change.NEW, "".join(new[c:d])))
    return out
