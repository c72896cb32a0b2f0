"""The states of a post and of a delivery, and what leads from one to another."""

from collections.abc import Collection
from enum import StrEnum

from menudo_core.signoff.agreement import SignoffState


class PostState(StrEnum):
    DRAFT = "draft"
    UP = "up_for_signoff"
    SIGNED = "signed_off"
    BACK = "sent_back"


class PostEvent(StrEnum):
    """What can happen to a post. `MEET` is the last agreement that was asked for; `CHANGE` another wording."""

    PUT_UP = "put_up"
    PLAN = "plan"
    MEET = "meet"
    SEND_BACK = "send_back"
    WITHDRAW = "withdraw"
    CHANGE = "change"


_P = PostState
POST_TRANSITIONS: dict[tuple[PostState, PostEvent], PostState] = {
    (_P.DRAFT, PostEvent.PUT_UP): _P.UP,
    (_P.DRAFT, PostEvent.PLAN): _P.UP,
    (_P.DRAFT, PostEvent.CHANGE): _P.DRAFT,
    (_P.UP, PostEvent.PLAN): _P.UP,
    (_P.UP, PostEvent.MEET): _P.SIGNED,
    (_P.UP, PostEvent.SEND_BACK): _P.BACK,
    (_P.UP, PostEvent.WITHDRAW): _P.DRAFT,
    (_P.UP, PostEvent.CHANGE): _P.UP,
    (_P.BACK, PostEvent.PUT_UP): _P.UP,
    (_P.BACK, PostEvent.PLAN): _P.BACK,
    (_P.BACK, PostEvent.MEET): _P.SIGNED,
    (_P.BACK, PostEvent.SEND_BACK): _P.BACK,
    (_P.BACK, PostEvent.WITHDRAW): _P.DRAFT,
    (_P.BACK, PostEvent.CHANGE): _P.BACK,
    (_P.SIGNED, PostEvent.PLAN): _P.SIGNED,
    (_P.SIGNED, PostEvent.SEND_BACK): _P.BACK,
    (_P.SIGNED, PostEvent.CHANGE): _P.UP,
    (_P.SIGNED, PostEvent.WITHDRAW): _P.DRAFT,
}


def post_accepts(state: PostState, event: PostEvent) -> bool:
    """Whether a post in `state` takes `event`."""
    return (state, event) in POST_TRANSITIONS


def post_state(up: bool, signs: Collection[SignoffState]) -> PostState:
    """What the signs of a post's deliveries make of it. `up`: it has been put up for sign-off, or planned.

    A post that needs nobody's agreement counts as signed off once it is up.
    """
    if not up:
        return PostState.DRAFT
    if SignoffState.BACK in signs:
        return PostState.BACK
    return PostState.UP if SignoffState.WAITS in signs else PostState.SIGNED


class DeliveryState(StrEnum):
    UNPLANNED = "unplanned"
    PLANNED = "planned"
    HELD = "held"
    SENDING = "sending"
    PUBLISHED = "published"
    MISSED = "missed"
    TROUBLE = "in_trouble"
    HAND = "waiting_for_hand"
    DOWN = "taken_down"
    OFF = "called_off"


class Event(StrEnum):
    """What can happen to a delivery. `DISCARD`: what is being sent turns out to be in the bin.
    `HOLD` takes back what was handed to a person too, until it may be published again."""

    PLAN = "plan"
    MOVE = "move"
    UNPLAN = "unplan"
    HOLD = "hold"
    RELEASE = "release"
    CLAIM = "claim"
    WAIT = "wait"
    PUBLISH = "publish"
    FAIL = "fail"
    MISS = "miss"
    RETRY = "retry"
    CALL_OFF = "call_off"
    TAKE_DOWN = "take_down"
    FOUND = "found"
    HAND_OVER = "hand_over"
    DISCARD = "discard"
    DONE = "done"


_S = DeliveryState
TRANSITIONS: dict[tuple[DeliveryState, Event], DeliveryState] = {
    (_S.UNPLANNED, Event.PLAN): _S.PLANNED,
    (_S.OFF, Event.PLAN): _S.PLANNED,
    (_S.TROUBLE, Event.PLAN): _S.PLANNED,
    (_S.MISSED, Event.PLAN): _S.PLANNED,
    (_S.PLANNED, Event.MOVE): _S.PLANNED,
    (_S.HELD, Event.MOVE): _S.HELD,
    (_S.TROUBLE, Event.MOVE): _S.PLANNED,
    (_S.MISSED, Event.MOVE): _S.PLANNED,
    (_S.PLANNED, Event.UNPLAN): _S.UNPLANNED,
    (_S.HELD, Event.UNPLAN): _S.UNPLANNED,
    (_S.TROUBLE, Event.UNPLAN): _S.UNPLANNED,
    (_S.MISSED, Event.UNPLAN): _S.UNPLANNED,
    (_S.UNPLANNED, Event.HOLD): _S.HELD,
    (_S.PLANNED, Event.HOLD): _S.HELD,
    (_S.HELD, Event.RELEASE): _S.PLANNED,
    (_S.HELD, Event.MISS): _S.MISSED,
    (_S.PLANNED, Event.CLAIM): _S.SENDING,
    (_S.SENDING, Event.CLAIM): _S.SENDING,
    (_S.SENDING, Event.WAIT): _S.PLANNED,
    (_S.SENDING, Event.HOLD): _S.HELD,
    (_S.SENDING, Event.HAND_OVER): _S.HAND,
    (_S.SENDING, Event.DISCARD): _S.UNPLANNED,
    (_S.HAND, Event.DONE): _S.PUBLISHED,
    (_S.HAND, Event.HOLD): _S.HELD,
    (_S.HAND, Event.MOVE): _S.PLANNED,
    (_S.HAND, Event.UNPLAN): _S.UNPLANNED,
    (_S.HAND, Event.CALL_OFF): _S.OFF,
    (_S.SENDING, Event.PUBLISH): _S.PUBLISHED,
    (_S.SENDING, Event.FAIL): _S.TROUBLE,
    (_S.TROUBLE, Event.RETRY): _S.PLANNED,
    (_S.TROUBLE, Event.FOUND): _S.PUBLISHED,
    (_S.PLANNED, Event.CALL_OFF): _S.OFF,
    (_S.HELD, Event.CALL_OFF): _S.OFF,
    (_S.TROUBLE, Event.CALL_OFF): _S.OFF,
    (_S.MISSED, Event.CALL_OFF): _S.OFF,
    (_S.PUBLISHED, Event.TAKE_DOWN): _S.DOWN,
}


class TransitionError(ValueError):
    """An event that a delivery in this state doesn't take, with the reason in plain words."""


_REFUSALS = {
    _S.SENDING: "It is being sent just now.",
    _S.PUBLISHED: "It has been published already.",
    _S.DOWN: "It has been taken down.",
    _S.OFF: "It has been called off.",
    _S.UNPLANNED: "It is not planned yet.",
    _S.PLANNED: "It is planned already.",
}


def next_state(state: DeliveryState, event: Event) -> DeliveryState:
    """The state that `event` leads to. Raises TransitionError."""
    try:
        return TRANSITIONS[state, event]
    except KeyError:
        raise TransitionError(_REFUSALS.get(state, "That can't be done in its present state.")) from None


def accepts(state: DeliveryState, event: Event) -> bool:
    """Whether a delivery in `state` takes `event`."""
    return (state, event) in TRANSITIONS
