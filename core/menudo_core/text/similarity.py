"""How alike two texts are, by their shingles: runs of a few words in a row."""

import regex

from menudo_core.text.links import link_spans, replace_spans

_WORD = regex.compile(r"[\p{L}\p{M}\p{N}]+")
MIN_WORDS = 3
# One word changed in a dozen is alike still.
SIMILARITY_THRESHOLD = 0.5


def shingles(text: str) -> frozenset[str]:
    """The runs of three words of a text, in lower case, without links and marks; a shorter text is one run by itself."""
    words = [word.casefold() for word in _WORD.findall(replace_spans(text, link_spans(text), " "))]
    if not words:
        return frozenset()
    if len(words) < MIN_WORDS:
        return frozenset({" ".join(words)})
    return frozenset(" ".join(words[n : n + MIN_WORDS]) for n in range(len(words) - MIN_WORDS + 1))


def jaccard_similarity(one: frozenset[str], other: frozenset[str]) -> float:
    """Jaccard's index of two sets of shingles, 0 to 1: what they share of all they have (Broder 1997, resemblance)."""
    if not one or not other:
        return 0.0
    shared = len(one & other)
    return shared / (len(one) + len(other) - shared)
