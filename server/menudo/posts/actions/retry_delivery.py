"""Trouble, mended: send again, or say what was found at the network."""

from dataclasses import replace

from menudo.base.problems import ConflictError, InvalidError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision, Publication
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.serializers import load_sent_content
from menudo.profiles.pauses import is_usable
from menudo_core.signoff.schedule import Schedule, SendStep, require_changeable, send_again
from menudo_core.signoff.states import Event, TransitionError, next_state
from menudo_core.text.links import is_web_address


def retry_delivery(context: BrandContext, delivery: Delivery, revision: int) -> Delivery:
    """Send a delivery in trouble again, now. One that may have gone out must be settled instead. Raises StaleRevisionError, ConflictError."""
    context.require(Capability.PUBLISH)
    with change_posts(context, deliveries=[delivery.pk]) as change:
        row = change.delivery(delivery.pk, revision)
        schedule = change.schedule(row)
        try:
            require_changeable(schedule)
        except TransitionError as error:
            raise ConflictError(str(error)) from error
        if not is_usable(row.profile):
            raise ConflictError(say("profile.reconnect_first", profile=row.profile.handle))
        if change.pauses.at(row.profile, change.now):
            raise ConflictError(say("profile.resume_first", profile=row.profile.handle))
        _send_again(change, row, schedule)
    return row


def resolve_uncertain(context: BrandContext, delivery: Delivery, is_there: bool, url: str, revision: int) -> Delivery:
    """A person looked at the network: the post is there (published), or it isn't (sent again). Raises StaleRevisionError, ConflictError."""
    context.require(Capability.PUBLISH)
    if is_there and url and not is_web_address(url):
        raise InvalidError.at("/url", say("post_address.not_whole"))
    with change_posts(context, deliveries=[delivery.pk]) as change:
        row = change.delivery(delivery.pk, revision)
        schedule = change.schedule(row)
        if not schedule.may_be_out:
            raise ConflictError(say("delivery.known"))
        if not is_there:
            # A person has looked: what was begun is forgotten, so that the network isn't asked again.
            _send_again(change, row, replace(schedule, step=SendStep.NONE))
            return row
        found = replace(schedule, state=next_state(schedule.state, Event.FOUND), reason="", reason_code="")
        sent = row.attempted_content or row.sent_content
        there = Publication(url, change.now, load_sent_content(sent) if sent else None)
        change.apply(Decision(schedules={row.pk: found}, publications={row.pk: there}))
        change.record("settle", "delivery", row.pk, say("delivery.found", profile=row.profile.handle))
    return row


def _send_again(change: PostChange, row: Delivery, schedule: Schedule) -> None:
    try:
        again = send_again(schedule)
    except TransitionError as error:
        raise ConflictError(say("delivery.cannot_resend", reason=str(error))) from error
    change.apply(Decision(schedules={row.pk: again}))
    change.record("retry", "delivery", row.pk, say("delivery.retried", profile=row.profile.handle))
