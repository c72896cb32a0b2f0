"""Counting, links, hashtags, folding and what can't be kept."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.text.clusters import Unit, clusters, measure
from menudo_core.text.folding import fold_text
from menudo_core.text.hashtags import append_hashtags, extract_hashtags, hashtags, remove_hashtags
from menudo_core.text.links import links, weighted_length
from menudo_core.text.storable import unstorable_reason

# Unicode's own test file, from Debian's package unicode-data (UAX #29): 15.0 in Debian 12, 15.1 in Debian 13.
BREAK_TEST = Path("/usr/share/unicode/auxiliary/GraphemeBreakTest.txt")
# The `regex` package follows a newer Unicode than 15.0, in which U+2701 is no pictograph: it parts U+2701 ZWJ U+2701.
NEWER_UNICODE = {("✁\u200d", "✁")}
# It joins a virama to a consonant behind it also where no consonant stands before it, against rule GB9c of 15.1.
LOOSE_VIRAMA = {("\u094d\u0915",), ("a\u094d\u0924",), ("\u094d\u0308\u0915",), ("?\u094d\u0924",)}
KNOWN = {"15.0.0": (602, NEWER_UNICODE), "15.1.0": (1187, NEWER_UNICODE | LOOSE_VIRAMA)}


def _cases() -> list[tuple[str, ...]]:
    cases = []
    for line in BREAK_TEST.read_text("utf-8").splitlines():
        rule = line.split("#")[0].strip()
        if rule:
            parts = [p.replace("×", " ").split() for p in rule.strip("÷ ").split("÷")]
            cases.append(tuple("".join(chr(int(code, 16)) for code in part) for part in parts))
    return cases


def test_clusters_agree_with_unicodes_own_cases():
    cases = _cases()
    version = BREAK_TEST.read_text("utf-8").splitlines()[0].removeprefix("# GraphemeBreakTest-").removesuffix(".txt")
    count, known = KNOWN[version]
    assert len(cases) == count
    wrong = {tuple(clusters("".join(case))) for case in cases if tuple(clusters("".join(case))) != case}
    assert wrong == known


@pytest.mark.parametrize(
    ("text", "unit", "length"),
    [
        ("moss", Unit.CLUSTERS, 4),
        ("e\u0301", Unit.CLUSTERS, 1),
        ("👩‍🌾", Unit.CLUSTERS, 1),
        ("👩‍🌾", Unit.CODE_POINTS, 3),
        ("👩‍🌾", Unit.UTF16, 5),
        ("👩‍🌾", Unit.BYTES, 11),
        ("नमस्ते", Unit.CODE_POINTS, 6),
        ("\r\n", Unit.CLUSTERS, 1),
        ("水曜日", Unit.BYTES, 9),
    ],
)
def test_one_text_in_four_units(text, unit, length):
    assert measure(text, unit) == length


@given(st.text())
def test_a_length_in_clusters_is_the_shortest_and_in_bytes_the_longest(text):
    assert measure(text, Unit.CLUSTERS) <= measure(text, Unit.CODE_POINTS) <= measure(text, Unit.UTF16)
    assert measure(text, Unit.CODE_POINTS) <= measure(text, Unit.BYTES)


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("See https://example.org/a.", ["https://example.org/a"]),
        ("(https://example.org/a)", ["https://example.org/a"]),
        ("https://example.org/a_(b)", ["https://example.org/a_(b)"]),
        ("https://example.org/?a=1&b=2#c, and more", ["https://example.org/?a=1&b=2#c"]),
        ("no link: example.org", []),
    ],
)
def test_links_end_where_the_sentence_goes_on(text, found):
    # Common practice, no published source.
    assert links(text) == found


def test_a_link_counts_by_its_length_or_by_the_sheets_weight():
    text = "Moss: https://example.org/moss"
    assert weighted_length(text, Unit.CLUSTERS, None) == 30
    assert weighted_length(text, Unit.CLUSTERS, 10) == 16


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("#moss and #水曜日", ["moss", "水曜日"]),
        ("#wall_9 #9 #🌿day", ["wall_9", "🌿day"]),
        ("a#b https://example.org/#c &#39;", []),
        ("＃全角", ["全角"]),
    ],
)
def test_hashtags(text, found):
    # UAX #31, UAX31-D2/R8; that digits alone are no tag is common practice, no published source.
    assert hashtags(text) == found


def test_a_text_folds_after_lines_or_clusters_and_never_inside_one():
    assert fold_text("a\nb\nc", None, 2).visible == "a\nb"
    assert fold_text("👩‍🌾👩‍🌾👩‍🌾", 2, None).visible == "👩‍🌾👩‍🌾"
    assert fold_text("short", 100, 5).hidden == ""


def test_links_one_behind_another_are_all_found_however_many_there_are():
    """Each letter is looked at once: this took a minute when each link was first read to the end of all of them."""
    assert links("http://a/)" * 10_000) == ["http://a/"] * 10_000
    assert links("http://a/(" * 10_000) == ["http://a/(" * 10_000]
    assert links("http://a/(b)]c " * 5000) == ["http://a/(b)"] * 5000
    assert links("http://" + ")" * 99_900) == []


@given(st.text(), st.integers(1, 20), st.integers(1, 5))
def test_folding_loses_nothing(text, after_clusters, after_lines):
    folded = fold_text(text, after_clusters, after_lines)
    assert folded.visible + folded.hidden == text
    assert measure(folded.visible, Unit.CLUSTERS) <= after_clusters


@pytest.mark.parametrize("text", ["a\0b", "a\ud800b", "\udfff", "a\x07", "\x85"])
def test_text_that_cant_be_kept_is_told_where(text):
    assert "Character" in (unstorable_reason(text) or "")


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("ab\0\x07", "Character 3 is NUL"),
        ("\ud800", "Character 1 is half of a character"),
        ("a\udfff", "Character 2 is half of a character"),
        ("\x1f", "Character 1 is an invisible control character (U+001F)"),
        ("é\x9f", "Character 2 is an invisible control character (U+009F)"),
    ],
)
def test_what_cant_be_kept_is_named_by_its_place_and_kind(text, told):
    assert (unstorable_reason(text) or "").startswith(told)


@pytest.mark.parametrize("text", ["", "tab\t and\nlines\r\n", "emoji 👩‍🌾 عربى"])
def test_all_other_text_can(text):
    assert unstorable_reason(text) is None


@pytest.mark.parametrize(
    ("text", "found"),
    [
        # WHATWG URL: schemes in any case, ports, user parts, IPv6, international names, percent signs.
        ("HTTPS://EXAMPLE.org/A", ["HTTPS://EXAMPLE.org/A"]),
        ("http://example.org:8080/a;b=c?d#e", ["http://example.org:8080/a;b=c?d#e"]),
        ("http://[2001:db8::1]/x", ["http://[2001:db8::1]/x"]),
        ("https://bücher.example/ä?ö=ü", ["https://bücher.example/ä?ö=ü"]),
        ("https://example.org/%E2%9C%93.", ["https://example.org/%E2%9C%93"]),
        ("(https://example.org/a_(b))", ["https://example.org/a_(b)"]),
        ("<https://example.org/>", ["https://example.org/"]),
        ("https://a.example,https://b.example", ["https://a.example", "https://b.example"]),
        ("mailto:a@example.org ftp://example.org //example.org", []),
        ("https:// and http:", []),
    ],
)
def test_links_as_they_stand_in_a_sentence(text, found):
    assert links(text) == found


def test_a_tag_goes_in_at_most_once_whatever_its_case():
    assert append_hashtags("Moss #Moss", ["moss", "#wall", "wall", ""]) == "Moss #Moss #wall"
    assert append_hashtags("", ["moss"]) == "#moss" and append_hashtags("Line\n", ["moss"]) == "Line\n#moss"
    assert append_hashtags("Moss #moss", ["moss"]) == "Moss #moss"


def test_tags_at_the_end_go_and_tags_in_a_sentence_lose_their_sign():
    assert extract_hashtags("Our #moss wall. #green #wall") == ("Our moss wall.", ["#moss", "#green", "#wall"])
    assert remove_hashtags("a #b c #d #e", 1) == ("a #b c", 1)
