"""Hashtags as they stand in a post's text."""

import unicodedata
from bisect import bisect_right
from functools import lru_cache

import regex

from menudo_core.text.links import link_spans

SIGNS = "#﹟＃"
# UAX #31, UAX31-D2 with R8 (from memory): a start that no letter stands before, then XID_Continue, pictographs, what
# emoji are made of (joiners, flags, keycaps, tags), - + and _. A sign that is itself a keycap or wears a variation starts
# none. An asterisk counts in a keycap only.
_CONTINUE = (
    r"\p{XID_Continue}\p{Extended_Pictographic}\p{Emoji_Modifier}\U0001F1E6-\U0001F1FF\U0001F9B0-\U0001F9B3"
    r"\U000E0020-\U000E007F\u200d\u20e3\ufe0f+_-"
)
_HASHTAG = regex.compile(
    rf"(?<![\p{{XID_Continue}}&/])[{SIGNS}](?![\ufe0e\ufe0f\u20e3\u200c\u200d])((?:[{_CONTINUE}]|\*(?=\ufe0f?\u20e3))+)"
)
_BARE_ADDRESS = regex.compile(r"(?<!\p{XID_Continue})www\.[^\s<>]+", regex.IGNORECASE)
_NO_TAG = regex.compile(r"[^\p{XID_Continue}\u200d]+")


def hashtags(text: str) -> list[str]:
    """The hashtags of `text` without their sign, in order and as written.

    A sign inside a word or an address starts none, and digits alone are a number, not a tag.
    """
    return [text[start + 1 : end] for start, end in hashtag_spans(text)]


def hashtag_spans(text: str) -> list[tuple[int, int]]:
    """Where the hashtags of `text` stand, each with its sign."""
    return list(_find_spans(text)) if any(sign in text for sign in SIGNS) else []


@lru_cache(maxsize=64)
def _find_spans(text: str) -> tuple[tuple[int, int], ...]:
    """Remembered for the last few texts, as links are."""
    addresses = sorted([*link_spans(text), *(match.span() for match in _BARE_ADDRESS.finditer(text))])
    starts = [start for start, _ in addresses]
    found = []
    for match in _HASHTAG.finditer(text):
        before = bisect_right(starts, match.start()) - 1
        if before >= 0 and match.start() < addresses[before][1]:
            continue
        tag = match.group(1).rstrip("+-\u200c\u200d")
        if tag and not tag.isdigit():
            found.append((match.start(), match.start(1) + len(tag)))
    return tuple(found)


def tag_key(tag: str) -> str:
    """What two ways to write one hashtag share: without its sign, whatever its case and composition (canonical caseless
    matching, Unicode, 3.13, D145)."""
    bare = unicodedata.normalize("NFD", tag.strip().lstrip(SIGNS)).casefold()
    return unicodedata.normalize("NFC", bare)


def strip_sign(tag: str) -> str:
    """A hashtag as somebody typed it into a field, without its sign, composed (NFC)."""
    return unicodedata.normalize("NFC", tag.strip().lstrip(SIGNS).strip())


def tag_from_words(words: str) -> str:
    """A hashtag, without its sign, of words that may hold what none can: spaces and marks of punctuation go, letters keep
    theirs. Empty where nothing is left, or only a number."""
    bare = unicodedata.normalize("NFC", _NO_TAG.sub("", words)).strip("\u200c\u200d")
    return "" if bare.isdigit() else bare


def remove_hashtags(text: str, keep: int = 0) -> tuple[str, int]:
    """`text` with its first `keep` hashtags, and how many it has. The others at its end go; inside a sentence they lose their sign."""
    found = hashtag_spans(text)
    end = len(text.rstrip())
    for at, (start, stop) in reversed(list(enumerate(found))):
        if at < keep:
            break
        if not text[stop:end].strip():
            text = text[:start].rstrip(" \t") + text[stop:]
            end = len(text[:start].rstrip())
        else:
            text = text[:start] + text[start + 1 :]
            end -= 1
    return text.rstrip() if found else text, min(keep, len(found))


def extract_hashtags(text: str) -> tuple[str, list[str]]:
    """`text` without its hashtags, as `remove_hashtags` leaves it, and the hashtags themselves, each once."""
    tags = {tag_key(tag): f"#{tag}" for tag in reversed(hashtags(text))}
    return remove_hashtags(text)[0], list(tags.values())[::-1]


def append_hashtags(text: str, tags: list[str]) -> str:
    """`text` with the tags it doesn't have yet at its end, each once whatever its case (with their sign or without)."""
    present = {tag_key(tag) for tag in hashtags(text)}
    new = []
    for tag in map(strip_sign, tags):
        if tag and tag_key(tag) not in present:
            present.add(tag_key(tag))
            new.append(f"#{tag}")
    if not new:
        return text
    gap = "" if not text or text[-1].isspace() else " "
    return f"{text}{gap}{' '.join(new)}"
