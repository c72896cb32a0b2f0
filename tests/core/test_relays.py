"""Relays: conditions, guards, what the board shows. Language ranges by RFC 4647, 3.3.1 (its examples from memory); caseless
matching by the Unicode standard, 3.13. All graphs and items are invented."""

from collections import deque
from dataclasses import replace
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.networks.load import shipped_sheets
from menudo_core.relays import defaults
from menudo_core.relays.board import find_cycles, find_duplicates
from menudo_core.relays.conditions import Conditions, ContentFeature, UnmetCondition, first_unmet
from menudo_core.relays.guard import RelayState, Verdict, evaluate_relay, must_wait
from menudo_core.relays.item import Item
from menudo_core.text.search_key import fold_case_and_accents
from menudo_core.timing.hours import Hours

NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)
MADRID = ZoneInfo("Europe/Madrid")


def item(text: str = "", **how) -> Item:
    return Item(**{"source": "p1", "origin": "a", "at": NOW, "text": text, **how})


@pytest.mark.parametrize(
    ("asked", "what", "why"),
    [
        (Conditions(), item(), None),
        (Conditions(has=frozenset({ContentFeature.PICTURE})), item(pictures=1), None),
        (
            Conditions(has=frozenset({ContentFeature.PICTURE, ContentFeature.LINK})),
            item(pictures=1),
            UnmetCondition.HAS,
        ),
        (Conditions(has=frozenset({ContentFeature.MEDIA})), item(videos=1), None),
        (Conditions(required_words=("Musgo",)), item("El MÚSGO verde"), None),
        (Conditions(required_words=("moss",)), item("mossy walls"), UnmetCondition.WORD),
        (Conditions(required_words=("moss", "fern")), item("A fern."), None),
        (Conditions(required_words=("straße",)), item("In der STRASSE"), None),
        (Conditions(required_words=("हिन्दी",)), item("यह हिन्दी है"), None),
        (Conditions(required_words=("हिन्द",)), item("यह हिन्दी है"), UnmetCondition.WORD),
        (Conditions(required_words=("  ",)), item("anything"), UnmetCondition.WORD),
        (Conditions(excluded_words=("sold",)), item("Sold!"), UnmetCondition.WORD),
        (Conditions(tags=("#Día",)), item("Hoy #dia"), None),
        (Conditions(tags=("moss",)), item("moss without a sign"), UnmetCondition.TAG),
        (Conditions(kinds=frozenset({"offer"})), item(), UnmetCondition.KIND),
        (Conditions(languages=frozenset({"de-de"})), item(language="de-DE-1996"), None),
        (Conditions(languages=frozenset({"de-de"})), item(language="de-Deva"), UnmetCondition.LANGUAGE),
        (Conditions(languages=frozenset({"de-de"})), item(language="de-Latn-DE"), UnmetCondition.LANGUAGE),
        (Conditions(languages=frozenset({"de"})), item(), UnmetCondition.LANGUAGE),
        (Conditions(hours=Hours(time(13), time(14))), item(), None),
        (Conditions(hours=Hours(time(12), time(13))), item(), UnmetCondition.HOUR),
        (Conditions(hours=Hours(time(22), time(14))), item(), None),
        (Conditions(hours=Hours(time(22), time(6))), item(), UnmetCondition.HOUR),
    ],
)
def test_conditions(asked, what, why):
    assert first_unmet(asked, what, MADRID) is why


def test_plain_is_without_case_and_accents_but_keeps_the_vowels_of_other_scripts():
    assert (
        fold_case_and_accents("ÁÉÍ Ñandú") == "aei nandu"
        and fold_case_and_accents("ΆΣ") == fold_case_and_accents("ας")
        and fold_case_and_accents("ﬁn") == "fin"
    )
    assert (
        fold_case_and_accents("हिन्दी") == "हिन्दी"
        and fold_case_and_accents("가") == "가"
        and fold_case_and_accents("が") == "が"
    )


def test_why_something_does_not_fire():
    relay = RelayState("p1", 2, since=NOW, hourly_limit=2)
    assert evaluate_relay(relay, item(), set(), 1) is Verdict.FIRES
    assert evaluate_relay(relay, item(at=NOW - timedelta(seconds=1)), set(), 0) is Verdict.OLD
    assert evaluate_relay(relay, item(trail=frozenset({1, 2})), set(), 0) is Verdict.BEEN_THERE
    assert evaluate_relay(relay, item(), {"a"}, 0) is Verdict.TWICE
    assert evaluate_relay(relay, item(), set(), 2) is Verdict.TOO_MANY
    assert evaluate_relay(RelayState("p1", 2, NOW, paused=True), item(), set(), 0) is Verdict.PAUSED
    plain = RelayState("p1", 2, since=NOW)
    assert [evaluate_relay(plain, item(), set(), n) for n in (9, 10)] == [Verdict.FIRES, Verdict.TOO_MANY]


