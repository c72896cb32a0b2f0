"""Take deliveries off the calendar, or call them off for good."""

from collections.abc import Sequence

from menudo.base.problems import ConflictError, Fault, InvalidError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.move_deliveries import MoveResult
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Delivery
from menudo_core.signoff.schedule import Schedule, unschedule
from menudo_core.signoff.states import Event, TransitionError


def unschedule_delivery(context: BrandContext, delivery: Delivery, revision: int) -> tuple[Delivery, int]:
    """Back to the tray: the delivery keeps its post and has no time. Returns it and the entry that undoes it."""
    return _unschedule(context, delivery, revision, Event.UNPLAN, "delivery.unscheduled")


def call_off_delivery(context: BrandContext, delivery: Delivery, revision: int) -> tuple[Delivery, int]:
    """It won't go out; it stays on the calendar as called off. Returns it and the entry that undoes it."""
    return _unschedule(context, delivery, revision, Event.CALL_OFF, "delivery.called_off")


def _unschedule(
    context: BrandContext, delivery: Delivery, revision: int, event: Event, code: str
) -> tuple[Delivery, int]:
    context.require(Capability.PUBLISH)
    with change_posts(context, deliveries=[delivery.pk]) as change:
        row = change.delivery(delivery.pk, revision)
        try:
            after = unschedule(change.schedule(row), event)
        except TransitionError as error:
            raise ConflictError(say("post.cannot", reason=str(error))) from error
        change.apply(Decision(schedules={row.pk: after}))
        entry = change.record(event, "delivery", row.pk, say(code, profile=row.profile.handle), undoes=[row.pk])
    return row, entry.pk


def call_off_deliveries(context: BrandContext, ids: Sequence[int]) -> MoveResult:
    """Call many off in one step, with one Undo; those that can't be are left, each with its reason. Raises InvalidError when
    none could be."""
    context.require(Capability.PUBLISH)
    done = MoveResult()
    with change_posts(context, deliveries=ids) as change:
        schedules: dict[int, Schedule] = {}
        for row in (
            change.deliveries[delivery_id] for delivery_id in sorted(set(ids)) if delivery_id in change.deliveries
        ):
            try:
                schedules[row.pk] = unschedule(change.schedule(row), Event.CALL_OFF)
            except TransitionError as error:
                done.left.append((row.pk, f"{row.profile.handle}: {error}"))
        if not schedules:
            words = done.left[0][1] if done.left else "None of them is there any more."
            raise InvalidError(faults=[Fault("/deliveries", words, "left")])
        change.apply(Decision(schedules=schedules))
        done.moved = list(schedules)
        done.undo = change.record(
            "call_off",
            "delivery",
            done.moved[0],
            say("delivery.many_called_off", count=len(schedules)),
            undoes=schedules,
        ).pk
    return done
