"""A text taken apart into sentences, for those who shorten and vary."""

from itertools import pairwise
from typing import NamedTuple

import regex

from menudo_core.text.hashtags import hashtag_spans
from menudo_core.text.links import link_spans, replace_spans

# Common practice, no published source: a sentence ends at . ! ? … or their like in other scripts, or at a line's end.
_END = regex.compile(r"(?:(?<![.!?…])[.!?…]+[\"'”’»)\]]*(?=\s)|[。！？।]+|\n+)", regex.VERSION1)
_SHORT = regex.compile(r"(?:\b(?:Mr|Mrs|Ms|Dr|St|no|No|vs|etc|e\.g|i\.e|a\.m|p\.m)\.)$")

_LONGEST_SHORT = 6
_WORD = regex.compile(r"[\p{L}\p{M}\p{N}’'-]+")


class Sentence(NamedTuple):
    """One sentence with the space after it, and what in it must not get lost."""

    text: str
    links: tuple[str, ...]
    tags: tuple[str, ...]

    @property
    def bare(self) -> str:
        return self.text.strip()


def split_sentences(text: str) -> list[Sentence]:
    """The sentences of `text` in order; joined again they are `text`."""
    borders, start, at = [0], 0, 0
    in_links, in_tags = link_spans(text), hashtag_spans(text)
    kept = sorted([*in_links, *in_tags])
    for end in _END.finditer(text):
        # What lies in the space behind the last one ended it too.
        if end.start() < start:
            continue
        while at < len(kept) and kept[at][1] <= end.start():
            at += 1
        inside = at < len(kept) and kept[at][0] < end.start()
        stop = end.end()
        if inside or (text[stop - 1] == "." and _SHORT.search(text, max(start, stop - _LONGEST_SHORT), stop)):
            continue
        start = stop
        while start < len(text) and text[start].isspace():
            start += 1
        borders.append(start)
    if start < len(text):
        borders.append(len(text))
    found_links, found_tags = _by_part(text, in_links, borders), _by_part(text, in_tags, borders)
    return [
        Sentence(text[a:b], tuple(found_links.get(a, ())), tuple(found_tags.get(a, ()))) for a, b in pairwise(borders)
    ]


def _by_part(text: str, spans: list[tuple[int, int]], borders: list[int]) -> dict[int, list[str]]:
    """What the spans (which are in order) hold, by where the part begins in which each of them does."""
    found: dict[int, list[str]] = {}
    part = 0
    for start, end in spans:
        while start >= borders[part + 1]:
            part += 1
        found.setdefault(borders[part], []).append(text[start:end])
    return found


def split_words(text: str) -> list[str]:
    """The words of a text in lower case, links and hashtags' signs left out."""
    bare = replace_spans(text, link_spans(text), " ")
    return [w.casefold() for w in _WORD.findall(bare)]