def test_the_board_shows_rings_and_doubles():
    assert find_cycles([("p1", 2), ("p2", 3), ("p3", 1), ("p4", 4), ("f1", 5), ("p5", 1)]) == [[1, 2, 3], [4]]
    assert find_cycles([("p1", 2), ("f1", 1)]) == []
    found = find_duplicates([("f1", 1), ("f1", 2), ("p1", 2), ("p2", 3)])
    assert found == {("f1", 2): ["f1", "p1"]}
    assert find_duplicates([("p1", 2), ("p2", 1)]) == {}
    # By way of the profile itself nothing comes to it twice.
    assert find_duplicates([("f1", 2), ("p2", 3), ("p3", 2)]) == {}
    assert find_duplicates([("f1", 2), ("f1", 3), ("p2", 3), ("p3", 2)]) == {
        ("f1", 2): ["f1", "p3"],
        ("f1", 3): ["f1", "p2"],
    }


cells = st.sets(
    st.tuples(st.sampled_from(["f1", "c1", *(f"p{n}" for n in range(1, 7))]), st.integers(1, 6)), max_size=25
)


@given(cells, st.lists(st.sampled_from(["f1", "c1", "p1", "p2"]), min_size=1, max_size=6))
def test_no_graph_of_relays_brings_a_thing_twice_to_a_profile(graph, sources):
    """With rings and doubles, whatever order: each thing comes to a profile once at most, and it comes to an end."""
    relays = [RelayState(source, target, NOW, hourly_limit=1000) for source, target in sorted(graph)]
    had: dict[int, list[str]] = {n: [] for n in range(1, 7)}
    coming = deque(
        Item(source, f"{source}:{n}", NOW, trail=frozenset({int(source[1:])}) if source[0] == "p" else frozenset())
        for n, source in enumerate(sources)
    )
    for first in coming:
        for profile in first.trail:
            had[profile].append(first.origin)
    seen = 0
    while coming:
        one = coming.popleft()
        seen += 1
        assert seen < 200
        for relay in relays:
            if relay.source == one.source and evaluate_relay(relay, one, set(had[relay.target]), 0) is Verdict.FIRES:
                had[relay.target].append(one.origin)
                coming.append(one.carried_to(relay.target, one.at))
    assert all(len(origins) == len(set(origins)) for origins in had.values())
    # Where each thing comes is where it can be reached at all, rings or not.
    for n, source in enumerate(sources):
        reached, todo = set(), [source]
        while todo:
            at = todo.pop()
            for start, target in graph:
                if start == at and target not in reached:
                    reached.add(target)
                    todo.append(f"p{target}")
        own = {int(source[1:])} if source[0] == "p" else set()
        assert {p for p, origins in had.items() if f"{source}:{n}" in origins} == reached | own


@given(cells)
def test_rings_are_the_profiles_that_reach_themselves(graph):
    step = {(int(s[1:]), t) for s, t in graph if s[0] == "p"}
    reach = set(step)
    while more := {(a, d) for a, b in reach for c, d in step if b == c} - reach:
        reach |= more
    back = {a for a, b in reach if a == b}
    found = find_cycles(graph)
    assert {p for ring in found for p in ring} == back
    for ring in found:
        assert all((a, b) in reach for a in ring for b in ring)


@pytest.mark.parametrize(
    ("at", "hours", "today", "per_day", "has_to"),
    [
        (time(12), None, 99, None, False),
        (time(12), Hours(time(9), time(18)), 0, None, False),
        (time(8, 59), Hours(time(9), time(18)), 0, None, True),
        (time(18), Hours(time(9), time(18)), 0, None, True),
        (time(1), Hours(time(22), time(6)), 0, None, False),
        (time(22), Hours(time(22), time(6)), 0, None, False),
        (time(6), Hours(time(22), time(6)), 0, None, True),
        (time(12), None, 2, 3, False),
        (time(12), None, 3, 3, True),
    ],
)
def test_what_is_taken_waits_for_its_hour_and_its_day(at, hours, today, per_day, has_to):
    assert must_wait(at, hours, today, per_day) is has_to


def test_starting_points_know_what_a_network_is_good_for():
    # The networks and their sheets are invented; what they are good for is said in them.
    sheets = shipped_sheets()
    good = lambda rule: {name for name, sheet in sheets.items() if rule(sheet)}  # noqa: E731
    assert good(defaults.lives_on_pictures) == {"vitrine"} and good(defaults.is_board) == {"tackboard"}
    assert good(defaults.is_short) == {"brisk"}
    sized = {n: replace(sheets["brisk"], text=replace(sheets["brisk"].text, limit=n)) for n in (499, 500, 501)}
    assert [n for n, sheet in sized.items() if defaults.is_short(sheet)] == [499, 500]
    assert good(defaults.text_suffices) == {"brisk", "plaza", "guildhall", "waypost", "foolscap", "open-site"}
    assert defaults.default_fields(sheets["tackboard"]) == {"title": "{title 90}", "board": "Notes"}
    assert defaults.default_link(sheets["tackboard"]) == "{address}" and defaults.default_link(sheets["brisk"]) == ""
