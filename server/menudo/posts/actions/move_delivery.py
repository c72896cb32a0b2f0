"""Move a delivery to another time."""

from menudo.base.problems import ConflictError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.enqueue_delivery import parse_wall_time, resolve_due
from menudo.posts.actions.watch import notify_moved
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Delivery
from menudo_core.signoff.schedule import schedule_at
from menudo_core.signoff.states import Event, TransitionError


def move_delivery(context: BrandContext, delivery: Delivery, wall_time: str, revision: int) -> tuple[Delivery, int]:
    """Give a planned delivery another wall time, in the brand's zone. The delivery and the entry that undoes it.

    Wording and sign-off stay as they are. Raises InvalidError, StaleRevisionError, ConflictError.
    """
    context.require(Capability.PUBLISH)
    with change_posts(context, deliveries=[delivery.pk]) as change:
        row = change.delivery(delivery.pk, revision)
        due = resolve_due(parse_wall_time(wall_time, "/wall_time"), context.zone, change.now, "/wall_time")
        try:
            after = schedule_at(change.schedule(row), due.instant, context.zone, Event.MOVE)
        except TransitionError as error:
            raise ConflictError(say("delivery.cannot_move", reason=str(error))) from error
        change.apply(Decision(schedules={row.pk: after}))
        sentence = say("delivery.moved", profile=row.profile.handle, at=due.wall_time)
        notify_moved(context, [row.post_id], sentence)
        entry = change.record("move", "delivery", row.pk, sentence, undoes=[row.pk])
    return row, entry.pk
