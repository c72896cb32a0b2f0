"""Link tags: added without breaking what is there."""

from urllib.parse import parse_qsl, urlsplit

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.text.link_tags import LinkTags, tag_link, tag_links_in, utm_values
from menudo_core.text.placeholders import count_blanks, day_values, fill_placeholders

UTM = {"utm_source": "brisk", "utm_medium": "social"}
word = st.text("abcxyz019-._~%20+é", min_size=1, max_size=8)
query = st.lists(st.tuples(word, word), max_size=4).map(lambda pairs: "&".join(f"{a}={b}" for a, b in pairs))
link = st.builds(
    lambda path, q, frag: f"https://fernhollow.example/{path}{'?' + q if q else ''}{'#' + frag if frag else ''}",
    st.text("abc/;=,.-", max_size=10),
    query,
    st.text("abc?&=/", max_size=8),
)


@pytest.mark.parametrize(
    ("before", "after"),
    [
        # The parts of an address are those of RFC 3986, 3; its example "foo://example.com:8042/over/there?name=ferret#nose".
        (
            "https://example.com:8042/over/there?name=ferret#nose",
            "https://example.com:8042/over/there?name=ferret&{}#nose",
        ),
        ("https://example.com", "https://example.com?{}"),
        ("https://example.com/?", "https://example.com/?{}"),
        ("https://example.com/#/route?x=1", "https://example.com/?{}#/route?x=1"),
        ("https://example.com/?q=a%20b&q=c+d&empty=&flag", "https://example.com/?q=a%20b&q=c+d&empty=&flag&{}"),
        ("https://example.com/%E2%9C%93?x=%E2%9C%93", "https://example.com/%E2%9C%93?x=%E2%9C%93&{}"),
        # RFC 3986, 3.4: a query may hold “?” and “/”.
        ("https://example.com/a?b?c/d", "https://example.com/a?b?c/d&{}"),
    ],
)
def test_what_is_there_keeps_its_order_its_encoding_and_its_fragment(before, after):
    assert tag_link(before, UTM) == after.format("utm_source=brisk&utm_medium=social")


def test_what_stands_there_already_stays_or_gives_way_as_the_preset_says():
    there = "https://example.com/?utm_source=letter&x=1"
    assert tag_link(there, UTM) == f"{there}&utm_medium=social"
    assert tag_link(there, UTM, keeps=False) == "https://example.com/?utm_source=brisk&x=1&utm_medium=social"
    twice = "https://example.com/?utm_source=a&utm_source=b&utm%5Fsource=c"
    assert tag_link(twice, UTM, keeps=False) == "https://example.com/?utm_source=brisk&utm_medium=social"


@given(link, st.booleans())
def test_tagging_twice_changes_nothing_and_no_other_part_of_the_address(address, keeps):
    once = tag_link(address, UTM, keeps)
    assert tag_link(once, UTM, keeps) == once
    old, new = urlsplit(address), urlsplit(once)
    assert (old.scheme, old.netloc, old.path, old.fragment) == (new.scheme, new.netloc, new.path, new.fragment)
    added = parse_qsl(new.query, keep_blank_values=True)
    assert {name for name, _ in added} >= set(UTM)
    assert sum(name == "utm_source" for name, _ in added) == 1
    assert once.startswith(address.split("#")[0]) or not keeps


def test_values_come_from_the_preset_with_placeholders_and_the_empty_ones_are_left_out():
    preset = LinkTags("{network}", "social", "{campaign}", "{profile} & co", "{date}")
    known = {"network": "Brisk", "campaign": "", "profile": "@fernhollow", "date": "2026-11-24"}
    said = utm_values(preset, known)
    assert said == {
        "utm_source": "Brisk",
        "utm_medium": "social",
        "utm_content": "@fernhollow & co",
        "utm_term": "2026-11-24",
    }
    query = urlsplit(tag_link("https://example.com/", said)).query
    assert dict(parse_qsl(query)) == said and " " not in query and "@" not in query


def test_every_link_in_a_text_is_tagged_and_its_sentence_stays():
    text = "See (https://example.com/a), or https://example.com/b?x=1."
    assert tag_links_in(text, {"utm_source": "s"}) == (
        "See (https://example.com/a?utm_source=s), or https://example.com/b?x=1&utm_source=s."
    )
    same = "https://example.com/a https://example.com/a"
    assert tag_links_in(same, {"u": "1"}) == "https://example.com/a?u=1 https://example.com/a?u=1"


def test_placeholders_are_filled_once_and_other_braces_stay():
    assert (
        fill_placeholders("{brand} on {day}: {unknown} {brand", {"brand": "{day}", "day": "Monday"})
        == "{day} on Monday: {unknown} {brand"
    )
    from datetime import date

    # ISO 8601 week day of 26 November 2026 is 4: a Thursday.
    assert day_values(date(2026, 11, 26)) == {
        "date": "26 November",
        "day": "Thursday",
        "month": "November",
        "year": "2026",
    }


@pytest.mark.parametrize(
    ("text", "count"), [("", 0), ("a_b __init__", 0), ("___", 1), ("by ___ for ____.", 2), ("___ ___ ___", 3)]
)
def test_blanks_are_three_low_lines_or_more(text, count):
    assert count_blanks(text) == count
