"""Sign-off: who is asked, what counts as agreed, what a change undoes; and when people are told."""

from dataclasses import replace
from datetime import UTC, datetime, time, timedelta
from itertools import product
from pathlib import Path
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.media.presentation import MediaPresentation
from menudo_core.networks.content import Content
from menudo_core.networks.load import shipped_sheets
from menudo_core.notices.timing import KINDS, QuietHours, digest_due, send_at
from menudo_core.signoff.agreement import Answer, Revision, SignoffState, Verdict, signoff_status
from menudo_core.signoff.fingerprint import fingerprint, post_kind, post_kinds
from menudo_core.signoff.rules import ANYONE, Rule, SigningMode, SignoffSubject, answer_deadline, rules_for
from menudo_core.signoff.states import (
    POST_TRANSITIONS,
    TRANSITIONS,
    DeliveryState,
    Event,
    PostEvent,
    PostState,
    TransitionError,
    next_state,
    post_accepts,
    post_state,
)

NOON = datetime(2026, 11, 25, 12, tzinfo=UTC)
NOW = Revision("wording", NOON + timedelta(days=2), 7, NOON - timedelta(hours=1))


def answer(signer: str, verdict: str = "agreed", says: str = "wording", minutes: int = 0, **more) -> Answer:
    return Answer(
        signer,
        Verdict(verdict),
        says,
        more.get("due", NOW.due),
        NOON + timedelta(minutes=minutes),
        more.get("profile", 7),
    )


def stands(rules, *answers: Answer, now: Revision = NOW, moving_asks: bool = False):
    return signoff_status(rules, answers, now, moving_asks)


def test_anyone_who_may_is_asked_where_a_brand_has_no_rules():
    assert rules_for((), True, SignoffSubject(7, "post")) == (ANYONE,)
    assert (
        rules_for((), False, SignoffSubject(7, "post"))
        == ()
        == rules_for((Rule(signers=("u1",)),), False, SignoffSubject(7, "post"))
    )
    assert stands([ANYONE]).asked == {None}
    assert stands([ANYONE], answer("u9")).state is SignoffState.AGREED
    assert stands([]).state is SignoffState.NONE


@pytest.mark.parametrize(
    ("rule", "asked"),
    [
        (Rule(), True),
        (Rule(profiles=frozenset({7})), True),
        (Rule(profiles=frozenset({8})), False),
        (Rule(labels=frozenset({3, 5})), True),
        (Rule(labels=frozenset({5})), False),
        (Rule(kinds=frozenset({"offer"})), True),
        (Rule(kinds=frozenset({"story"})), False),
        (Rule(authors=frozenset({2})), True),
        (Rule(authors=frozenset({1})), False),
        (Rule(profiles=frozenset({7}), authors=frozenset({1})), False),
    ],
)
def test_a_rule_asks_for_what_it_names(rule, asked):
    assert bool(rules_for((rule,), True, SignoffSubject(7, "offer", 2, {3}))) is asked


def test_any_of_all_of_and_in_order():
    some = (
        [Rule(("u1", "u2"), SigningMode.ANY)],
        [Rule(("u1", "u2"), SigningMode.ALL)],
        [Rule(("u1", "u2"), SigningMode.IN_ORDER)],
    )
    assert [stands(rules).asked for rules in some] == [{"u1", "u2"}, {"u1", "u2"}, {"u1"}]
    assert [stands(rules, answer("u1")).asked for rules in some] == [set(), {"u2"}, {"u2"}]
    assert [stands(rules, answer("u1"), answer("u2")).state for rules in some] == [SignoffState.AGREED] * 3
    assert stands([Rule(("u1",)), Rule(("u2",))], answer("u1")).asked == {"u2"}
    assert stands([Rule(("u1",))], answer("u9")).asked == {"u1"}


def test_only_an_answer_to_what_would_go_out_counts():
    rules = [Rule(("u1",))]
    other = stands(rules, answer("u1", says="before"))
    assert (other.state, other.asked, other.changed) == (SignoffState.WAITS, {"u1"}, True)
    assert stands(rules, answer("u1", profile=8)).state is SignoffState.WAITS
    moved = answer("u1", due=NOON)
    assert [stands(rules, moved, moving_asks=asks).state for asks in (False, True)] == [
        SignoffState.AGREED,
        SignoffState.WAITS,
    ]


def test_what_is_not_up_asks_nobody_and_may_not_go_whatever_was_agreed_to():
    found = stands([Rule(("u1",))], answer("u1"), now=replace(NOW, up=None))
    assert (found.state, found.asked) == (SignoffState.WAITS, frozenset())
    assert stands([], now=replace(NOW, up=None)).state is SignoffState.NONE


