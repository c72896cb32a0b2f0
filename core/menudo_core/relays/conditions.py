"""Which items a relay takes."""

from dataclasses import dataclass
from enum import StrEnum
from zoneinfo import ZoneInfo

import regex

from menudo_core.relays.item import Item
from menudo_core.text.hashtags import bare_tag, hashtags
from menudo_core.text.plain import plain
from menudo_core.timing.hours import Hours


class Has(StrEnum):
    PICTURE = "picture"
    VIDEO = "video"
    MEDIA = "media"
    LINK = "link"


class Unmet(StrEnum):
    """The condition that an item doesn't meet."""

    HAS = "has"
    WORD = "word"
    TAG = "tag"
    KIND = "kind"
    LANGUAGE = "language"
    HOUR = "hour"


@dataclass(frozen=True, slots=True)
class Conditions:
    """What an item must be like; what is left empty asks nothing.

    `words` and `tags`: one of them must be there (whole words, however they are cased and accented; tags without #, a
    feed's categories among them).
    `but`: none of these words may be. `hours` of the wall in which it appeared.
    """

    has: frozenset[Has] = frozenset()
    words: tuple[str, ...] = ()
    but: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    kinds: frozenset[str] = frozenset()
    languages: frozenset[str] = frozenset()
    hours: Hours | None = None


def unmet(conditions: Conditions, item: Item, zone: ZoneInfo) -> Unmet | None:
    """The first condition that the item doesn't meet, None: it meets all. `zone` is that of the hours."""
    if not all(_has(item, what) for what in conditions.has):
        return Unmet.HAS
    if conditions.words and not any(_word(item.text, word) for word in conditions.words):
        return Unmet.WORD
    if any(_word(item.text, word) for word in conditions.but):
        return Unmet.WORD
    if conditions.tags:
        there = {plain(tag) for tag in (*hashtags(item.text), *item.tags)}
        if not any(plain(bare_tag(tag)) in there for tag in conditions.tags):
            return Unmet.TAG
    if conditions.kinds and item.kind not in conditions.kinds:
        return Unmet.KIND
    if conditions.languages and not _language(item.language, conditions.languages):
        return Unmet.LANGUAGE
    if conditions.hours is not None and not conditions.hours.holds(item.at.astimezone(zone).time()):
        return Unmet.HOUR
    return None


def _has(item: Item, what: Has) -> bool:
    counts = {
        Has.PICTURE: item.pictures,
        Has.VIDEO: item.videos,
        Has.MEDIA: item.pictures + item.videos,
        Has.LINK: len(item.link),
    }
    return counts[what] > 0


# Scripts that put no spaces between words: where a word ends there, only a dictionary could say.
_NO_SPACES = regex.compile(
    r"[\p{Han}\p{Hiragana}\p{Katakana}\p{Bopomofo}\p{Thai}\p{Lao}\p{Khmer}\p{Myanmar}\p{Tai_Le}\p{Tibetan}ー々]"
)


def _word(text: str, word: str) -> bool:
    """Whether the word stands in the text by itself (UAX #29, word boundaries); in scripts without spaces, anywhere."""
    wanted = plain(word.strip())
    if not wanted:
        return False
    begins, ends = (r"" if _NO_SPACES.match(char) else r"\b" for char in (wanted[0], wanted[-1]))
    return regex.search(rf"(?w){begins}{regex.escape(wanted)}{ends}", plain(text)) is not None


def _language(said: str, wanted: frozenset[str]) -> bool:
    """By basic filtering: a range matches a tag that begins with it at a subtag's end (RFC 4647, 3.3.1)."""
    tag = said.lower()
    return any(tag == one.lower() or tag.startswith(f"{one.lower()}-") for one in wanted)
