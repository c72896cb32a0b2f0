"""What is out already: take it down at the network, or bring its words up to date there."""

from collections.abc import Callable
from dataclasses import replace

from menudo.base.problems import ConflictError
from menudo.base.revisions import require_unchanged
from menudo.base.sentences import say
from menudo.delivery.with_connection import with_connection
from menudo.networks.protocol import Adapter
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision, Publication
from menudo.posts.change.kernel import change_posts
from menudo.posts.checking import findings_for, media_facts
from menudo.posts.models import Delivery
from menudo.posts.queries import delivery_out
from menudo.posts.rendering import PostRenderer, render_delivery
from menudo.posts.serializers import load_sent_content
from menudo.posts.signoff_state import signoff_state
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.findings import Level
from menudo_core.sending.decision import NetworkResponse, Outcome
from menudo_core.signoff.agreement import SignoffState
from menudo_core.signoff.states import DeliveryState, Event, next_state


def take_down(context: BrandContext, delivery: Delivery, revision: int) -> Delivery:
    """It is no longer at the network; what was sent is kept here. Raises StaleRevisionError, ConflictError with the network's own words.

    Doing it twice does no harm: what isn't there any more is taken down.
    """
    context.require(Capability.DELETE)
    row = _published(delivery, revision)
    _act_at_network(row, "deletes", lambda adapter: adapter.take_down(row.profile.remote_id, row.remote_url))
    with change_posts(context, deliveries=[row.pk]) as change:
        row = change.delivery(row.pk)
        schedule = change.schedule(row)
        if schedule.state is DeliveryState.PUBLISHED:
            down = replace(schedule, state=next_state(schedule.state, Event.TAKE_DOWN))
            change.apply(Decision(schedules={row.pk: down}))
            change.record("take_down", "delivery", row.pk, say("delivery.taken_down", profile=row.profile.handle))
    return row


def update_at_network(context: BrandContext, delivery: Delivery, revision: int) -> Delivery:
    """The text at the network becomes what the version says now; pictures and the rest stay as they were sent.

    What must be signed off must be so, as it says now. Raises StaleRevisionError, ConflictError.
    """
    context.require(Capability.PUBLISH)
    row = _published(delivery, revision)
    renderer = PostRenderer.for_post(row.post, row.brand)
    content = render_delivery(renderer, row, row.profile, row.brand)
    if row.sent_content and load_sent_content(row.sent_content).content.text == content.text:
        raise ConflictError(say("network.text_present"))
    if signoff_state(row, renderer) not in (SignoffState.NONE, SignoffState.AGREED):
        raise ConflictError(say("network.not_agreed"))
    found = findings_for(
        row.brand_id, row.profile.network, content, media_facts(row.brand, [content]), row.profile.followers
    )
    stops = [f for f in found if f.level is Level.STOPS]
    if stops:
        raise ConflictError(stops[0].message)
    _act_at_network(row, "edits", lambda adapter: adapter.edit(row.profile.remote_id, row.remote_url, content.text))
    with change_posts(context, deliveries=[row.pk]) as change:
        row = change.delivery(row.pk)
        if row.state == DeliveryState.PUBLISHED:
            sent = load_sent_content(row.sent_content or {})
            edited = replace(sent, content=replace(sent.content, text=content.text), changed_at=change.now)
            there = Publication(row.remote_url, row.published_at, edited)
            change.apply(Decision(publications={row.pk: there}))
            change.record("update_there", "delivery", row.pk, say("delivery.text_updated", profile=row.profile.handle))
    return row


def _published(delivery: Delivery, revision: int) -> Delivery:
    row = Delivery.objects.select_related("post", "brand", "profile__connection").get(pk=delivery.pk)
    require_unchanged(revision, row.revision, delivery_out(row))
    if row.state != DeliveryState.PUBLISHED:
        raise ConflictError(say("network.not_there"))
    return row


def _act_at_network(row: Delivery, flag: str, act: Callable[[Adapter], NetworkResponse]) -> None:
    sheet = sheet_for(row.brand_id, row.profile.network)
    if not getattr(sheet.wire, flag):
        raise ConflictError(say(f"network.without_{flag}", network=sheet.name))
    if not row.remote_url or row.profile.connection is None:
        raise ConflictError(say("network.unknown_there"))
    answer = with_connection(row.profile.connection, act)
    if answer.outcome is Outcome.DONE:
        return
    if answer.outcome is Outcome.NOT_AUTHORISED:
        raise ConflictError(say("network.lets_in_no_longer", network=sheet.name))
    if not answer.message:
        raise ConflictError(say("network.did_not_say", network=sheet.name))
    raise ConflictError(say("network.did_not", network=sheet.name, reason=answer.message))
