"""Which starters are proposed: a small supply of different kinds, and what people made of earlier ones changes what comes."""

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from menudo_core.text.search_key import fold_case_and_accents
from menudo_core.text.similarity import shingles


class Kind(StrEnum):
    """What a starter begins from."""

    ALMANAC = "almanac"
    ARTICLE = "article"
    THING = "thing"
    SUCCESS = "success"
    TOPIC = "topic"


class Reason(StrEnum):
    """Why one was thrown away."""

    NOT_US = "not_us"
    WORDING = "wording"
    SAID = "said"
    NOT_NOW = "not_now"
    LESS = "less"


@dataclass(frozen=True, slots=True)
class Seed:
    """What a starter could begin from. `key` names it, once and for all; `topic` is what it is about, in a few words;
    `weight` how near it lies, from 0 to 1 (a date soon, a post that did very well)."""

    kind: Kind
    key: str
    topic: str
    weight: float = 0.5


@dataclass(frozen=True, slots=True)
class Answer:
    """What became of an earlier starter. `reason` None: it was kept."""

    kind: Kind
    topic: str
    reason: Reason | None = None


def choose_seeds(
    seeds: Sequence[Seed], answers: Sequence[Answer], present_kinds: Sequence[Seed], most: int
) -> list[Seed]:
    """So many seeds that the proposals are `most` with those that are `present_kinds`; the best first.

    Each kind counts as much as its starters were kept (a Beta mean, one kept and one thrown away before anything is
    known). `LESS` counts three times; what shares its topic with something that is not us is left out, what was said
    counts half. No kind fills more than half of the supply while there is another, and no topic comes twice.
    """
    worth, gone, disliked_words = _preferences_from(answers)
    per_kind = Counter(one.kind for one in present_kinds)
    topics = {fold_case_and_accents(one.topic) for one in present_kinds}
    ranked = sorted(seeds, key=lambda s: (-_score(s, worth, disliked_words), s.key))
    chosen: list[Seed] = []
    for limit in (max(1, (most + 1) // 2), most):
        for seed in ranked:
            if len(present_kinds) + len(chosen) >= most:
                return chosen
            topic = fold_case_and_accents(seed.topic)
            if seed in chosen or topic in topics or _topic_words(topic) & gone or per_kind[seed.kind] >= limit:
                continue
            chosen.append(seed)
            topics.add(topic)
            per_kind[seed.kind] += 1
    return chosen


def _preferences_from(answers: Sequence[Answer]) -> tuple[dict[Kind, float], frozenset[str], frozenset[str]]:
    kept: dict[Kind, int] = defaultdict(int)
    thrown: dict[Kind, int] = defaultdict(int)
    gone: set[str] = set()
    disliked_words: set[str] = set()
    for one in answers:
        if one.reason is None:
            kept[one.kind] += 1
        else:
            thrown[one.kind] += 3 if one.reason is Reason.LESS else one.reason is not Reason.WORDING
        if one.reason is Reason.NOT_US:
            gone |= _topic_words(fold_case_and_accents(one.topic))
        if one.reason is Reason.SAID:
            disliked_words |= _topic_words(fold_case_and_accents(one.topic))
    worth = {kind: (kept[kind] + 1) / (kept[kind] + thrown[kind] + 2) for kind in Kind}
    return worth, frozenset(gone), frozenset(disliked_words)


def _topic_words(topic: str) -> frozenset[str]:
    return frozenset(topic.split()) if len(topic.split()) == 1 else shingles(topic)


def _score(seed: Seed, worth: dict[Kind, float], disliked_words: frozenset[str]) -> float:
    return (
        worth[seed.kind]
        * (0.5 + seed.weight)
        * (0.5 if _topic_words(fold_case_and_accents(seed.topic)) & disliked_words else 1)
    )
