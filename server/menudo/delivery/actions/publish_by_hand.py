"""By hand: a person published it, didn't, or will later."""

from dataclasses import replace

from menudo.base.problems import ConflictError, InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.enqueue_delivery import parse_wall_time, resolve_due
from menudo.posts.change.decision import Decision, Publication
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.sent_content import SentContent
from menudo.posts.signoff_state import signoff_state
from menudo_core.signoff.agreement import SignoffState
from menudo_core.signoff.holds import HELD_WORDS, Hold
from menudo_core.signoff.schedule import schedule_at
from menudo_core.signoff.states import DeliveryState, Event, TransitionError, next_state
from menudo_core.text.links import is_web_address


def mark_published(context: BrandContext, delivery: Delivery, url: str, revision: int) -> Delivery:
    """It is published; `url` is where (may be empty). What was sent is kept as it stands now. Raises InvalidError, StaleRevisionError,
    ConflictError."""
    url = url.strip()
    if url and not is_web_address(url):
        raise InvalidError.at("/url", say("post_address.not_whole"))
    _require_keeper(context, delivery)
    with change_posts(context, deliveries=[delivery.pk]) as change:
        row = _delivery_in_hand(change, delivery, revision)
        # Everything that takes an agreement away holds it as well; should anything ever not, here is the last look.
        if signoff_state(row, change.renderer(row.post)) not in (SignoffState.NONE, SignoffState.AGREED):
            raise ConflictError(HELD_WORDS[Hold.SIGNOFF])
        schedule = change.schedule(row)
        content = change.rendered([row])[row.pk]
        there = Publication(url[:500], change.now, SentContent(content))
        published = replace(schedule, state=next_state(schedule.state, Event.DONE))
        change.apply(Decision(schedules={row.pk: published}, publications={row.pk: there}))
        change.record("publish", "delivery", row.pk, say("delivery.published_by_hand", profile=row.profile.handle))
    return row


def mark_not_published(context: BrandContext, delivery: Delivery, why: str, revision: int) -> Delivery:
    """It won't be published; `why` is kept with it. It stays on the calendar as called off. Raises InvalidError, StaleRevisionError,
    ConflictError."""
    why = why.strip()
    if not why or storage_refusal(why):
        raise InvalidError.at("/reason", storage_refusal(why) or say("by_hand.reasonless"))
    _require_keeper(context, delivery)
    with change_posts(context, deliveries=[delivery.pk]) as change:
        row = _delivery_in_hand(change, delivery, revision)
        schedule = change.schedule(row)
        reason = f"Not published by hand: {why}"[:500]
        off = replace(schedule, state=next_state(schedule.state, Event.CALL_OFF), reason=reason, reason_code="not_done")
        change.apply(Decision(schedules={row.pk: off}))
        change.record(
            "call_off", "delivery", row.pk, say("delivery.not_published", profile=row.profile.handle, why=why)
        )
    return row


def postpone(context: BrandContext, delivery: Delivery, wall_time: str, revision: int) -> Delivery:
    """At another wall time of the brand's: the person is told again then. Raises InvalidError, StaleRevisionError, ConflictError."""
    _require_keeper(context, delivery)
    with change_posts(context, deliveries=[delivery.pk]) as change:
        row = _delivery_in_hand(change, delivery, revision)
        due = resolve_due(parse_wall_time(wall_time, "/wall_time"), context.zone, change.now, "/wall_time")
        try:
            moved = schedule_at(change.schedule(row), due.instant, context.zone, Event.MOVE)
        except TransitionError as error:
            raise ConflictError(str(error)) from error
        change.apply(Decision(schedules={row.pk: moved}))
        change.record(
            "move", "delivery", row.pk, say("delivery.postponed", profile=row.profile.handle, at=due.wall_time)
        )
    return row


def _require_keeper(context: BrandContext, delivery: Delivery) -> None:
    """The profile's keeper may, and who publishes. Raises ForbiddenError."""
    if delivery.profile.keeper_id != context.user.pk:
        context.require(Capability.PUBLISH)


def _delivery_in_hand(change: PostChange, delivery: Delivery, revision: int) -> Delivery:
    """The delivery, while a person has it. Raises StaleRevisionError, ConflictError."""
    row = change.delivery(delivery.pk, revision)
    if row.state != DeliveryState.HAND:
        held = HELD_WORDS[Hold(row.held_for)] if row.state == DeliveryState.HELD and row.held_for else ""
        raise ConflictError(held or say("by_hand.not_waiting"))
    return row
