"""Let two deliveries of one profile change places: their times swap, their posts don't."""

from zoneinfo import ZoneInfo

from menudo.base.problems import ConflictError, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo_core.signoff.schedule import Schedule, schedule_at
from menudo_core.signoff.states import Event, TransitionError


def swap_times(context: BrandContext, one: tuple[int, int], other: tuple[int, int]) -> int:
    """Each (id, revision) takes the other's time. The entry that undoes it. Raises InvalidError, StaleRevisionError, ConflictError."""
    context.require(Capability.PUBLISH)
    if one[0] == other[0]:
        raise InvalidError.at("/other", say("swap.same"))
    with change_posts(context, deliveries=[one[0], other[0]]) as change:
        try:
            a, b = (change.delivery(delivery_id, revision) for delivery_id, revision in (one, other))
        except NotFoundError as error:
            raise ConflictError(say("delivery.gone")) from error
        if a.profile_id != b.profile_id:
            raise InvalidError.at("/other", say("swap.profiles"))
        schedules = {a.pk: _at_time_of(change, a, b), b.pk: _at_time_of(change, b, a)}
        change.apply(Decision(schedules=schedules))
        entry = change.record(
            "swap", "delivery", a.pk, say("delivery.swapped", profile=a.profile.handle), undoes=schedules
        )
    return entry.pk


def _at_time_of(change: PostChange, delivery: Delivery, other: Delivery) -> Schedule:
    """The delivery at the other's time. Raises ConflictError."""
    at = other.due_at
    try:
        if at is None or delivery.due_at is None or delivery.due_at <= change.now:
            raise TransitionError("Its time has come already.")
        return schedule_at(change.schedule(delivery), at, ZoneInfo(other.zone), Event.MOVE)
    except TransitionError as error:
        raise ConflictError(str(error)) from error
