"""By hand: a person published it, didn't, or will later."""

from dataclasses import replace

from menudo.base.problems import Conflict, Invalid
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.change.decision import Decision, Publication
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.serializers import store_content
from menudo.posts.signing import signoff_state
from menudo_core.signoff.agreement import Sign
from menudo_core.signoff.holds import HELD_WORDS, Hold
from menudo_core.signoff.schedule import schedule_at
from menudo_core.signoff.states import DeliveryState, Event, NotPossible, after
from menudo_core.text.clean import unusable
from menudo_core.text.links import is_web_address


def done(place: Here, delivery: Delivery, url: str, began: int) -> Delivery:
    """It is published; `url` is where (may be empty). What was sent is kept as it stands now. Raises Invalid, Stale,
    Conflict."""
    url = url.strip()
    if url and not is_web_address(url):
        raise Invalid.at("/url", "That is not a whole web address. Copy it from the post, or leave it empty.")
    _may(place, delivery)
    with change_posts(place, deliveries=[delivery.pk]) as change:
        row = _in_hand(change, delivery, began)
        # Everything that takes an agreement away holds it as well; should anything ever not, here is the last look.
        if signoff_state(row, change.renderer(row.post)) not in (Sign.NONE, Sign.AGREED):
            raise Conflict(HELD_WORDS[Hold.SIGNOFF])
        schedule = change.schedule(row)
        content = change.rendered([row])[row.pk]
        there = Publication(url[:500], change.now, store_content(content))
        published = replace(schedule, state=after(schedule.state, Event.DONE))
        change.apply(Decision(schedules={row.pk: published}, publications={row.pk: there}))
        change.record("publish", "delivery", row.pk, f"published {row.profile.handle}'s post by hand")
    return row


def not_done(place: Here, delivery: Delivery, why: str, began: int) -> Delivery:
    """It won't be published; `why` is kept with it. It stays on the calendar as called off. Raises Invalid, Stale,
    Conflict."""
    why = why.strip()
    if not why or unusable(why):
        raise Invalid.at("/why", unusable(why) or "Say in a few words why not.", "missing")
    _may(place, delivery)
    with change_posts(place, deliveries=[delivery.pk]) as change:
        row = _in_hand(change, delivery, began)
        schedule = change.schedule(row)
        reason = f"Not published by hand: {why}"[:500]
        off = replace(schedule, state=after(schedule.state, Event.CALL_OFF), reason=reason, reason_code="not_done")
        change.apply(Decision(schedules={row.pk: off}))
        change.record("call_off", "delivery", row.pk, f"did not publish {row.profile.handle}'s post: {why}")
    return row


def later(place: Here, delivery: Delivery, wall: str, began: int) -> Delivery:
    """At another wall time of the brand's: the person is told again then. Raises Invalid, Stale, Conflict."""
    _may(place, delivery)
    with change_posts(place, deliveries=[delivery.pk]) as change:
        row = _in_hand(change, delivery, began)
        due = resolve_due(read_wall(wall, "/wall"), place.zone, change.now, "/wall")
        try:
            moved = schedule_at(change.schedule(row), due.instant, place.zone, Event.MOVE)
        except NotPossible as error:
            raise Conflict(str(error)) from error
        change.apply(Decision(schedules={row.pk: moved}))
        change.record("move", "delivery", row.pk, f"put {row.profile.handle}'s post off to {due.wall:%a %d %b, %H:%M}")
    return row


def _may(place: Here, delivery: Delivery) -> None:
    """The profile's keeper may, and who publishes. Raises Forbidden."""
    if delivery.profile.keeper_id != place.user.pk:
        place.needs(May.PUBLISH)


def _in_hand(change: PostChange, delivery: Delivery, began: int) -> Delivery:
    """The delivery, while a person has it. Raises Stale, Conflict."""
    row = change.delivery(delivery.pk, began)
    if row.state != DeliveryState.HAND:
        held = HELD_WORDS[Hold(row.held_for)] if row.state == DeliveryState.HELD and row.held_for else ""
        raise Conflict(held or "It isn't waiting to be published by hand.")
    return row
