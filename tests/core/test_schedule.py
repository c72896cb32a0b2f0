"""Where a delivery stands, and what planning, moving, holding and sending again make of it."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.media.presentation import MediaPresentation
from menudo_core.networks.content import Card, Content, Overrides, PostContent
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.schedule import (
    Schedule,
    SendStep,
    Spread,
    apply_hold,
    reinterpret_in_zone,
    schedule_at,
    send_again,
    shift_by,
    unschedule,
)
from menudo_core.signoff.states import TRANSITIONS, DeliveryState, Event, TransitionError

MADRID, TOKYO = ZoneInfo("Europe/Madrid"), ZoneInfo("Asia/Tokyo")
NOW = datetime(2026, 10, 20, 9, tzinfo=UTC)
LATER = NOW + timedelta(days=1)
DRAFT = Schedule(profile_id=1)
PLANNED = schedule_at(DRAFT, LATER, MADRID, Event.PLAN, Spread(30, -4, 7))
UNSURE = Schedule(1, DeliveryState.TROUBLE, LATER, reason_code="unsure")
state = st.sampled_from(DeliveryState)
step = st.sampled_from(SendStep)


def test_planned_it_says_the_instant_and_the_time_on_the_wall_it_was_meant_in():
    assert (PLANNED.state, PLANNED.due_at, PLANNED.zone) == (DeliveryState.PLANNED, LATER, "Europe/Madrid")
    assert PLANNED.wall_time == datetime(2026, 10, 21, 11)
    assert (PLANNED.delay, PLANNED.jitter, PLANNED.seed) == (30, -4, 7)


def test_moved_it_goes_where_it_is_put_whatever_stagger_and_jitter_had_made_of_it():
    moved = schedule_at(PLANNED, LATER + timedelta(hours=1), TOKYO, Event.MOVE)
    assert (moved.delay, moved.jitter, moved.seed) == (0, 0, None)
    assert moved.wall_time == datetime(2026, 10, 21, 19)


def test_a_sister_moves_by_as_much_on_the_wall_over_a_clock_change():
    """Clocks in Madrid go back on 25 October 2026 at 3:00 (tz database): a day more on the wall is 25 hours."""
    before = schedule_at(DRAFT, datetime(2026, 10, 24, 16, tzinfo=UTC), MADRID, Event.PLAN)
    after = shift_by(before, timedelta(days=1), TOKYO)
    assert after.wall_time == datetime(2026, 10, 25, 18) and after.due_at == datetime(2026, 10, 25, 17, tzinfo=UTC)


def test_meant_in_another_zone_it_keeps_either_the_wall_or_the_moment():
    wall, moment = reinterpret_in_zone(PLANNED, TOKYO, True), reinterpret_in_zone(PLANNED, TOKYO, False)
    assert wall.wall_time == PLANNED.wall_time and wall.due_at == datetime(2026, 10, 21, 2, tzinfo=UTC)
    assert moment.due_at == PLANNED.due_at and moment.wall_time == datetime(2026, 10, 21, 18)
    for unset in ({"due_at": None}, {"wall_time": None}):
        unplanned = replace(PLANNED, **unset)
        assert all(reinterpret_in_zone(unplanned, TOKYO, keeps) is unplanned for keeps in (True, False))


def test_taken_off_the_calendar_it_remembers_when_it_was_due_and_called_off_it_stays_there():
    off, called_off = unschedule(PLANNED, Event.UNPLAN), unschedule(PLANNED, Event.CALL_OFF)
    assert (off.due_at, off.wall_time, off.was_due, off.delay) == (None, None, LATER, 0)
    assert (called_off.due_at, called_off.state) == (LATER, DeliveryState.OFF)


@pytest.mark.parametrize(
    "change",
    [
        lambda: schedule_at(UNSURE, LATER, MADRID, Event.PLAN),
        lambda: schedule_at(UNSURE, LATER, MADRID, Event.MOVE),
        lambda: unschedule(UNSURE, Event.UNPLAN),
        lambda: unschedule(UNSURE, Event.CALL_OFF),
    ],
)
def test_what_may_be_out_is_changed_by_nobody_before_somebody_has_looked(change):
    with pytest.raises(TransitionError, match="may have gone out"):
        change()


def test_sent_again_it_begins_anew():
    trouble = replace(
        PLANNED, state=DeliveryState.TROUBLE, tries=4, reason="No", reason_code="refused", not_before=LATER
    )
    again = send_again(trouble)
    assert (again.state, again.tries, again.reason, again.not_before) == (DeliveryState.PLANNED, 0, "", None)


def test_what_is_held_is_released_but_never_late_in_silence():
    held = apply_hold(PLANNED, Hold.SIGNOFF, NOW, fresh=False)
    assert (held.state, held.held_for) == (DeliveryState.HELD, Hold.SIGNOFF)
    assert apply_hold(held, None, NOW, fresh=False) == PLANNED
    late = LATER + timedelta(minutes=1)
    assert apply_hold(held, None, late, fresh=False) == held
    # Somebody has just given it that time: "now".
    assert apply_hold(held, None, late, fresh=True) == PLANNED
    in_hand = replace(PLANNED, state=DeliveryState.HAND, step=SendStep.HAND)
    held = apply_hold(in_hand, Hold.PAUSED, late, fresh=False)
    assert held.state is DeliveryState.HELD and held.in_hand
    assert apply_hold(held, None, late, fresh=False).state is DeliveryState.PLANNED


@given(state, step, st.sampled_from([None, *Hold]), st.booleans(), st.booleans())
def test_holding_follows_the_state_machine_and_settles_at_once(state, step, why, late, fresh):
    now = LATER + timedelta(hours=1 if late else -1)
    before = replace(PLANNED, state=state, step=step, held_for=Hold.PAUSED if state is DeliveryState.HELD else None)
    after = apply_hold(before, why, now, fresh)
    assert after.state is state or after.state in {TRANSITIONS.get((state, e)) for e in (Event.HOLD, Event.RELEASE)}
    assert apply_hold(after, why, now, fresh) == after
    if why is not None:
        assert after.state is not DeliveryState.PLANNED and after.state is not DeliveryState.HAND


@given(state, step, st.sampled_from([Event.PLAN, Event.MOVE]))
def test_a_new_time_takes_it_out_of_a_persons_hand_and_forgets_nothing_that_was_begun(state, step, event):
    before = replace(PLANNED, state=state, step=step)
    try:
        after = schedule_at(before, LATER, MADRID, event)
    except TransitionError:
        assert (state, event) not in TRANSITIONS
        return
    assert after.step is (SendStep.NONE if step is SendStep.HAND else step)


def test_a_post_says_at_each_network_and_profile_what_is_written_there_and_knows_all_it_uses():
    card = Card("Moss", picture=9)
    post = PostContent(
        "Title",
        Content("Master", (1, 2), shown={1: MediaPresentation(cover=7)}),
        {("brisk", None): Overrides(text="Brisk"), ("brisk", 5): Overrides(media=(3,), card=card)},
    )
    assert post.version("plaza", None).text == "Master" and post.version("brisk", 4).text == "Brisk"
    assert (post.version("brisk", 5).text, post.version("brisk", 5).media) == ("Master", (3,))
    assert post.asset_ids() == {1, 2, 3, 7, 9} and len(post.parts()) == 3
