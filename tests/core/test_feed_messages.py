"""Entries known again, nothing old flooding in, and the messages they become. Identity: RFC 4287, 4.2.6; RSS 2.0, guid; JSON
Feed 1.1, id. Addresses compared as RFC 3986, 6.2.2.1 has it. All entries are invented."""

from datetime import UTC, date, datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from menudo_core.feeds.entry import Entry, new_entries, origin_key
from menudo_core.feeds.messages import Message, fill_from_entry, next_message, unknown_placeholders
from menudo_core.feeds.pace import LEAST, MOST, NOTIFY_AFTER_FAILURES, USUAL, next_poll_at

NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)
TODAY = date(2026, 11, 25)


def entry(title: str = "Forty mosses", link: str = "https://example.org/moss", entry_id: str = "", **how) -> Entry:
    return Entry(entry_id, title, link, **how)


def test_an_entry_is_known_again_by_its_id_else_its_address_else_its_title():
    assert entry(entry_id="tag:1").entry_key == entry("Edited", "https://example.org/other", "tag:1 ").entry_key
    assert entry().entry_key == entry("Edited", "HTTPS://Example.org/moss#top").entry_key
    assert entry().entry_key != entry(link="https://example.org/Moss").entry_key
    assert entry(link="").entry_key == entry("Forty  mosses\n", "").entry_key
    assert entry(link="https://example.org").entry_key == entry(link="https://example.org/").entry_key


def test_at_the_first_reading_nothing_old_floods_in():
    feed = [entry(entry_id=str(n), at=NOW - timedelta(days=n)) for n in range(30)]
    assert new_entries(feed, (), first=True) == []
    assert [e.id for e in new_entries(feed, (), first=True, take=3)] == ["2", "1", "0"]
    assert new_entries(feed[:2], (), first=True, take=5) == feed[1::-1]
    new = entry(entry_id="new", at=NOW + timedelta(hours=1))
    assert new_entries([new, *feed], {e.entry_key for e in feed}, first=False) == [new]


def test_the_oldest_comes_first_by_its_time_or_by_its_place():
    feed = [entry(entry_id="a", at=NOW), entry(entry_id="b", at=NOW + timedelta(hours=1)), entry(entry_id="a", at=NOW)]
    assert [e.id for e in new_entries(feed, (), first=False)] == ["a", "b"]
    assert [e.id for e in new_entries([entry(entry_id="top"), entry(entry_id="below", at=NOW)], (), first=False)] == [
        "below",
        "top",
    ]


def test_messages_take_turns_each_up_to_so_many_times():
    three = [Message(1, "a", times=2), Message(2, "b"), Message(3, "c", times=1)]
    used: dict[int, int] = {}
    last, order = None, []
    for _ in range(8):
        one = next_message(three, used, last)
        assert one is not None
        used[one.id], last = used.get(one.id, 0) + 1, one.id
        order.append(one.id)
    assert order == [1, 2, 3, 1, 2, 2, 2, 2]
    assert next_message([Message(1, "a", times=1)], {1: 1}, 1) is None is next_message([], {}, None)
    assert next_message(three, {}, 99) == three[0]


def test_what_an_entry_has_is_filled_in_to_its_measure():
    one = entry(
        summary="A wall of forty mosses, by the old glasshouse.",
        author="Maud",
        tags=("moss", "old walls", "2026", "día"),
        at=datetime(2026, 11, 3, tzinfo=UTC),
    )
    assert fill_from_entry("{title} {link}", one, TODAY) == "Forty mosses https://example.org/moss"
    assert fill_from_entry("{summary 24}", one, TODAY) == "A wall of forty mosses…"
    assert fill_from_entry("{tags 2}", one, TODAY) == "#moss #oldwalls" and fill_from_entry(
        "{tags}", one, TODAY
    ).endswith("#día")
    assert fill_from_entry("{link 4}", one, TODAY) == "https://example.org/moss"
    assert fill_from_entry("{date}, {author}", one, TODAY) == "3 November, Maud"
    assert fill_from_entry("{date}", entry(), TODAY) == "25 November"
    assert fill_from_entry("{other} {title 99999}", one, TODAY) == "{other} {title 99999}"
    assert unknown_placeholders("{title} {other} {other 3} {link}") == ["{other}", "{other 3}"]


def test_what_an_entry_has_not_leaves_no_empty_line_and_nothing_is_filled_twice():
    assert (
        fill_from_entry("{title}\n{summary}\n{tags}\n\n{link}", entry(), TODAY)
        == "Forty mosses\n\nhttps://example.org/moss"
    )
    assert fill_from_entry("{title}", entry("{link} {title}"), TODAY) == "{link} {title}"
    assert fill_from_entry("{title 5}", entry("👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾"), TODAY) == "👩‍🌾👩‍🌾👩‍🌾👩‍🌾…"


def test_a_feed_is_asked_less_often_while_it_fails_and_no_sooner_than_its_site_asks():
    """Waits that double up to a longest one are common practice; RFC 9110, 10.2.3 has what a site may ask (Retry-After)."""

    def wait(minutes: int, failures: int = 0, asked: timedelta | None = None) -> timedelta:
        return next_poll_at(NOW, timedelta(minutes=minutes), failures, asked) - NOW

    minute, day = timedelta(minutes=1), timedelta(days=1)
    assert [wait(at) for at in (1, 15, 16, 60, 9999)] == [15 * minute, 15 * minute, 16 * minute, 60 * minute, day]
    assert [wait(15, n) / minute for n in (0, 1, 2, 3, 6, 7, 99)] == [15, 30, 60, 120, 960, 1440, 1440]
    assert wait(60, 0, 59 * minute) == 60 * minute and wait(60, 0, 61 * minute) == 61 * minute
    assert wait(60, 3, 30 * minute) == 480 * minute and wait(60, 0, 30 * day) == day
    assert (15 * minute, 60 * minute, day, 5) == (LEAST, USUAL, MOST, NOTIFY_AFTER_FAILURES)


def test_an_id_that_names_everywhere_is_the_same_by_any_feed():
    assert origin_key("link:https://example.org/", 3) == "link:https://example.org/"
    assert origin_key("id:urn:uuid:1", 3) == "id:urn:uuid:1" != origin_key("id:1", 3) == "feed:3:id:1"


def test_of_entries_with_and_without_a_time_the_place_decides_and_lines_keep_their_ends():
    # Both in 1970, one at its very first second.
    then = [datetime(1970, 1, 1, tzinfo=UTC), datetime(1970, 1, 1, 0, 0, 1, tzinfo=UTC)]
    feed = [entry(entry_id="a", at=then[0]), entry(entry_id="b", at=then[1])]
    assert [e.id for e in new_entries(feed, (), first=False)] == ["a", "b"]
    assert [e.id for e in new_entries(feed, (), first=True, take=1)] == ["b"]
    assert fill_from_entry("Two spaces  \n{title}  \n\nend", entry(), TODAY) == "Two spaces  \nForty mosses\n\nend"


@given(st.text(max_size=60), st.integers(1, 40))
def test_a_measure_is_never_passed(title, most):
    import regex

    said = fill_from_entry(f"{{title {most}}}", entry(title), TODAY)
    assert len(regex.findall(r"\X", said)) <= most