def test_a_change_asked_for_holds_until_the_post_is_put_up_again():
    rules = [Rule(("u1", "u2"), SigningMode.ALL)]
    back = [answer("u2"), answer("u1", "change", minutes=1)]
    assert stands(rules, *back).state is SignoffState.BACK
    again = stands(rules, *back, now=replace(NOW, up=NOON + timedelta(minutes=2)))
    assert (again.state, again.asked) == (SignoffState.WAITS, {"u1"})
    assert stands(rules, *back, answer("u1", minutes=3)).state is SignoffState.AGREED
    assert stands(rules, answer("u1"), answer("u1", "change", minutes=5)).state is SignoffState.BACK


def test_the_answer_is_wanted_by_the_earliest_of_the_rules():
    day = timedelta(days=1)
    assert answer_deadline([Rule(), Rule(before=day)], NOON) == NOON - day
    assert answer_deadline([Rule()], NOON) == NOON and answer_deadline([Rule()], None) is None is answer_deadline(
        [], NOON
    )


def test_a_fingerprint_changes_with_everything_that_is_seen_and_with_nothing_else():
    one = Content("Moss", (1, 2), "https://a.example", "#moss", {"title": "T"}, "post", {1: MediaPresentation(turn=1)})
    others = [
        replace(one, text="Moss "),
        replace(one, media=(2, 1)),
        replace(one, link=""),
        replace(one, first_comment=""),
        replace(one, fields={"title": "U"}),
        replace(one, form="story"),
        replace(one, shown={}),
        replace(one, link_tags=3),
    ]
    assert len({fingerprint(c) for c in [one, *others]}) == 9
    assert fingerprint(one) == fingerprint(
        replace(one, fields={"title": "T", "board": ""}, shown={1: MediaPresentation(turn=1), 2: MediaPresentation()})
    )
    # As it was in 0.1.0: of any other nothing would be known again that was agreed to before.
    kept = replace(one, text="Niño, moss", fields={"title": "T", "board": "B"})
    assert fingerprint(kept) == "46b337e35e15a3fa23d5a562b9190cf3"
    assert [post_kind(replace(one, fields={"listing_kind": k})) for k in ("Offer", "")] == ["offer", "post"]
    assert post_kinds(shipped_sheets().values()) == ["post", "story", "update", "event", "offer"]


SIGNERS = st.sampled_from(["u1", "u2", "l1"])
RULES = st.lists(
    st.builds(Rule, st.lists(SIGNERS, min_size=1, unique=True).map(tuple), st.sampled_from(list(SigningMode))),
    min_size=1,
    max_size=3,
)
ANSWERS = st.lists(
    st.builds(
        answer,
        SIGNERS,
        st.sampled_from(["agreed", "change"]),
        st.sampled_from(["wording", "before"]),
        st.integers(0, 90),
    )
)


@given(RULES, ANSWERS, st.booleans())
def test_nothing_counts_as_agreed_without_an_agreement_to_the_present_wording_from_those_named(rules, answers, moving):
    found = signoff_status(rules, answers, NOW, moving)
    ok = {a.signer for a in answers if a.verdict == "agreed" and a.fingerprint == "wording"}
    assert found.agreed <= ok
    if found.state is SignoffState.AGREED:
        assert all((set(r.signers) & ok) if r.mode is SigningMode.ANY else set(r.signers) <= ok for r in rules)
    # And nobody is ever stuck: what isn't agreed to waits on somebody, or on its author.
    assert found.state in (SignoffState.AGREED, SignoffState.BACK) or found.asked
    # A change of wording undoes everything.
    assert signoff_status(rules, answers, replace(NOW, fingerprint="other"), moving).state in (
        SignoffState.WAITS,
        SignoffState.BACK,
    )


@pytest.mark.parametrize(("state", "event"), list(product(DeliveryState, Event)))
def test_every_event_of_a_delivery_leads_where_the_table_says_or_is_refused(state, event):
    if (state, event) in TRANSITIONS:
        assert next_state(state, event) is TRANSITIONS[state, event]
    else:
        with pytest.raises(TransitionError):
            next_state(state, event)


