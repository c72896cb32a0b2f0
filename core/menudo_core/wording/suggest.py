"""Hashtags that suit a text, each with why."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from menudo_core.insight.tags import TagPerformance
from menudo_core.text.hashtags import hashtags, tag_from_words, tag_key
from menudo_core.wording.sentences import split_words

# A tag whose posts earn this much less, or more, than is usual there says so.
_WORSE = 0.15
_COMMON = frozenset(
    [
        "a",
        "an",
        "and",
        "are",
        "as",
        "at",
        "be",
        "but",
        "by",
        "can",
        "do",
        "for",
        "from",
        "had",
        "has",
        "have",
        "he",
        "her",
        "his",
        "how",
        "if",
        "in",
        "into",
        "is",
        "it",
        "its",
        "just",
        "more",
        "most",
        "not",
        "of",
        "on",
        "or",
        "our",
        "out",
        "over",
        "she",
        "so",
        "some",
        "such",
        "than",
        "that",
        "the",
        "their",
        "them",
        "then",
        "there",
        "these",
        "they",
        "this",
        "those",
        "to",
        "too",
        "up",
        "was",
        "we",
        "were",
        "what",
        "when",
        "where",
        "which",
        "who",
        "will",
        "with",
        "you",
        "your",
        "come",
        "see",
        "new",
        "one",
        "two",
        "three",
        "day",
        "week",
        "today",
    ]
)


@dataclass(frozen=True, slots=True)
class TagKnowledge:
    """What there is to go by: the brand's topics and standing tags, its past, what rises at the networks, and
    the post's campaign by name, with its tags."""

    topics: Sequence[str] = ()
    standing: Sequence[str] = ()
    past: Mapping[str, TagPerformance] = field(default_factory=dict)
    rising: Mapping[str, int] = field(default_factory=dict)
    campaign: tuple[str, tuple[str, ...]] = ("", ())


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A tag without its sign, its weight (larger is better), and every reason for it."""

    tag: str
    weight: float
    why: tuple[str, ...]


def suggest_hashtags(text: str, known: TagKnowledge, most: int = 12) -> list[Suggestion]:
    """Tags for `text` that it hasn't yet, the best first; alike ones count as one, whatever their case."""
    text_words = set(split_words(text))
    stems = {_stem(word) for word in text_words}
    present = {tag_key(tag) for tag in hashtags(text)}
    found: dict[str, tuple[str, float, list[str]]] = {}

    def add(tag: str, weight: float, why: str) -> None:
        tag = tag_from_words(tag)
        key = _stem(tag_key(tag))
        if not tag or tag_key(tag) in present or key in present:
            return
        name, sum_, reasons = found.get(key, (tag, 0.0, []))
        found[key] = (name, sum_ + weight, [*reasons, why])

    for topic in known.topics:
        hit = {_stem(w) for w in split_words(topic)} & stems
        if hit:
            add(topic, 4.0, f"a topic of the brand's that the text speaks of ({', '.join(sorted(hit))})")
    for tag in known.campaign[1]:
        add(tag, 5.0, f"belongs to the campaign {known.campaign[0]}")
    for tag in known.standing:
        add(tag, 3.0, "stands in the brand sheet")
    for tag, past in known.past.items():
        near = _stem(tag_key(tag)) in stems
        usual = 1.0 if past.times_usual is None else past.times_usual
        better = min(max(usual - 1, -1.0), 1.0)
        # What did worse than usual isn't proposed on its past alone.
        if near or (past.posts > 1 and better > -_WORSE):
            add(tag, (2.0 if near else 0.5) + min(past.posts, 10) / 10 + 2 * better, _reason(past))
    for tag, posts in known.rising.items():
        if _stem(tag_key(tag)) in stems:
            add(tag, 2.0, f"rising: {posts} posts in the last days")
    for word in text_words - _COMMON:
        if len(word) >= 5 and sum(w == word for w in split_words(text)) > 1:
            add(word, 1.0, "a word the text comes back to")
    out = [Suggestion(name, weight, tuple(why)) for name, weight, why in found.values()]
    return sorted(out, key=lambda s: (-s.weight, s.tag.casefold()))[:most]


def _reason(past: TagPerformance) -> str:
    """A tag's past in words."""
    reason = f"used in {past.posts} published post{'s' if past.posts != 1 else ''}"
    if past.earned is not None:
        reason += f", {past.earned:.0f} reaction{'s' if round(past.earned) != 1 else ''} each"
    if past.times_usual is not None and abs(past.times_usual - 1) >= _WORSE:
        reason += f": {past.times_usual:.1f} times what their profiles usually earn"
    return reason


def _stem(word: str) -> str:
    """A word without its plural: enough to see that mosses and moss are the same matter."""
    for end in ("sses", "ches", "shes", "xes"):
        if word.endswith(end):
            return word[:-2]
    return word[:-1] if word.endswith("s") and not word.endswith("ss") and len(word) > 3 else word
