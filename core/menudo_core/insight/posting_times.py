"""Better times: what a profile's own results say of weekdays and hours, and how sure that is."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, time
from math import sqrt
from zoneinfo import ZoneInfo

from menudo_core.insight.chance import compare_groups, t_quantile
from menudo_core.timing.slots import Slot

LEAST_POSTS, LEAST_CELLS = 20, 3
# How often what is only chance may be taken for a difference.
SIGNIFICANCE = 0.05


@dataclass(frozen=True, slots=True)
class VarianceComponents:
    """The parts of variance of one-way random effects: `between` groups and `within` them, and the mean of all."""

    mean: float
    between: float
    within: float


@dataclass(frozen=True, slots=True)
class Cell:
    """A weekday (0 is Monday) and an hour of the wall. `estimate` is its mean drawn towards the mean of all as far as
    few posts say little; `low` and `high` hold its true mean with 95 %. `lift` is the estimate over the mean of all, less
    one. `chance` is how often the best of so many times would do as well by chance alone: corrected for their number."""

    weekday: int
    hour: int
    posts: int
    seen: float
    estimate: float
    low: float
    high: float
    lift: float
    chance: float = 1.0

    @property
    def is_significant(self) -> bool:
        """Whether it is better than the usual, and not by chance."""
        return self.lift > 0 and self.chance <= SIGNIFICANCE


@dataclass(frozen=True, slots=True)
class PostingTimes:
    """What the results say. `unavailable_reason` says why they don't say enough; then `cells` is empty."""

    cells: tuple[Cell, ...]
    posts: int
    unavailable_reason: str = ""


def variance_components(groups: Sequence[Sequence[float]]) -> VarianceComponents:
    """Components of variance by the analysis of variance (Searle, Casella, McCulloch, Variance Components, 3.6):
    within is the mean square within, between (MSB - MSW) / n0, never below 0."""
    full = [group for group in groups if group]
    n, k = sum(map(len, full)), len(full)
    mean = sum(map(sum, full)) / n
    means = [sum(group) / len(group) for group in full]
    inside = sum((x - m) ** 2 for group, m in zip(full, means, strict=True) for x in group)
    outside = sum(len(group) * (m - mean) ** 2 for group, m in zip(full, means, strict=True))
    within = inside / (n - k) if n > k else 0.0
    n0 = (n - sum(len(group) ** 2 for group in full) / n) / (k - 1)
    return VarianceComponents(mean, max(0.0, (outside / (k - 1) - within) / n0), within)


def better_posting_times(results: Sequence[tuple[datetime, float]], zone: ZoneInfo) -> PostingTimes:
    """Weekday-hours by their estimate, best first. `results` are instants of posts and what each earned.

    Whether times differ at all is tested first, by permutation: where chance alone would do the same more often than one
    time in twenty, nothing is said.
    """
    groups: dict[tuple[int, int], list[float]] = defaultdict(list)
    for at, earned in results:
        wall_time = at.astimezone(zone)
        groups[wall_time.weekday(), wall_time.hour].append(earned)
    if len(results) < LEAST_POSTS:
        few = f"Not enough to say: {len(results)} posts with results, and it takes {LEAST_POSTS}."
        return PostingTimes((), len(results), few)
    if len(groups) < LEAST_CELLS or len(groups) == len(results):
        return PostingTimes(
            (), len(results), "Not enough to say: too few different times have been tried, or each only once."
        )
    parts = variance_components(list(groups.values()))
    by_chance = "Not enough to say: no time has done better than chance would have it."
    if parts.between <= 0 or parts.mean <= 0:
        return PostingTimes((), len(results), by_chance)
    chances = compare_groups(list(groups.values()))
    if chances.overall > SIGNIFICANCE:
        return PostingTimes((), len(results), by_chance)
    off = _half_widths(list(groups.values()), parts)
    cells = [
        _cell(key, values, parts, width, chance)
        for (key, values), width, chance in zip(groups.items(), off, chances.by_group, strict=True)
    ]
    return PostingTimes(tuple(sorted(cells, key=lambda c: (-c.estimate, c.weekday, c.hour))), len(results))


def _half_widths(groups: Sequence[Sequence[float]], parts: VarianceComponents) -> list[float]:
    """Half of each group's 95 % interval around its estimate.

    Empirical Bayes as Morris has it ("Parametric empirical Bayes inference", Journal of the American Statistical
    Association 78, 1983; from memory): to the variance of the estimate comes what is owed to the mean of all and to the
    parts of variance being estimated themselves; and the quantile is Student's. Its coverage is simulated in the tests.
    """
    n, k = sum(map(len, groups)), len(groups)
    about_mean = sum(parts.between + parts.within / len(group) for group in groups) / k**2
    quantile = t_quantile(n - k)
    widths = []
    for group in groups:
        drawn = parts.within / (len(group) * parts.between + parts.within)
        shift = drawn * (sum(group) / len(group) - parts.mean)
        variance = parts.between * drawn + drawn**2 * about_mean + 2 / max(k - 3, 1) * shift**2
        widths.append(quantile * sqrt(variance))
    return widths


def _cell(key: tuple[int, int], values: Sequence[float], parts: VarianceComponents, off: float, chance: float) -> Cell:
    n, seen = len(values), sum(values) / len(values)
    weight = n * parts.between / (n * parts.between + parts.within)
    estimate = parts.mean + weight * (seen - parts.mean)
    return Cell(*key, n, seen, estimate, estimate - off, estimate + off, estimate / parts.mean - 1, chance)


def suggested_slots(found: PostingTimes, many: int, apart_hours: int, taken: Sequence[Slot] = ()) -> list[Slot]:
    """The best cells as slots on the hour, at least so many hours from one another and from those taken already; only
    cells that are surely better than the usual."""
    kept = [slot.weekday * 24 + slot.at.hour for slot in taken]
    slots: list[Slot] = []
    for cell in found.cells:
        hour = cell.weekday * 24 + cell.hour
        far = all(min((hour - other) % 168, (other - hour) % 168) >= apart_hours for other in kept)
        if cell.is_significant and far and len(slots) < many:
            slots.append(Slot(cell.weekday, time(cell.hour)))
            kept.append(hour)
    return slots
