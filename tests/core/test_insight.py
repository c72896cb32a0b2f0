"""Spacing and better times."""

import itertools
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.insight.posting_times import (
    Cell,
    PostingTimes,
    better_posting_times,
    suggested_slots,
    variance_components,
)
from menudo_core.insight.spacing import Kind, ScheduledItem, SpacingPreferences, spacing_advice
from menudo_core.insight.tags import PublishedPost, TagPerformance, tag_performance
from menudo_core.text.similarity import jaccard_similarity, shingles
from menudo_core.timing.slots import Slot
from menudo_core.wording.suggest import TagKnowledge, suggest_hashtags

MADRID = ZoneInfo("Europe/Madrid")
MONDAY = datetime(2026, 11, 23, 12, tzinfo=UTC)
DAY = timedelta(days=1)


def _say(going, wish, first=date(2026, 11, 23), last=date(2026, 12, 6)):
    return spacing_advice(going, {1: wish}, {1: MADRID}, first, last)


def test_days_without_a_post_beyond_the_wish_are_a_gap():
    going = [ScheduledItem(1, 1, MONDAY), ScheduledItem(2, 1, MONDAY + 5 * DAY), ScheduledItem(3, 1, MONDAY + 13 * DAY)]
    gaps = _say(going, SpacingPreferences(max_gap_days=4))
    assert [(a.first, a.last) for a in gaps] == [(date(2026, 11, 29), date(2026, 12, 5))]
    assert next((a.first, a.last) for a in _say(going, SpacingPreferences(max_gap_days=3))) == (
        date(2026, 11, 24),
        date(2026, 11, 27),
    )


def test_a_gap_that_began_before_the_window_is_seen_in_it():
    long_ago = [ScheduledItem(1, 1, MONDAY - 6 * DAY), ScheduledItem(2, 1, MONDAY + 2 * DAY)]
    assert _say(long_ago, SpacingPreferences(max_gap_days=6))[0].first == date(2026, 11, 23)


def test_before_the_first_post_of_all_a_gap_counts_from_the_windows_first_day():
    (gap, _) = _say([ScheduledItem(1, 1, MONDAY + 5 * DAY)], SpacingPreferences(max_gap_days=4))
    assert (gap.first, gap.last) == (date(2026, 11, 23), date(2026, 11, 27))
    assert gap.summary.startswith("5 days without a post")


def test_a_day_is_the_profiles_own():
    late = ScheduledItem(1, 1, datetime(2026, 11, 22, 23, 30, tzinfo=UTC))  # 00:30 on Monday in Madrid
    assert _say([late], SpacingPreferences(max_gap_days=0), last=date(2026, 11, 23)) == []


def test_posts_closer_than_wished_are_bracketed_together():
    going = [ScheduledItem(n, 1, MONDAY + timedelta(minutes=m)) for n, m in enumerate((0, 20, 50, 200))]
    (close,) = _say(going, SpacingPreferences(min_gap_minutes=60))
    assert (close.kind, close.ids) == (Kind.CLOSE, (0, 1, 2))
    assert close.summary == "3 posts close together: 20 minutes apart, and at least 60 are wished."


def test_more_in_a_day_than_the_network_takes():
    going = [ScheduledItem(n, 1, MONDAY + timedelta(minutes=n)) for n in range(4)]
    assert [a.kind for a in _say(going, SpacingPreferences(max_per_day=3))] == [Kind.PACE]


def test_the_same_picture_and_nearly_the_same_words_too_soon():
    words = shingles("The greenhouse is open until eight on Thursday, come and see the orchids")
    near = shingles("The greenhouse is open until eight on Friday, come and see the orchids 🌱 https://a.example")
    going = [
        ScheduledItem(1, 1, MONDAY, frozenset({7}), words),
        ScheduledItem(2, 1, MONDAY + 3 * DAY, frozenset({7}), frozenset()),
        ScheduledItem(3, 1, MONDAY + 5 * DAY, frozenset(), near),
        ScheduledItem(4, 1, MONDAY + 40 * DAY, frozenset({7}), words),
    ]
    found = _say(going, SpacingPreferences(repeat_days=30))
    assert [(a.kind, a.ids, a.other) for a in found] == [(Kind.MEDIA, (2,), 1), (Kind.TEXT, (3,), 1)]


