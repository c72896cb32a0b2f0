"""A text taken apart into sentences, for those who shorten and vary."""

from dataclasses import dataclass

import regex

from menudo_core.text.hashtags import hashtag_spans
from menudo_core.text.links import link_spans, links, replace_spans

# Common practice, no published source: a sentence ends at . ! ? … or their like in other scripts, or at a line's end.
_END = regex.compile(r"(?:[.!?…]+[\"'”’»)\]]*(?=\s)|[。！？।]+|\n+)", regex.VERSION1)
_SHORT = regex.compile(r"(?:\b(?:Mr|Mrs|Ms|Dr|St|no|No|vs|etc|e\.g|i\.e|a\.m|p\.m)\.)$")


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
    out, start = [], 0
    kept = [*link_spans(text), *hashtag_spans(text)]
    for end in _END.finditer(text):
        stop = end.end()
        while stop < len(text) and text[stop].isspace():
            stop += 1
        inside = any(a < end.start() < b for a, b in kept)
        if inside or _SHORT.search(text[start : end.end()]):
            continue
        out.append(text[start:stop])
        start = stop
    if start < len(text):
        out.append(text[start:])
    return [_sentence(one) for one in out if one]


def _sentence(text: str) -> Sentence:
    tags = tuple(text[a:b] for a, b in hashtag_spans(text))
    return Sentence(text, tuple(links(text)), tags)


def split_words(text: str) -> list[str]:
    """The words of a text in lower case, links and hashtags' signs left out."""
    bare = replace_spans(text, link_spans(text), " ")
    return [w.casefold() for w in regex.findall(r"[\p{L}\p{M}\p{N}’'-]+", bare)]
