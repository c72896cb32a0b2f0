"""What a network still takes of a profile, and trouble by its cause. Common practice, no published source: at most 100
listing posts, which disappear after 7 days (trade facts); all other numbers are invented."""

import heapq
import itertools
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.sheet import Pace
from menudo_core.sending.causes import Remedy, cause_of
from menudo_core.sending.quota import PublishedItem, ends_at, posts_kept, quota_wait

NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)
HOUR = timedelta(hours=1)


def ago(*hours: float) -> list[PublishedItem]:
    return [PublishedItem(NOW - h * HOUR) for h in hours]


def test_seconds_between_two_posts_are_kept():
    wait = quota_wait(Pace(seconds_between=300), None, "Cinta", [PublishedItem(NOW - timedelta(seconds=100))], NOW)
    assert (wait.at, wait.code) == (NOW + timedelta(seconds=200), "pace")
    assert quota_wait(Pace(seconds_between=300), None, "Cinta", ago(1), NOW) is None
    assert quota_wait(Pace(), None, "Cinta", ago(0, 0, 0), NOW) is None


def test_posts_a_day_are_of_any_twenty_four_hours():
    pace = Pace(posts_a_day=3)
    wait = quota_wait(pace, None, "Vuelta", ago(23, 5, 1), NOW)
    assert (wait.at, wait.code) == (NOW + HOUR, "quota") and "3 posts a day" in wait.message
    assert quota_wait(pace, None, "Vuelta", ago(24, 5, 1), NOW) is None
    assert quota_wait(pace, None, "Vuelta", ago(23, 22, 5, 1), NOW).at == NOW + 2 * HOUR


def test_files_a_day_are_counted_by_what_each_post_brings():
    pace = Pace(media_a_day=10)
    sent = [PublishedItem(NOW - 20 * HOUR, 4), PublishedItem(NOW - 10 * HOUR, 5), PublishedItem(NOW - HOUR, 0)]
    assert quota_wait(pace, None, "Vitrine", sent, NOW, files=1) is None
    wait = quota_wait(pace, None, "Vitrine", sent, NOW, files=2)
    assert (wait.at, wait.code) == (NOW + 4 * HOUR, "quota") and "9 went out" in wait.message
    assert quota_wait(pace, None, "Vitrine", sent, NOW, files=6).at == NOW + 14 * HOUR
    assert quota_wait(pace, None, "Vitrine", sent, NOW, files=11).at == NOW + 14 * HOUR
    assert quota_wait(pace, None, "Vitrine", [], NOW, files=11) is None is quota_wait(pace, None, "V", sent, NOW)


def test_a_listing_keeps_a_hundred_posts_of_seven_days():
    sheet = shipped_sheets()["waypost"]
    assert (sheet.pace.posts_kept, sheet.life_days) == (100, 7)
    full = ago(*(n + 1 for n in range(100)))
    wait = quota_wait(sheet.pace, sheet.life_days, "Waypost", full, NOW)
    assert (wait.code, wait.at) == ("cap", NOW - 100 * HOUR + timedelta(days=7))
    assert quota_wait(sheet.pace, sheet.life_days, "Waypost", full[:-1], NOW) is None
    # At its last moment one is gone.
    assert quota_wait(sheet.pace, sheet.life_days, "Waypost", [*full[:-1], *ago(7 * 24)], NOW) is None
    assert posts_kept(sheet.pace, sheet.life_days, [*(o.at for o in full), NOW - timedelta(days=8)], NOW) == (100, 100)
    assert ends_at(7, NOW) == NOW + timedelta(days=7) and ends_at(None, NOW) is None is ends_at(7, None)


@given(
    st.lists(st.tuples(st.floats(0, 48), st.integers(0, 4)), max_size=40),
    st.integers(1, 6) | st.none(),
    st.integers(4, 9) | st.none(),
    st.integers(1, 7200) | st.none(),
)
def test_whoever_waits_as_told_never_breaks_a_rule(wanted, a_day, files_a_day, between):
    pace = Pace(posts_a_day=a_day, media_a_day=files_a_day, seconds_between=between)
    sent: list[PublishedItem] = []
    # As the sender does it: each is looked at when its time comes, and again when its waiting is over.
    coming = [(NOW - hours * HOUR, files) for hours, files in wanted]
    heapq.heapify(coming)
    while coming:
        at, files = heapq.heappop(coming)
        wait = quota_wait(pace, None, "N", sent, at, files)
        assert wait is None or wait.at > at
        if wait is None:
            sent.append(PublishedItem(at, files))
        else:
            heapq.heappush(coming, (wait.at, files))
    for one in sent:
        day = [other for other in sent if one.at - timedelta(hours=24) < other.at <= one.at]
        assert a_day is None or len(day) <= a_day
        assert files_a_day is None or sum(other.files for other in day) <= files_a_day
    pairs = itertools.pairwise(sent)
    assert between is None or all(b.at - a.at >= timedelta(seconds=between) for a, b in pairs)


@pytest.mark.parametrize("code", ["refused", "unsure", "down", "reconnect", "comment", "missed"])
def test_every_cause_says_what_to_do(code):
    key, cause = cause_of(code, "signoff")
    assert key.startswith(code) and cause.title and cause.advice.endswith(".")
    assert cause_of("missed", "paused")[0] == "missed:paused" != cause_of("missed")[0]
    assert cause_of("something new")[1].remedy is Remedy.PLAN
