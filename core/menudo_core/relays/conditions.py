"""Which items a relay takes."""

from dataclasses import dataclass
from enum import StrEnum
from zoneinfo import ZoneInfo

import regex

from menudo_core.relays.item import Item
from menudo_core.text.hashtags import hashtags, strip_sign
from menudo_core.text.search_key import fold_case_and_accents
from menudo_core.timing.hours import Hours


class ContentFeature(StrEnum):
    PICTURE = "picture"
    VIDEO = "video"
    MEDIA = "media"
    LINK = "link"


class UnmetCondition(StrEnum):
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

    `required_words` and `tags`: one of them must be there (whole words, however they are cased and accented; tags without #, a
    feed's categories among them).
    `excluded_words`: none of these words may be. `hours` of the wall in which it appeared.
    """

    has: frozenset[ContentFeature] = frozenset()
    required_words: tuple[str, ...] = ()
    excluded_words: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    kinds: frozenset[str] = frozenset()
    languages: frozenset[str] = frozenset()
    hours: Hours | None = None


def first_unmet(conditions: Conditions, item: Item, zone: ZoneInfo) -> UnmetCondition | None:
    """The first condition that the item doesn't meet, None: it meets all. `zone` is that of the hours."""
    if not all(_has_feature(item, what) for what in conditions.has):
        return UnmetCondition.HAS
    if conditions.required_words and not any(_contains_word(item.text, word) for word in conditions.required_words):
        return UnmetCondition.WORD
    if any(_contains_word(item.text, word) for word in conditions.excluded_words):
        return UnmetCondition.WORD
    if conditions.tags:
        there = {fold_case_and_accents(tag) for tag in (*hashtags(item.text), *item.tags)}
        if not any(fold_case_and_accents(strip_sign(tag)) in there for tag in conditions.tags):
            return UnmetCondition.TAG
    if conditions.kinds and item.kind not in conditions.kinds:
        return UnmetCondition.KIND
    if conditions.languages and not _language_matches(item.language, conditions.languages):
        return UnmetCondition.LANGUAGE
    if conditions.hours is not None and not conditions.hours.contains(item.at.astimezone(zone).time()):
        return UnmetCondition.HOUR
    return None


def _has_feature(item: Item, what: ContentFeature) -> bool:
    counts = {
        ContentFeature.PICTURE: item.pictures,
        ContentFeature.VIDEO: item.videos,
        ContentFeature.MEDIA: item.pictures + item.videos,
        ContentFeature.LINK: len(item.link),
    }
    return counts[what] > 0


# Scripts that put no spaces between words: where a word ends there, only a dictionary could say.
_NO_SPACES = regex.compile(
    r"[\p{Han}\p{Hiragana}\p{Katakana}\p{Bopomofo}\p{Thai}\p{Lao}\p{Khmer}\p{Myanmar}\p{Tai_Le}\p{Tibetan}ー々]"
)


def _contains_word(text: str, word: str) -> bool:
    """Whether the word stands in the text by itself (UAX #29, word boundaries); in scripts without spaces, anywhere."""
    wanted = fold_case_and_accents(word.strip())
    if not wanted:
        return False
    begins, ends = (r"" if _NO_SPACES.match(char) else r"\b" for char in (wanted[0], wanted[-1]))
    return regex.search(rf"(?w){begins}{regex.escape(wanted)}{ends}", fold_case_and_accents(text)) is not None


def _language_matches(tag: str, wanted: frozenset[str]) -> bool:
    """By basic filtering: a range matches a tag that begins with it at a subtag's end (RFC 4647, 3.3.1)."""
    tag = tag.lower()
    return any(tag == one.lower() or tag.startswith(f"{one.lower()}-") for one in wanted)
