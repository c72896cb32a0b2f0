"""Shorten a text to a limit at sentence and word borders, keeping its links and hashtags."""

from collections.abc import Callable, Sequence

from menudo_core.text.clusters import clusters
from menudo_core.wording.sentences import Sentence, sentences

Measure = Callable[[str], int]
_CUT = "…"


def shorten(text: str, limit: int, measure: Measure, order: Sequence[int] | None = None) -> str:
    """`text` in at most `limit` of what `measure` counts. Unchanged when it fits.

    Whole sentences are left out first, the last first (or in `order`, by number), those with links or hashtags after
    all others; then the longest words' tail of what is left is cut at a word's border, with “…”. Links are kept as
    long as they fit by themselves; no grapheme cluster is ever cut (UAX #29).
    """
    if measure(text) <= limit:
        return text
    parts = sentences(text)
    keep = list(range(len(parts)))
    for at in order if order is not None else range(len(parts) - 1, 0, -1):
        if measure(_joined(parts, keep)) <= limit:
            break
        if len(keep) > 1 and not parts[at].links and not parts[at].tags:
            keep.remove(at)
    whole = _joined(parts, keep)
    if measure(whole) <= limit:
        return whole
    return _with_tail(parts, keep, limit, measure)


def _joined(parts: list[Sentence], keep: list[int]) -> str:
    return "".join(parts[at].text for at in keep).strip()


def _with_tail(parts: list[Sentence], keep: list[int], limit: int, measure: Measure) -> str:
    """The words cut, and what must not get lost put after them: links first, then as many hashtags as fit."""
    body = _joined(parts, keep)
    must = list(dict.fromkeys(link for at in keep for link in parts[at].links))
    tags = list(dict.fromkeys(tag for at in keep for tag in parts[at].tags))
    for kept in (
        *(must + tags[:n] for n in range(len(tags), -1, -1)),
        *(must[:n] for n in range(len(must) - 1, -1, -1)),
    ):
        tail = " ".join(kept)
        bare = _without(body, kept)
        room = limit - (measure(f" {tail}") if tail else 0)
        # Words need some room beside what is kept, else one hashtag fewer is better.
        if room >= min(limit // 3, measure(bare)) or not kept:
            cut = cut_at_word(bare, room, measure)
            out = f"{cut} {tail}".strip() if tail else cut
            if measure(out) <= limit:
                return out
    return cut_at_word(body, limit, measure)


def _without(text: str, kept: Sequence[str]) -> str:
    for one in kept:
        text = text.replace(one, "")
    lines = (" ".join(line.split()) for line in text.splitlines())
    return "\n".join(line for line in lines if line)


def cut_at_word(text: str, limit: int, measure: Measure) -> str:
    """The longest beginning of `text` that fits with a “…”, at a word's border where there is one in its last half."""
    text = text.strip()
    if measure(text) <= limit:
        return text
    pieces = list(clusters(text))
    low, high = 0, len(pieces)
    while low < high:
        middle = (low + high + 1) // 2
        if measure("".join(pieces[:middle]).rstrip() + _CUT) <= limit:
            low = middle
        else:
            high = middle - 1
    head = "".join(pieces[:low])
    following = pieces[low] if low < len(pieces) else " "
    if not following.isspace():
        border = max(head.rfind(" "), head.rfind("\n"))
        if border > len(head) // 2:
            head = head[:border]
    out = head.rstrip(" \n\t,;:–—-") + _CUT
    while measure(out) > limit and out != _CUT:
        out = "".join(list(clusters(out[:-1]))[:-1]).rstrip() + _CUT
    return out if measure(out) <= limit else ""
