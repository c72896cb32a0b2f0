"""What chance alone would do: whether groups differ, and which of them, by permutation."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi, sqrt, tan
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

PERMUTATIONS = 999
# Values shuffled at once: what is held in memory stays small.
_BATCH_SIZE = 400_000
_TINY = 1e-12


@dataclass(frozen=True, slots=True)
class PValues:
    """How often chance does the same or more: `overall`, that the groups differ so much; `by_group`, that the best of them
    stands out as far as this one does (above the rest)."""

    overall: float
    by_group: tuple[float, ...]


def compare_groups(groups: Sequence[Sequence[float]], seed: int = 0) -> PValues:
    """Compare the means of two or more groups, none of them empty.

    `overall` is the permutation test of the F ratio of the analysis of variance; `by_group` are single-step max-t adjusted
    p-values, which hold the chance of any false one (Westfall and Young, Resampling-Based Multiple Testing, 1993; both from
    memory). Each counts the groups as they are among the permutations, so that no p-value is zero. The same groups and
    `seed` give the same.
    """
    sizes = np.array([len(group) for group in groups])
    values = np.concatenate([np.asarray(group, dtype=float) for group in groups])
    squares, stands = _statistics(values[None, :], sizes)
    rng = np.random.default_rng(seed)
    as_much, as_far, done = 1, np.ones(len(sizes)), 0
    while done < PERMUTATIONS:
        rows = min(PERMUTATIONS - done, max(_BATCH_SIZE // len(values), 1))
        some_squares, some_stands = _statistics(rng.permuted(np.tile(values, (rows, 1)), axis=1), sizes)
        as_much += int(np.sum(some_squares >= squares[0] * (1 - _TINY)))
        as_far += np.sum(some_stands.max(axis=1)[:, None] >= stands[0] - _TINY, axis=0)
        done += rows
    every = PERMUTATIONS + 1
    return PValues(as_much / every, tuple(float(n) / every for n in as_far))


def _statistics(rows: NDArray[np.float64], sizes: NDArray[np.int64]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Of each row of values, sorted by group: the F ratio, and how many standard errors each group's mean stands above
    the mean of all."""
    total, k = rows.shape[1], len(sizes)
    means = np.add.reduceat(rows, np.concatenate([[0], np.cumsum(sizes)[:-1]]), axis=1) / sizes
    mean = rows.mean(axis=1, keepdims=True)
    outside = (sizes * (means - mean) ** 2).sum(axis=1)
    inside = np.maximum(((rows - mean) ** 2).sum(axis=1) - outside, _TINY)
    within = inside / max(total - k, 1)
    errors = np.sqrt(within[:, None] * (1 / sizes - 1 / total))
    return outside / (k - 1) / within, (means - mean) / errors


def t_quantile(degrees: int) -> float:
    """The two-sided 95 % quantile of Student's t: in closed form for one and two degrees of freedom, else by the expansion
    about the normal distribution (Abramowitz and Stegun, 26.7.5), good to two digits."""
    if degrees <= 1:
        return tan(pi * 0.475)
    if degrees == 2:
        return 0.95 * sqrt(2 / (4 * 0.975 * 0.025))
    z, n = NormalDist().inv_cdf(0.975), degrees
    first = (z**3 + z) / 4
    second = (5 * z**5 + 16 * z**3 + 3 * z) / 96
    third = (3 * z**7 + 19 * z**5 + 17 * z**3 - 15 * z) / 384
    fourth = (79 * z**9 + 776 * z**7 + 1482 * z**5 - 1920 * z**3 - 945 * z) / 92160
    return z + first / n + second / n**2 + third / n**3 + fourth / n**4
