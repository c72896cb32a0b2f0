"""Shorten a text to a limit at sentence and word borders, keeping its links and hashtags."""

from collections.abc import Callable, Iterable, Sequence

from menudo_core.text.clusters import clusters
from menudo_core.text.hashtags import hashtag_spans
from menudo_core.text.links import link_spans, links, replace_spans
from menudo_core.wording.sentences import Sentence, split_sentences

Measure = Callable[[str], int]
_CUT = "…"
# What a character of space measures at most: its bytes in UTF-8.
_WIDEST = 4


def shorten(text: str, limit: int, measure: Measure, order: Sequence[int] | None = None) -> str:
    """`text` in at most `limit` of what `measure` counts. Unchanged when it fits.

    Whole sentences are left out first, the last first (or in `order`, by number), those with links or hashtags after
    all others; then the longest words' tail of what is left is cut at a word's border, with “…”. Links are kept whole, as many
    as fit together, the first first; one that doesn't is left out whole (see `links_beyond`). No grapheme cluster (UAX #29),
    hashtag or address is ever cut.
    """
    if measure(text) <= limit:
        return text
    parts = split_sentences(text)
    keep, first, last = dict.fromkeys(range(len(parts))), 0, len(parts) - 1
    # What is kept measures no less than the whole without what was left out, but for the space at its ends: so it is put together
    # only when it may fit.
    left, before, behind = measure(text), _space_of(parts[first]), _space_of(parts[last])
    for at in order if order is not None else range(len(parts) - 1, 0, -1):
        if left - _WIDEST * (before + behind) <= limit and measure(_joined(parts, keep)) <= limit:
            break
        if at in keep and len(keep) > 1 and not parts[at].links and not parts[at].tags:
            del keep[at]
            left -= measure(parts[at].text)
            while first not in keep:
                first += 1
                before = _space_of(parts[first])
            while last not in keep:
                last -= 1
                behind = _space_of(parts[last])
    whole = _joined(parts, keep)
    if measure(whole) <= limit:
        return whole
    return _with_tail(whole, limit, measure)


def _space_of(part: Sentence) -> int:
    """The characters of space about it."""
    return len(part.text) - len(part.text.strip())


def links_beyond(text: str, limit: int, measure: Measure) -> list[str]:
    """The links of `text` that can't be kept whole within `limit` beside those before them, however it is shortened."""
    kept = _kept_links(text, limit, measure)
    return [link for link in dict.fromkeys(links(text)) if link not in kept]


def _kept_links(text: str, limit: int, measure: Measure) -> list[str]:
    kept: list[str] = []
    size, gap = 0, measure(" ")
    for link in dict.fromkeys(links(text)):
        more = measure(link) + (gap if kept else 0)
        if size + more <= limit:
            kept.append(link)
            size += more
    return kept


def _joined(parts: list[Sentence], keep: Iterable[int]) -> str:
    return "".join(parts[at].text for at in keep).strip()


def _with_tail(body: str, limit: int, measure: Measure) -> str:
    """The words cut, and what must not get lost put after them: links first, then as many hashtags as fit."""
    there, must = link_spans(body), _kept_links(body, limit, measure)
    tags = list(dict.fromkeys(body[start:end] for start, end in hashtag_spans(body)))
    shortest = measure(_tidy_spaces(replace_spans(body, sorted([*there, *hashtag_spans(body)]))))
    for count in _counts(must, tags, limit, shortest, measure):
        kept = tags[:count]
        tail = " ".join([*must, *kept])
        gone = sorted([*there, *(span for span in hashtag_spans(body) if body[slice(*span)] in kept)])
        bare = _tidy_spaces(replace_spans(body, gone))
        room = limit - (measure(f" {tail}") if tail else 0)
        # Words need some room beside what is kept, else one hashtag fewer is better.
        if room >= min(limit // 3, measure(bare)) or not kept:
            cut = cut_at_word(bare, room, measure) if room > 0 else ""
            out = f"{cut} {tail}".strip()
            if measure(out) <= limit:
                return out
    return " ".join(must)


def _counts(must: list[str], tags: list[str], limit: int, shortest: int, measure: Measure) -> list[int]:
    """How many of the tags may be kept so that words have some room beside them, or all of them fit (`shortest`: their length
    without any tag or link); the most first, and none at last."""
    room, counts = limit - measure(" ".join(must)) - measure(" "), [0]
    for count, tag in enumerate(tags, 1):
        room -= measure(tag) + measure(" ")
        if room < min(limit // 3, shortest):
            break
        counts.append(count)
    return counts[::-1]


def _tidy_spaces(text: str) -> str:
    lines = (" ".join(line.split()) for line in text.splitlines())
    return "\n".join(line for line in lines if line)


def cut_at_word(text: str, limit: int, measure: Measure) -> str:
    """The longest beginning of `text` that fits with a “…”, at a word's border where there is one in its last half; a link or a
    hashtag is in it whole or not at all. Empty where not even the first cluster fits."""
    text = text.strip()
    if measure(text) <= limit:
        return text
    held = sorted([*link_spans(text), *hashtag_spans(text)])
    ends = _cuts(text, held)
    low, high = 0, len(ends)
    while low < high:
        middle = (low + high + 1) // 2
        if measure(_cut_to(text, ends[middle - 1], held)) <= limit:
            low = middle
        else:
            high = middle - 1
    # A weight may make a longer beginning the lighter one, so that what was found needn't be the last that fits.
    for at in range(low, 0, -1):
        out = _cut_to(text, _at_border(text, ends, ends[at - 1]), held)
        if out == _CUT:
            # Nothing but marks stands there, and before it.
            break
        if measure(out) <= limit:
            return out
    return ""


def _cuts(text: str, held: list[tuple[int, int]]) -> list[int]:
    """Where `text` may be cut: behind each cluster that isn't inside a link or a hashtag (`held`)."""
    place, at, ends = 0, 0, []
    for cluster in clusters(text):
        place += len(cluster)
        while at < len(held) and held[at][1] <= place:
            at += 1
        if at == len(held) or place <= held[at][0]:
            ends.append(place)
    return ends


def _at_border(text: str, ends: list[int], end: int) -> int:
    """The last end of a word up to `end`, where one stands in the last half; else `end`."""
    if end == len(text) or text[end].isspace():
        return end
    border = max(text.rfind(" ", 0, end), text.rfind("\n", 0, end))
    return border if border > end // 2 and border in ends else end


def _cut_to(text: str, end: int, held: list[tuple[int, int]]) -> str:
    last = max((stop for _, stop in held if stop <= end), default=0)
    return text[:last] + text[last:end].rstrip(" \n\t,;:–—-") + _CUT
