"""What follows from a network's answer; and the state machine of a delivery."""

from datetime import UTC, datetime, timedelta

import pytest
from authlib.oauth2.rfc7636 import create_s256_code_challenge
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.sending.decision import Backoff, NetworkResponse, Outcome, Step, decide_next_step
from menudo_core.signoff.states import DeliveryState, Event, TransitionError, accepts, next_state

NOW = datetime(2026, 11, 24, 12, 0, tzinfo=UTC)
BACKOFF = Backoff(timedelta(seconds=20), timedelta(minutes=30), 8)


def test_pkce_s256_makes_the_challenge_of_rfc_7636_appendix_b():
    verifier = "dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk"
    assert create_s256_code_challenge(verifier) == "E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM"


@pytest.mark.parametrize(
    ("answer", "step", "code"),
    [
        (NetworkResponse(Outcome.DONE, url="https://example.org/1"), Step.PUBLISHED, ""),
        (NetworkResponse(Outcome.REFUSED, "too long"), Step.TROUBLE, "refused"),
        (NetworkResponse(Outcome.NOT_AUTHORISED), Step.RECONNECT, "reconnect"),
        (NetworkResponse(Outcome.UNSURE), Step.TROUBLE, "unsure"),
        (NetworkResponse(Outcome.TOO_MANY), Step.WAIT, "too_many"),
        (NetworkResponse(Outcome.DOWN, "503"), Step.WAIT, "down"),
    ],
)
def test_each_answer_has_one_consequence(answer, step, code):
    decision = decide_next_step(answer, "Brisk", 1, NOW, 0.5, BACKOFF)
    assert (decision.step, decision.code) == (step, code)
    assert step is Step.PUBLISHED or "Brisk" in decision.message


def test_a_network_that_asks_to_wait_is_waited_for_as_told():
    asked = NOW + timedelta(seconds=95)
    assert (
        decide_next_step(NetworkResponse(Outcome.TOO_MANY, retry_at=asked), "Brisk", 50, NOW, 0.9, BACKOFF).at == asked
    )
    assert (
        decide_next_step(
            NetworkResponse(Outcome.TOO_MANY, retry_at=NOW - timedelta(days=1)), "Brisk", 1, NOW, 0, BACKOFF
        ).at
        == NOW
    )


def test_a_network_that_names_no_time_is_waited_for_as_at_a_first_try():
    waits = [
        decide_next_step(NetworkResponse(Outcome.TOO_MANY), "Brisk", tried, NOW, dice, BACKOFF).at - NOW
        for tried, dice in ((1, 0), (1, 1), (7, 1))
    ]
    assert waits == [timedelta(seconds=10), timedelta(seconds=20), timedelta(seconds=20)]


def test_a_network_that_stays_down_ends_in_trouble_after_the_last_try():
    down = NetworkResponse(Outcome.DOWN, "it took too long to answer")
    waits = decide_next_step(down, "Brisk", 7, NOW, 0.5, BACKOFF)
    assert waits.step is Step.WAIT and waits.at == NOW + BACKOFF.delay(7, 0.5) > NOW
    last = decide_next_step(down, "Brisk", 8, NOW, 0.5, BACKOFF)
    assert last.step is Step.TROUBLE and "8 tries" in last.message


def test_what_menudo_itself_breaks_over_is_tried_again_and_ends_with_a_person():
    broken = NetworkResponse(Outcome.BROKEN)
    again = decide_next_step(broken, "Brisk", 1, NOW, 0.5, BACKOFF)
    assert (again.step, again.code) == (Step.WAIT, "broken") and again.at and again.at > NOW
    last = decide_next_step(broken, "Brisk", 8, NOW, 0.5, BACKOFF)
    assert (last.step, last.code) == (Step.TROUBLE, "broken") and "8 tries" in last.message


@given(st.integers(1, 40), st.floats(0, 1, exclude_max=True))
def test_back_off_grows_stays_within_bounds_and_never_runs_over(tried, dice):
    delay = BACKOFF.delay(tried, dice)
    full = min(timedelta(seconds=20) * 2 ** min(tried - 1, 20), timedelta(minutes=30))
    assert full / 2 <= delay <= full


def test_a_network_down_for_an_hour_is_outlasted_whatever_the_dice():
    """The standard back-off: with the shortest waits there are, the last try comes after more than an hour."""
    standard = Backoff()
    assert sum((standard.delay(n, 0.0) for n in range(1, standard.tries)), timedelta()) > timedelta(hours=1)
    assert (
        decide_next_step(NetworkResponse(Outcome.DOWN), "Brisk", standard.tries - 1, NOW, 0.0, standard).step
        is Step.WAIT
    )


def test_what_is_out_or_going_out_cant_be_planned_moved_or_called_off():
    for state in (DeliveryState.SENDING, DeliveryState.PUBLISHED, DeliveryState.DOWN):
        for event in (Event.PLAN, Event.MOVE, Event.UNPLAN, Event.CALL_OFF, Event.RETRY):
            assert not accepts(state, event)
            with pytest.raises(TransitionError):
                next_state(state, event)


def test_only_sending_leads_to_published_but_for_what_a_person_did_or_found():
    ways = {
        (s, e) for s in DeliveryState for e in Event if accepts(s, e) and next_state(s, e) is DeliveryState.PUBLISHED
    }
    by_a_person = {(DeliveryState.TROUBLE, Event.FOUND), (DeliveryState.HAND, Event.DONE)}
    assert ways == {(DeliveryState.SENDING, Event.PUBLISH)} | by_a_person


def test_only_planned_is_claimed_and_a_claim_can_be_taken_over():
    assert {s for s in DeliveryState if accepts(s, Event.CLAIM)} == {DeliveryState.PLANNED, DeliveryState.SENDING}
