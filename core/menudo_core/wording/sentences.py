"""A text taken apart into sentences, for those who shorten and vary."""

from dataclasses import dataclass
from itertools import pairwise

import regex

from menudo_core.text.hashtags import hashtag_spans
from menudo_core.text.links import link_spans, replace_spans

# Common practice, no published source: a sentence ends at . ! ? … or their like in other scripts, or at a line's end.
_END = regex.compile(r"(?:(?<![.!?…])[.!?…]+[\"'”’»)\]]*(?=\s)|[。！？।]+|\n+)", regex.VERSION1)
_SHORT = regex.compile(r"(?:\b(?:Mr|Mrs|Ms|Dr|St|no|No|vs|etc|e\.g|i\.e|a\.m|p\.m)\.)$")

_LONGEST_SHORT = 6


@dataclass(frozen=True, slots=True)
class Sentence:
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
        if inside or _SHORT.search(text, max(start, end.end() - _LONGEST_SHORT), end.end()):
            continue
        start = end.end()
        while start < len(text) and text[start].isspace():
            start += 1
        borders.append(start)
    if start < len(text):
        borders.append(len(text))
    links_there, tags_there = _by_part(in_links, borders), _by_part(in_tags, borders)
    return [
        Sentence(text[a:b], tuple(text[slice(*s)] for s in found), tuple(text[slice(*s)] for s in tags))
        for (a, b), found, tags in zip(pairwise(borders), links_there, tags_there, strict=True)
    ]


def _by_part(spans: list[tuple[int, int]], borders: list[int]) -> list[list[tuple[int, int]]]:
    """The spans, which are in order, by the part between two borders in which each begins."""
    found: list[list[tuple[int, int]]] = [[] for _ in borders[1:]]
    part = 0
    for span in spans:
        while span[0] >= borders[part + 1]:
            part += 1
        found[part].append(span)
    return found


def split_words(text: str) -> list[str]:
    """The words of a text in lower case, links and hashtags' signs left out."""
    bare = replace_spans(text, link_spans(text), " ")
    return [w.casefold() for w in regex.findall(r"[\p{L}\p{M}\p{N}’'-]+", bare)]
