"""Better times by simulation: how often chance is taken for a difference, and how often an interval holds what is true."""

from datetime import UTC, datetime, timedelta
from itertools import combinations
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from scipy import stats

from menudo_core.insight.chance import compare_groups, t_quantile
from menudo_core.insight.posting_times import better_posting_times, suggested_slots

UTC_ZONE = ZoneInfo("UTC")
MONDAY = datetime(2026, 11, 23, 12, tzinfo=UTC)


def _posts(rng, sizes: list[int], means, noise) -> list[tuple[datetime, float]]:
    """Posts at as many hours as there are sizes; what each earned is its hour's mean with some noise."""
    hours = [(n % 7, n // 7 * 3) for n in range(len(sizes))]
    return [
        (MONDAY.replace(hour=0) + timedelta(days=day + 7 * week, hours=hour), noise(rng, mean))
        for (day, hour), size, mean in zip(hours, sizes, means, strict=True)
        for week in range(size)
    ]


def _normal(rng, mean):
    return rng.normal(mean, 10)


def _skewed(rng, mean):
    return float(rng.poisson(rng.gamma(4, max(mean, 1) / 4)))


DESIGNS = [([6] * 7, 1.0), ([3] * 20, 1.0), ([1, 2, 3, 4, 5, 6] * 2, 1.0), ([20] * 10, 0.5), ([8] * 5, 2.0)]


@pytest.mark.parametrize("noise", [_normal, _skewed])
@pytest.mark.parametrize("sizes", [sizes for sizes, _ in DESIGNS])
def test_where_times_make_no_difference_at_most_one_profile_in_twenty_is_offered_any(sizes, noise):
    """By simulation, seed 14; with the profiles' own hours in UTC."""
    rng, profiles = np.random.default_rng(14), 150
    offers = sum(
        bool(suggested_slots(better_posting_times(_posts(rng, sizes, [100.0] * len(sizes), noise), UTC_ZONE), 6, 4))
        for _ in range(profiles)
    )
    # Where the chance is 5 %, more than 16 of 150 come to pass one time in a thousand (binomial, scipy).
    assert offers <= stats.binom.ppf(0.999, profiles, 0.05)


def test_intervals_hold_the_true_mean_as_often_as_they_say():
    """Means of hours drawn with each design's ratio of the spread within an hour; by simulation, seed 7."""
    rng, counts = np.random.default_rng(7), []
    for sizes, ratio in DESIGNS:
        held = said = 0
        for _ in range(150):
            true = rng.normal(100, 10 * ratio, len(sizes))
            for cell in better_posting_times(_posts(rng, sizes, true, _normal), UTC_ZONE).cells:
                held += cell.low <= true[cell.hour // 3 * 7 + cell.weekday] <= cell.high
                said += 1
        counts.append((held, said))
    rates = [held / said for held, said in counts]
    assert all(0.935 <= rate <= 0.965 for rate in rates), rates
    held, said = map(sum, zip(*counts, strict=True))
    assert 0.94 <= held / said <= 0.96, rates


@pytest.mark.parametrize("many", [3, 4, 6])
def test_intervals_are_morriss_worked_out_plainly(many):
    """Morris, “Parametric empirical Bayes inference”, Journal of the American Statistical Association 78, 1983, from memory, by
    numpy and scipy. Of three groups his divisor would be nothing: there it is one."""
    rng = np.random.default_rng(many)
    # Noise enough that groups are drawn far, and the mean's own doubt counts.
    groups = [rng.normal(20 + 3 * g, 4, 12) for g in range(many)]
    results = [
        (MONDAY + timedelta(days=g + 7 * n), float(v)) for g, some in enumerate(groups) for n, v in enumerate(some)
    ]
    k, n, mean = len(groups), sum(map(len, groups)), np.concatenate(groups).mean()
    within = sum(((g - g.mean()) ** 2).sum() for g in groups) / (n - k)
    between = (sum(len(g) * (g.mean() - mean) ** 2 for g in groups) / (k - 1) - within) / 12
    cells = better_posting_times(results, UTC_ZONE).cells
    assert len(cells) == many
    for cell in cells:
        seen = groups[cell.weekday].mean()
        drawn = within / (12 * between + within)
        variance = (
            between * drawn + drawn**2 * (between + within / 12) / k + 2 / max(k - 3, 1) * (drawn * (seen - mean)) ** 2
        )
        half = stats.t.ppf(0.975, n - k) * variance**0.5
        assert cell.estimate == pytest.approx(seen - drawn * (seen - mean)) and cell.lift == pytest.approx(
            cell.estimate / mean - 1
        )
        assert (cell.high - cell.estimate, cell.estimate - cell.low) == pytest.approx((half, half), rel=0.005)


@pytest.mark.parametrize("degrees", [1, 2, 3, 5, 10, 30, 400])
def test_students_quantile_is_scipys(degrees):
    # In closed form for one and two; the expansion is good to two digits at three, and soon to four.
    exact = {1: 1e-9, 2: 1e-9, 3: 5e-3, 5: 2e-4}.get(degrees, 1e-5)
    assert t_quantile(degrees) == pytest.approx(stats.t.ppf(0.975, degrees), rel=exact)


def test_chances_are_those_of_the_f_test_where_noise_is_normal():
    """Against scipy's one-way analysis of variance; a permutation's p-value is itself a sample of 999."""
    rng = np.random.default_rng(3)
    for _ in range(20):
        groups = [rng.normal(0, 1, n).tolist() for n in (6, 8, 5, 9)]
        p = stats.f_oneway(*groups).pvalue
        assert compare_groups(groups).overall == pytest.approx(p, abs=0.05)


def test_chances_are_those_of_all_partitions():
    """Worked out over every way to part nine values into two, three and four (1,260), instead of 999 of them by chance."""
    groups = [[9.0, 7.0], [5.0, 6.5, 4.0], [3.0, 8.0, 2.0, 4.5]]
    values = [v for group in groups for v in group]

    def statistics(two, three, four) -> tuple[float, list[float]]:
        parted, n, mean = (two, three, four), len(values), sum(values) / len(values)
        inside = sum((v - sum(g) / len(g)) ** 2 for g in parted for v in g) / (n - 3)
        outside = sum(len(g) * (sum(g) / len(g) - mean) ** 2 for g in parted) / 2
        return outside / inside, [(sum(g) / len(g) - mean) / (inside * (1 / len(g) - 1 / n)) ** 0.5 for g in parted]

    every = []
    for two in combinations(range(9), 2):
        for three in combinations([n for n in range(9) if n not in two], 3):
            four = [n for n in range(9) if n not in two and n not in three]
            every.append(statistics(*([values[n] for n in some] for some in (two, three, four))))
    ratio, stands = statistics(*groups)
    overall = sum(other >= ratio - 1e-9 for other, _ in every) / len(every)
    by_group = [sum(max(others) >= own - 1e-9 for _, others in every) / len(every) for own in stands]
    found = compare_groups(groups)
    assert found.overall == pytest.approx(overall, abs=0.05)
    assert found.by_group == pytest.approx(by_group, abs=0.05)
    # Itself counts among them, so that a chance is never nothing; and what is the same everywhere is all chance.
    assert compare_groups([[1.0, 1.1] * 9, [99.0, 99.1] * 9]).overall == 1 / 1000
    assert compare_groups([[2.0, 3.0], [2.0, 3.0]]).overall == 1
