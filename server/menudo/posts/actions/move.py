"""Move a delivery to another time."""

from menudo.base.problems import Conflict
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.actions.watch import tell_moved
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Delivery
from menudo_core.signoff.schedule import schedule_at
from menudo_core.signoff.states import Event, NotPossible


def move(place: Here, delivery: Delivery, wall: str, began: int) -> tuple[Delivery, int]:
    """Give a planned delivery another wall time, in the brand's zone. The delivery and the entry that undoes it.

    Wording and sign-off stay as they are. Raises Invalid, Stale, Conflict.
    """
    place.needs(May.PUBLISH)
    with change_posts(place, deliveries=[delivery.pk]) as change:
        row = change.delivery(delivery.pk, began)
        due = resolve_due(read_wall(wall, "/wall"), place.zone, change.now, "/wall")
        try:
            after = schedule_at(change.schedule(row), due.instant, place.zone, Event.MOVE)
        except NotPossible as error:
            raise Conflict(f"It can't be moved. {error}") from error
        change.apply(Decision(schedules={row.pk: after}))
        words = f"moved {row.profile.handle} to {due.wall:%a} {due.wall.day} {due.wall:%b, %H:%M}"
        tell_moved(place, [row.post_id], words)
        entry = change.record("move", "delivery", row.pk, words, undoes=[row.pk])
    return row, entry.pk