def test_no_way_leads_from_held_to_sending_but_by_release():
    """Nothing unsigned goes out: what is held is claimed only once it is planned again."""
    assert {s for (s, e), to in TRANSITIONS.items() if to is DeliveryState.SENDING} == {"planned", "sending"}
    assert {e for (s, e), to in TRANSITIONS.items() if s is DeliveryState.HELD and to is DeliveryState.PLANNED} == {
        "release"
    }
    assert not any(
        s in ("published", "taken_down") and to in ("planned", "sending") for (s, _), to in TRANSITIONS.items()
    )


def test_the_docs_show_the_tables_that_the_program_has():
    docs = (Path(__file__).parents[2] / "docs" / "sign-off.md").read_text("utf-8")
    rows = {
        tuple(cell.strip() for cell in line.strip("|").split("|"))
        for line in docs.splitlines()
        if line.startswith("| ")
    }
    tables = {(*key, to) for table in (POST_TRANSITIONS, TRANSITIONS) for key, to in table.items()}
    assert {row for row in rows if len(row) == 3} == tables | {("from", "what happens", "to")}


def test_a_post_is_what_its_deliveries_make_of_it():
    assert [post_state(False, [SignoffState.AGREED]), post_state(True, [])] == [PostState.DRAFT, PostState.SIGNED]
    assert post_state(True, [SignoffState.AGREED, SignoffState.WAITS]) is PostState.UP
    assert post_state(True, [SignoffState.BACK, SignoffState.WAITS]) is PostState.BACK
    assert post_accepts(PostState.DRAFT, PostEvent.PUT_UP) and not post_accepts(PostState.SIGNED, PostEvent.PUT_UP)


MADRID = ZoneInfo("Europe/Madrid")
NIGHT = QuietHours(time(22), time(8))


@pytest.mark.parametrize(
    ("wall", "sent"),
    [
        ("2026-11-25T12:00", "2026-11-25T12:00"),
        ("2026-11-25T23:10", "2026-11-26T08:00"),
        ("2026-11-25T03:10", "2026-11-25T08:00"),
        ("2026-11-25T08:00", "2026-11-25T08:00"),
        ("2026-11-25T22:00", "2026-11-26T08:00"),
        # Over the change to summer time the night is an hour shorter; eight is eight.
        ("2027-03-27T22:30", "2027-03-28T08:00"),
    ],
)
def test_nothing_is_sent_in_the_quiet_hours_of_ones_own_wall(wall, sent):
    now = datetime.fromisoformat(wall).replace(tzinfo=MADRID)
    assert send_at(now.astimezone(UTC), MADRID, NIGHT).astimezone(MADRID).isoformat()[:16] == sent
    assert send_at(now, MADRID, None) == now == send_at(now, MADRID, QuietHours(time(9), time(9)))


def test_a_digest_goes_once_a_day_and_one_that_was_overslept_still_goes():
    at = datetime(2026, 11, 25, 9, tzinfo=MADRID)
    assert digest_due(at, MADRID, time(8), None)
    assert not digest_due(at, MADRID, time(8), at - timedelta(minutes=50))
    assert digest_due(at, MADRID, time(8), at - timedelta(hours=20))
    assert not digest_due(at, MADRID, time(10), at - timedelta(hours=20))
    assert digest_due(at, MADRID, time(10), at - timedelta(hours=30))
    # At its very minute it is due, and sent then it isn't any more.
    assert digest_due(at, MADRID, time(9), at - timedelta(minutes=1)) and not digest_due(at, MADRID, time(9), at)


def test_every_kind_of_notice_says_what_it_is_about():
    assert len({about for about, _ in KINDS.values()}) == len(KINDS)


@pytest.mark.parametrize(
    ("answers", "plain", "earlier"),
    [
        ([("agreed", "w1"), ("agreed", "w2")], SignoffState.WAITS, SignoffState.AGREED),
        ([("agreed", "w1"), ("change", "w2")], SignoffState.BACK, SignoffState.BACK),
        ([("agreed", "w1"), ("change", "w2"), ("agreed", "w3")], SignoffState.WAITS, SignoffState.WAITS),
        ([("agreed", "w2"), ("agreed", "w1")], SignoffState.AGREED, SignoffState.AGREED),
        ([("agreed", "w2"), ("agreed", "w3")], SignoffState.WAITS, SignoffState.WAITS),
    ],
)
def test_back_to_an_earlier_wording_its_agreement_counts_again_only_where_the_brand_says_so(answers, plain, earlier):
    given = [answer("u1", verdict, says, n) for n, (verdict, says) in enumerate(answers)]
    now = replace(NOW, fingerprint="w1")
    assert [signoff_status([ANYONE], given, now, False, e).state for e in (False, True)] == [plain, earlier]
