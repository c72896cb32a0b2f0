"""What is out already: take it down at the network, or bring its words up to date there."""

from collections.abc import Callable
from dataclasses import replace

from menudo.base.problems import Conflict
from menudo.base.revisions import unchanged
from menudo.delivery.with_connection import with_connection
from menudo.networks.protocol import Adapter
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.change.decision import Decision, Publication
from menudo.posts.change.kernel import change_posts
from menudo.posts.checking import facts, findings_of
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery_out
from menudo.posts.rendering import PostRenderer, render_delivery
from menudo.posts.signing import signoff_state
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.findings import Level
from menudo_core.sending.decide import NetworkResponse, Outcome
from menudo_core.signoff.agreement import Sign
from menudo_core.signoff.states import DeliveryState, Event, after


def take_down(place: Here, delivery: Delivery, began: int) -> Delivery:
    """It is no longer at the network; what was sent is kept here. Raises Stale, Conflict with the network's own words.

    Doing it twice does no harm: what isn't there any more is taken down.
    """
    place.needs(May.DELETE)
    row = _out(delivery, began)
    _wire(row, "deletes", "taken down", lambda adapter: adapter.take_down(row.profile.remote_id, row.remote_url))
    with change_posts(place, deliveries=[row.pk]) as change:
        row = change.delivery(row.pk)
        schedule = change.schedule(row)
        if schedule.state is DeliveryState.PUBLISHED:
            down = replace(schedule, state=after(schedule.state, Event.TAKE_DOWN))
            change.apply(Decision(schedules={row.pk: down}))
            change.record("take_down", "delivery", row.pk, f"took {row.profile.handle}'s post down")
    return row


def bring_up_to_date(place: Here, delivery: Delivery, began: int) -> Delivery:
    """The text at the network becomes what the version says now; pictures and the rest stay as they were sent.

    What must be signed off must be so, as it says now. Raises Stale, Conflict.
    """
    place.needs(May.PUBLISH)
    row = _out(delivery, began)
    renderer = PostRenderer.of(row.post, row.brand)
    content = render_delivery(renderer, row, row.profile, row.brand)
    if row.sent and row.sent.get("text") == content.text:
        raise Conflict("The text there is the present one already.")
    if signoff_state(row, renderer) not in (Sign.NONE, Sign.AGREED):
        raise Conflict("Nobody has agreed to its present wording. Have it signed off first, in a copy.")
    found = findings_of(row.brand_id, row.profile.network, content, facts(row.brand, [content]), row.profile.followers)
    stops = [f for f in found if f.level is Level.STOPS]
    if stops:
        raise Conflict(stops[0].words)
    _wire(row, "edits", "changed", lambda adapter: adapter.edit(row.profile.remote_id, row.remote_url, content.text))
    with change_posts(place, deliveries=[row.pk]) as change:
        row = change.delivery(row.pk)
        if row.state == DeliveryState.PUBLISHED:
            sent = {**(row.sent or {}), "text": content.text, "changed_at": change.now.isoformat()}
            there = Publication(row.remote_url, row.published_at, sent)
            change.apply(Decision(publications={row.pk: there}))
            change.record("update_there", "delivery", row.pk, f"changed {row.profile.handle}'s post at the network")
    return row


def _out(delivery: Delivery, began: int) -> Delivery:
    row = Delivery.objects.select_related("post", "brand", "profile__connection").get(pk=delivery.pk)
    unchanged(began, row.revision, delivery_out(row).model_dump(mode="json"))
    if row.state != DeliveryState.PUBLISHED:
        raise Conflict("It isn't at the network.")
    return row


def _wire(row: Delivery, flag: str, verb: str, act: Callable[[Adapter], NetworkResponse]) -> None:
    sheet = sheet_for(row.brand_id, row.profile.network)
    if not getattr(sheet.wire, flag):
        raise Conflict(f"{sheet.name} doesn't let another program have a post {verb}. Do it at {sheet.name} itself.")
    if not row.remote_url or row.profile.connection is None:
        raise Conflict("Menudo doesn't know its address there, or is no longer connected. Do it at the network itself.")
    answer = with_connection(row.profile.connection, act)
    if answer.outcome is Outcome.DONE:
        return
    if answer.outcome is Outcome.NOT_AUTHORISED:
        raise Conflict(f"{sheet.name} no longer lets Menudo in. Reconnect the profile, then try again.")
    raise Conflict(f"{sheet.name} did not do it: {answer.words or 'it gave no reason'}.")
