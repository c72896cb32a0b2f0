"""Which posts did well: each by what its profiles usually earn."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from menudo_core.insight.tags import PublishedPost, baseline_for

# A profile with fewer measured posts than this has no usual to be measured by.
_MIN_POSTS_PER_PROFILE = 5


@dataclass(frozen=True, slots=True)
class TopPost:
    """A post that did better than usual: how many times what its profiles usually earn, the mean of its deliveries."""

    post_id: int
    times_usual: float
    earned: float


def top_posts(out: Sequence[PublishedPost], most: int) -> list[TopPost]:
    """The posts that earned more than their profiles usually do, the best first."""
    counts: dict[int, int] = defaultdict(int)
    for one in out:
        counts[one.profile] += one.earned is not None
    baseline = baseline_for(out)
    ratios: dict[int, list[float]] = defaultdict(list)
    earned: dict[int, float] = defaultdict(float)
    for one in out:
        mean = baseline.get(one.profile)
        if one.earned is not None and mean and counts[one.profile] >= _MIN_POSTS_PER_PROFILE:
            ratios[one.post].append(one.earned / mean)
            earned[one.post] += one.earned
    found = [TopPost(post, sum(values) / len(values), earned[post]) for post, values in ratios.items()]
    better = [one for one in found if one.times_usual > 1]
    return sorted(better, key=lambda one: (-one.times_usual, one.post_id))[:most]