def test_likeness_is_jaccards_index():
    assert jaccard_similarity(frozenset("abc"), frozenset("bcd")) == 0.5
    assert jaccard_similarity(shingles(""), shingles("")) == 0
    assert shingles("¡Hola!") == {"hola"}
    assert shingles("One two") == {"one two"} and shingles("One two three") == {"one two three"}
    assert shingles("One two three four") == {"one two three", "two three four"}


@given(st.lists(st.integers(0, 60 * 24 * 20), max_size=40), st.integers(0, 300))
def test_close_groups_hold_just_the_pairs_that_are_too_close(minutes, least):
    going = [ScheduledItem(n, 1, MONDAY + timedelta(minutes=m)) for n, m in enumerate(sorted(minutes))]
    told = {
        pair
        for a in _say(going, SpacingPreferences(min_gap_minutes=least))
        for pair in zip(a.ids, a.ids[1:], strict=False)
    }
    apart = timedelta(minutes=least)
    assert told == {(a.id, b.id) for a, b in itertools.pairwise(going) if b.at - a.at < apart}


def test_variance_components_of_the_dyestuff_example():
    """Davies and Goldsmith, Statistical Methods in Research and Production (yield of dyestuff, 6 batches of 5), from
    memory: mean 1527.5, mean square within 2451.25, component between 1764.05."""
    batches = [
        [1545, 1440, 1440, 1520, 1580],
        [1540, 1555, 1490, 1560, 1495],
        [1595, 1550, 1605, 1510, 1560],
        [1445, 1440, 1595, 1465, 1545],
        [1595, 1630, 1515, 1635, 1625],
        [1520, 1455, 1450, 1480, 1445],
    ]
    found = variance_components(batches)
    assert found.mean == pytest.approx(1527.5)
    assert found.within == pytest.approx(2451.25)
    assert found.between == pytest.approx(1764.05)


def test_of_groups_of_one_nothing_is_within():
    found = variance_components([[1.0], [3.0], []])
    assert (found.mean, found.between, found.within) == (2.0, 2.0, 0.0)


def _results(many, good=50.0, else_=10.0):
    """Mondays at noon earn more than the rest; each with a little of its own."""
    out = []
    for week in range(many):
        out.append((MONDAY + 7 * week * DAY, good + week % 3))
        out += [(MONDAY + (7 * week + d) * DAY, else_ + (week + d) % 4) for d in range(1, 7)]
    return out


def test_a_better_time_is_found_and_drawn_towards_the_mean():
    found = better_posting_times(_results(8), MADRID)
    best = found.cells[0]
    assert (best.weekday, best.hour, best.posts) == (0, 13, 8) and best.is_significant
    mean = sum(earned for _, earned in _results(8)) / 56
    assert mean < best.estimate < best.seen and best.low < best.estimate < best.high


def test_fewer_posts_are_drawn_more():
    thin = [r for r in _results(8) if r[0].weekday() != 0] + [(MONDAY, 52.0)]
    many, few = better_posting_times(_results(8), MADRID).cells[0], better_posting_times(thin, MADRID).cells[0]
    assert few.posts == 1 and (few.seen - few.estimate) > (many.seen - many.estimate)
    assert few.high - few.low > many.high - many.low


@pytest.mark.parametrize(
    "results",
    [
        [],
        _results(2),
        [(MONDAY + n * 7 * DAY, 5.0 + n % 2) for n in range(30)],
        [(MONDAY + n * timedelta(hours=25), 5.0) for n in range(40)],
    ],
)
def test_it_says_so_when_there_isnt_enough_to_say(results):
    found = better_posting_times(results, MADRID)
    assert found.cells == () and found.unavailable_reason.startswith("Not enough to say")


