"""What hashtags have earned: how posts with a tag did beside what their profiles usually do."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from menudo_core.insight.posting_times import LEAST_POSTS, variance_components
from menudo_core.text.hashtags import tag_key

# A tag on fewer measured deliveries than this says nothing of what it earns.
_MIN_POSTS_PER_TAG = 3


@dataclass(frozen=True, slots=True)
class PublishedPost:
    """A published delivery: its post, its profile, its tags (without their signs), and what it earned (None: not measured)."""

    post: int
    profile: int
    tags: frozenset[str]
    earned: float | None = None


@dataclass(frozen=True, slots=True)
class TagPerformance:
    """How a tag did before: in how many published posts; the mean of what they earned; and how many times what their
    profiles usually earn that is, drawn towards 1 as far as few posts say little. None: not measured, or not enough to say.
    """

    posts: int
    earned: float | None = None
    times_usual: float | None = None


def tag_performance(out: Sequence[PublishedPost]) -> dict[str, TagPerformance]:
    """Each tag's past. A large profile's posts don't speak louder than a small one's: each is measured by its own usual.

    The drawing towards 1 is that of one-way random effects (`variance_components`), with a delivery in the group of each of its tags:
    an approximation, since groups share deliveries.
    """
    posts: dict[str, set[int]] = defaultdict(set)
    earned: dict[str, list[float]] = defaultdict(list)
    against: dict[str, list[float]] = defaultdict(list)
    baseline = baseline_for(out)
    # However one is cased and composed, it is the same; it is named as it was written first.
    names: dict[str, str] = {}
    for one in out:
        for tag in {names.setdefault(tag_key(written), written) for written in sorted(one.tags)}:
            posts[tag].add(one.post)
            if one.earned is not None:
                earned[tag].append(one.earned)
                if baseline.get(one.profile):
                    against[tag].append(one.earned / baseline[one.profile])
    groups = {tag: values for tag, values in against.items() if len(values) >= _MIN_POSTS_PER_TAG}
    drawn = _shrunken_means(groups) if sum(one.earned is not None for one in out) >= LEAST_POSTS else {}
    return {
        tag: TagPerformance(len(of), sum(earned[tag]) / len(earned[tag]) if earned[tag] else None, drawn.get(tag))
        for tag, of in posts.items()
    }


def baseline_for(out: Sequence[PublishedPost]) -> dict[int, float]:
    """The mean of what each profile's measured posts earned."""
    of: dict[int, list[float]] = defaultdict(list)
    for one in out:
        if one.earned is not None:
            of[one.profile].append(one.earned)
    return {profile: sum(values) / len(values) for profile, values in of.items()}


def _shrunken_means(groups: dict[str, list[float]]) -> dict[str, float]:
    """Each group's mean, drawn towards 1."""
    if len(groups) < 2:
        return {}
    parts = variance_components(list(groups.values()))
    found = {}
    for tag, values in groups.items():
        both = len(values) * parts.between + parts.within
        weight = len(values) * parts.between / both if both else 0.0
        found[tag] = 1 + weight * (sum(values) / len(values) - 1)
    return found
