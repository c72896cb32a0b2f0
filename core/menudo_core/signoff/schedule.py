"""A delivery's place on the calendar and its state, and what planning, moving, holding and sending again make of it."""

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum
from zoneinfo import ZoneInfo

from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState, Event, TransitionError, next_state
from menudo_core.timing.walltimes import resolve_wall_time, wall_time_in


class SendStep(StrEnum):
    """How far sending got. `HAND`: a person has it, to publish it by hand; it stays so while it is held again."""

    NONE = ""
    MEDIA = "media"
    CREATE = "create"
    HAND = "hand"


@dataclass(frozen=True, slots=True)
class Schedule:
    """Where a delivery stands. `due_at` and the other instants are in UTC; `wall_time` is naive, meant in `zone` (an IANA
    name, empty while there is none). `delay` and `jitter` (minutes) are part of both; `seed` is what they were drawn from.
    `was_due`: when it was due before it was taken off. `not_before` is the next try."""

    profile_id: int
    state: DeliveryState = DeliveryState.UNPLANNED
    due_at: datetime | None = None
    wall_time: datetime | None = None
    zone: str = ""
    delay: int = 0
    jitter: int = 0
    seed: int | None = None
    was_due: datetime | None = None
    held_for: Hold | None = None
    not_before: datetime | None = None
    tries: int = 0
    reason: str = ""
    reason_code: str = ""
    step: SendStep = SendStep.NONE

    @property
    def in_hand(self) -> bool:
        """Whether a person has it, to publish it by hand."""
        return self.step is SendStep.HAND

    @property
    def may_be_out(self) -> bool:
        """Whether it may have gone out, so that a person has to say first whether it did."""
        return self.reason_code == "unsure"


@dataclass(frozen=True, slots=True)
class Spread:
    """How stagger and jitter made a time: minutes of each, and the seed they were drawn from."""

    delay: int = 0
    jitter: int = 0
    seed: int | None = None


def schedule_at(
    schedule: Schedule, at: datetime, zone: ZoneInfo, event: Event, spread: Spread | None = None
) -> Schedule:
    """Give it an instant and the state that `event` leads to. `spread` None keeps what it has; moved, it has none: where
    somebody puts it is where it goes. Raises TransitionError, also while it may be out."""
    require_changeable(schedule)
    if event is Event.MOVE:
        spread = Spread()
    elif spread is None:
        spread = Spread(schedule.delay, schedule.jitter, schedule.seed)
    return replace(
        schedule,
        state=next_state(schedule.state, event),
        due_at=at,
        wall_time=wall_time_in(at, zone),
        zone=zone.key,
        delay=spread.delay,
        jitter=spread.jitter,
        seed=spread.seed,
        not_before=None,
        tries=0,
        reason="",
        reason_code="",
        step=_released_step(schedule),
    )


def shift_by(schedule: Schedule, by: timedelta, zone: ZoneInfo) -> Schedule:
    """Move it by as much on the wall, so that 18:00 stays 18:00 over a clock change. Raises TransitionError."""
    own_zone = ZoneInfo(schedule.zone) if schedule.zone else zone
    if schedule.due_at is None:
        raise TransitionError("It is not planned yet.")
    return schedule_at(
        schedule,
        resolve_wall_time(wall_time_in(schedule.due_at, own_zone) + by, own_zone).instant,
        own_zone,
        Event.MOVE,
    )


def unschedule(schedule: Schedule, event: Event) -> Schedule:
    """What taking it off the calendar (UNPLAN) or calling it off (CALL_OFF) makes of it. Raises TransitionError, also while it
    may be out."""
    require_changeable(schedule)
    state, step = next_state(schedule.state, event), _released_step(schedule)
    changed = replace(schedule, state=state, held_for=None, not_before=None, step=step)
    if event is not Event.UNPLAN:
        return changed
    return replace(
        changed,
        was_due=schedule.due_at,
        due_at=None,
        wall_time=None,
        delay=0,
        jitter=0,
        seed=None,
        reason="",
        reason_code="",
    )


def send_again(schedule: Schedule) -> Schedule:
    """Out of trouble: it is due at once. Raises TransitionError."""
    state = next_state(schedule.state, Event.RETRY)
    return replace(schedule, state=state, reason="", reason_code="", tries=0, not_before=None)


def reinterpret_in_zone(schedule: Schedule, zone: ZoneInfo, keeps_wall: bool) -> Schedule:
    """Its time, meant in another zone: `keeps_wall` keeps the time on the wall and moves the instant, else the other way
    round."""
    if schedule.wall_time is None or schedule.due_at is None:
        return schedule
    if not keeps_wall:
        return replace(schedule, wall_time=wall_time_in(schedule.due_at, zone), zone=zone.key)
    due = resolve_wall_time(schedule.wall_time, zone)
    return replace(schedule, due_at=due.instant, wall_time=due.wall_time, zone=zone.key)


def apply_hold(schedule: Schedule, why: Hold | None, now: datetime, fresh: bool) -> Schedule:
    """Hold it for `why`, or release it where nothing stands in its way. `fresh`: it has just been given its time.

    What is held past its time is left to be missed, since it must not go out late in silence. What a person has in hand
    is held and released whatever its time: it goes out only when they say so.
    """
    if schedule.state not in (DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND):
        return schedule
    if why is not None:
        held = schedule.state is DeliveryState.HELD
        return replace(schedule, state=schedule.state if held else next_state(schedule.state, Event.HOLD), held_for=why)
    if schedule.state is not DeliveryState.HELD:
        return replace(schedule, held_for=None)
    late = schedule.due_at is not None and schedule.due_at <= now
    if late and not schedule.in_hand and not fresh:
        return schedule
    return replace(schedule, state=next_state(schedule.state, Event.RELEASE), held_for=None)


def require_changeable(schedule: Schedule) -> None:
    """Raises TransitionError while it may be out."""
    if schedule.may_be_out:
        raise TransitionError("It may have gone out. Look at the profile first, and say whether it is there.")


def _released_step(schedule: Schedule) -> SendStep:
    """Planned anew or taken off, it is in nobody's hand any more."""
    return SendStep.NONE if schedule.in_hand else schedule.step