def test_offered_slots_stand_apart_and_clear_of_those_there_are():
    results = _results(8) + [(MONDAY + 7 * w * DAY + timedelta(hours=2), 48.0 + w % 3) for w in range(8)]
    found = better_posting_times(results, MADRID)
    assert suggested_slots(found, 3, 4) == [Slot(0, time(13))]
    assert suggested_slots(found, 3, 2) == [Slot(0, time(13)), Slot(0, time(15))]
    assert suggested_slots(found, 3, 4, taken=[Slot(0, time(12))]) == []
    assert suggested_slots(found, 1, 2) == [Slot(0, time(13))] and suggested_slots(found, 0, 2) == []
    # A week is a ring: Sunday's last hour is near Monday's first, and just so far apart is far enough.
    times = [
        Cell(6, 23, 9, 9, 9, 9, 9, 0.9, 0.01),
        Cell(0, 1, 9, 8, 8, 8, 8, 0.8, 0.05),
        Cell(3, 0, 9, 7, 7, 7, 7, 0, 0),
    ]
    by_hand = PostingTimes(tuple(times), 27)
    assert suggested_slots(by_hand, 9, 2) == [Slot(6, time(23)), Slot(0, time(1))]
    assert suggested_slots(by_hand, 9, 3) == [Slot(6, time(23))]


def test_repetitions_say_how_many_days_apart_they_stand():
    def said(apart: timedelta) -> str:
        going = [ScheduledItem(n, 1, MONDAY + n * apart, frozenset({7})) for n in (0, 1)]
        wish = {1: SpacingPreferences(repeat_days=9)}
        [advice] = spacing_advice(going, wish, {1: MADRID}, MONDAY.date(), MONDAY.date() + 9 * DAY)
        return advice.summary

    assert said(timedelta(hours=23)) == "The same media stands on the same day."
    assert (
        said(DAY) == "The same media stands a day before." and said(2 * DAY) == "The same media stands 2 days before."
    )


def test_tags_by_what_they_earned_beside_what_their_profiles_usually_do():
    # Worked by hand: a large profile earns 100 with and without "moss", a small one 20 with it and 10 without.
    out = [PublishedPost(n, 1, frozenset({"moss"} if n % 2 else {"bread"}), 100.0) for n in range(10)]
    out += [
        PublishedPost(20 + n, 2, frozenset({"moss"} if n % 2 else {"bread"}), 20.0 if n % 2 else 10.0)
        for n in range(10)
    ]
    out += [PublishedPost(40, 2, frozenset({"moss", "rare"}))]
    past = tag_performance(out)
    assert (past["moss"].posts, past["moss"].earned, past["bread"].earned) == (11, 60.0, 55.0)
    # Of the usual 15 of the small profile it earned 20 and 10: over both profiles 7/6 and 5/6 of the usual, before drawing.
    assert past["rare"] == TagPerformance(1)
    assert past["bread"].times_usual + past["moss"].times_usual == pytest.approx(2)
    assert 1 < past["moss"].times_usual < 7 / 6
    assert tag_performance(out[:10])["moss"].times_usual is None, "too few were measured to say"
    same = tag_performance([PublishedPost(n, 1, frozenset({"a"} if n % 2 else {"b"}), 5.0) for n in range(30)])
    assert {p.times_usual for p in same.values()} == {1.0}
    alone = tag_performance([PublishedPost(n, 1, frozenset({"a"}), 5.0 + n % 2) for n in range(30)])
    assert alone["a"].times_usual is None, "one tag has nothing to be compared with"


def test_a_tag_that_did_well_is_proposed_and_one_that_did_badly_is_not_on_its_past_alone():
    known = TagKnowledge(
        past={
            "gold": TagPerformance(9, 40.0, 1.6),
            "lead": TagPerformance(9, 4.0, 0.4),
            "plain": TagPerformance(9, 10.0, 1.05),
        }
    )
    found = {s.tag: (s.weight, s.why) for s in suggest_hashtags("Something else", known)}
    assert set(found) == {"gold", "plain"} and found["gold"][0] > found["plain"][0]
    assert found["gold"][1] == (
        "used in 9 published posts, 40 reactions each: 1.6 times what their profiles usually earn",
    )
    assert found["plain"][1] == ("used in 9 published posts, 10 reactions each",)
    assert {s.tag for s in suggest_hashtags("Lead pipes", known)} == {"gold", "plain", "lead"}
