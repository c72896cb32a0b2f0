"""Profiles in the core: conditions, sets, pauses, holds, endings, and rule sheets of one's own."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.networks.check import applicable_fields, check_content, field_applies
from menudo_core.networks.check_story import check_story
from menudo_core.networks.conditions import unmet_conditions
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Level
from menudo_core.networks.load import InvalidSheetError, parse_sheet, permissive_sheet, shipped_sheets
from menudo_core.networks.proof import build_proof
from menudo_core.profiles.default import default_profile
from menudo_core.profiles.expiry import days_left, due_warning
from menudo_core.profiles.sets import set_members
from menudo_core.signoff.holds import RECOVERABLE_HOLDS, Hold, hold_reason
from menudo_core.signoff.states import DeliveryState, Event, accepts, next_state
from menudo_core.timing.pauses import Pause, pause_at
from menudo_core.timing.spacing import space_out

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)
HOUR, DAY = timedelta(hours=1), timedelta(days=1)


# Each kind's conditions as docs/rule-sheets.md and trade-facts.md have them; common practice, no published source.
@pytest.mark.parametrize(
    ("network", "kind", "met", "not_met", "which"),
    [
        ("plaza", "page", {"role": "administrator"}, {"role": "editor"}, ["administrator"]),
        ("plaza", "group", {"app": "on"}, {"app": "off"}, ["app"]),
        ("vitrine", "business", {"tied_page": "administered"}, {"tied_page": "not administered"}, ["tied_page"]),
        ("guildhall", "company", {"role": "super-administrator"}, {"role": "administrator"}, ["super_administrator"]),
        ("cinta", "channel", {"role": "manager"}, {"role": "editor"}, ["manager"]),
        (
            "waypost",
            "location",
            {"verified": "yes", "role": "owner"},
            {"verified": "no", "role": "editor"},
            ["verified", "manager"],
        ),
        ("brisk", "account", {"role": "keeper"}, {"role": "editor"}, ["keeper"]),
    ],
)
def test_the_conditions_of_each_kind_are_met_or_named_with_what_to_do(network, kind, met, not_met, which):
    rule = shipped_sheets()[network].profile_kind(kind)
    assert rule is not None and rule.direct
    assert unmet_conditions(rule, met) == []
    missing = unmet_conditions(rule, not_met)
    assert [c.id for c in missing] == which
    assert all(c.remedy for c in missing)


def test_a_fact_the_network_does_not_tell_is_not_held_against_the_profile():
    for sheet in shipped_sheets().values():
        assert all(unmet_conditions(kind, {}) == [] for kind in sheet.kinds)


def test_personal_profiles_of_page_and_photo_networks_are_by_hand():
    # Common practice, no published source (trade-facts.md).
    by_hand = {(s.network, k.kind) for s in shipped_sheets().values() for k in s.kinds if not k.direct}
    assert by_hand == {("plaza", "personal"), ("vitrine", "personal")}


def test_a_place_without_a_rule_sheet_takes_everything_but_nothing():
    picture = MediaFacts(1, MediaKind.PICTURE, "webp", 10, 9000, 900_000_000, alt="x")
    assert check_content(Content("x" * 90_000, (1,)), [picture], permissive_sheet()) == []
    assert [f.rule for f in check_content(Content(), [], permissive_sheet())] == ["empty"]


# Sets: every profile once, in the brand's order, whatever the sets say.
@given(st.lists(st.sets(st.integers(1, 12)), max_size=5), st.lists(st.integers(1, 12), unique=True))
def test_members_of_sets_are_each_once_in_the_brands_order(sets, profiles):
    found = set_members(sets, profiles)
    assert found == [p for p in profiles if any(p in one for one in sets)]


def test_a_set_names_only_profiles_that_are_there_and_no_set_names_nobody():
    assert set_members([{1, 99}, {3}], [3, 2, 1]) == [3, 1]
    assert set_members([], [1, 2]) == []


def test_a_pause_covers_from_its_beginning_to_just_before_its_end():
    pause = Pause(NOON, NOON + HOUR)
    assert [pause.covers(NOON + m * timedelta(minutes=30)) for m in (-1, 0, 1, 2)] == [False, True, True, False]
    assert Pause(NOON).covers(NOON + 900 * DAY)


def test_of_several_pauses_the_longest_is_told():
    short, long, open_end, over = (
        Pause(NOON, NOON + HOUR),
        Pause(NOON, NOON + DAY),
        Pause(NOON),
        Pause(NOON - DAY, NOON),
    )
    assert pause_at([short, long, over], NOON) == long
    assert pause_at([short, open_end, long], NOON) == open_end
    assert pause_at([over], NOON) is None


@pytest.mark.parametrize("signed", [True, False])
@pytest.mark.parametrize("usable", [True, False])
@pytest.mark.parametrize("paused", [True, False])
def test_what_nobody_signed_is_held_for_that_first_and_never_caught_up_with(signed, usable, paused):
    why = hold_reason(signed, usable, paused)
    assert (why is None) == (signed and usable and not paused)
    if not signed:
        assert why is Hold.SIGNOFF and why not in RECOVERABLE_HOLDS
    elif why is not None:
        assert why in RECOVERABLE_HOLDS


def test_by_hand_leads_from_being_due_to_published_called_off_or_later():
    waiting = next_state(DeliveryState.SENDING, Event.HAND_OVER)
    assert waiting is DeliveryState.HAND
    ways = {e: next_state(waiting, e) for e in Event if accepts(waiting, e)}
    assert ways == {
        Event.DONE: DeliveryState.PUBLISHED,
        Event.MOVE: DeliveryState.PLANNED,
        Event.UNPLAN: DeliveryState.UNPLANNED,
        Event.CALL_OFF: DeliveryState.OFF,
        Event.HOLD: DeliveryState.HELD,
    }


@pytest.mark.parametrize(
    ("left", "warned", "due"),
    [
        (15 * DAY, None, None),
        (14 * DAY, None, 14),
        (10 * DAY, 14, None),
        (3 * DAY, 14, 3),
        (2 * DAY, 3, None),
        (23 * HOUR, 3, 1),
        (HOUR, 1, None),
        (2 * DAY, None, 3),
        (-HOUR, 14, None),
    ],
)
def test_an_ending_is_warned_of_14_3_and_1_days_before_once_each(left, warned, due):
    assert due_warning(NOON + left, NOON, warned) == due


def test_days_left_are_rounded_up_and_none_when_over():
    assert [days_left(NOON + d, NOON) for d in (HOUR, DAY, DAY + HOUR, -HOUR)] == [1, 1, 2, 0]


def test_what_waited_goes_out_one_after_another_each_profile_by_itself():
    minute = timedelta(minutes=1)
    times = space_out([1, 2, 1, 1], {1: minute, 2: HOUR}, NOON)
    assert times == [NOON, NOON, NOON + minute, NOON + 2 * minute]


def test_a_story_is_upright_short_and_of_ten_frames():
    # Common practice, no published source: 9:16, up to 15 s, up to 10 frames; a link on the photo network needs 10,000.
    frame = MediaFacts(1, MediaKind.PICTURE, "jpeg", 1080, 1920, 1000, alt="x")
    long = MediaFacts(2, MediaKind.VIDEO, "mp4", 1080, 1920, 1000, 15.5)
    square = MediaFacts(3, MediaKind.PICTURE, "jpeg", 1080, 1080, 1000)
    vitrine, plaza = shipped_sheets()["vitrine"], shipped_sheets()["plaza"]
    assert check_story([frame] * 10, True, 10_000, vitrine) == []
    assert [f.rule for f in check_story([frame] * 11, False, None, vitrine)] == ["media_count"]
    assert [f.rule for f in check_story([long, square], False, None, plaza)] == ["too_long", "shape"]
    assert [f.rule for f in check_story([frame], True, 9_999, vitrine)] == ["followers"]
    assert check_story([frame], True, 12, plaza) == []
    assert check_story([], False, None, plaza)[0].level is Level.STOPS
    assert check_story([frame], False, None, shipped_sheets()["brisk"])[0].rule == "forbidden"


def test_a_listing_asks_for_what_its_kind_needs():
    waypost = shipped_sheets()["waypost"]
    asks = {
        kind: {f.field for f in check_content(Content("Hello", fields={"listing_kind": kind}), [], waypost)}
        for kind in ("update", "event", "offer")
    }
    times = {"fields/title", "fields/start", "fields/end"}
    assert asks == {"update": set(), "event": times, "offer": times}


def test_what_is_not_asked_for_just_now_is_not_sent_and_the_proof_shows_the_link():
    waypost = shipped_sheets()["waypost"]
    content = Content(
        "Hi", link=" https://example.org ", fields={"listing_kind": "event", "title": "Walk", "code": "X", "terms": " "}
    )
    assert [rule.name for rule in applicable_fields(waypost, content)] == ["listing_kind", "title"]
    assert [rule.name for rule in waypost.fields if field_applies(rule, content)] == [
        "listing_kind",
        "button",
        "title",
        "start",
        "end",
    ]
    assert build_proof(content, [], waypost).link == "https://example.org"


SHEET = """format = 1
network = "corkboard"
name = "Town cork board"
tile = { letters = "Co", shape = "square" }

[text]
unit = "clusters"
limit = 120

[[kinds]]
kind = "board"
name = "board"
direct = false
"""


def test_a_sheet_of_a_network_nobody_here_thought_of_is_read():
    assert parse_sheet(SHEET).text.limit == 120


@pytest.mark.parametrize(
    ("change", "lines"),
    [
        (("limit = 120", "limt = 120"), [6, 8]),
        (('unit = "clusters"', 'unit = "letters"'), [7]),
        (("limit = 120", 'limit = "120"'), [8]),
        (("direct = false", "direct = maybe"), [13]),
        (('kind = "board"', 'kind = "Board!"'), [11]),
        (('shape = "square"', 'shape = "blob"'), [4]),
        (("format = 1", "format = 2"), [1]),
        (('name = "board"\n', ""), [10]),
        (("limit = 120", "limit = 120\n\n[[kinds]]\nkind = 'x'\nname = 'x'\ndirect = false\nsilent = true"), [14]),
    ],
)
def test_faults_of_a_sheet_name_their_lines(change, lines):
    with pytest.raises(InvalidSheetError) as bad:
        parse_sheet(SHEET.replace(*change))
    assert [e.line for e in bad.value.errors] == lines
    assert all(e.message for e in bad.value.errors)


@given(st.text(max_size=300))
def test_any_text_is_a_sheet_or_a_bad_one_with_lines_that_are_there(text):
    try:
        parse_sheet(text)
    except InvalidSheetError as bad:
        lines = max(text.count("\n") + 1, 1)
        assert all(1 <= e.line <= lines + 1 for e in bad.errors)


def test_a_new_post_goes_to_the_first_that_can_be_planned_for() -> None:
    assert default_profile([(3, False), (5, True), (1, True)]) == 5
    assert default_profile([(3, False)]) is None and default_profile([]) is None
