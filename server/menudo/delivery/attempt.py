"""One claimed delivery on its way: read, looked at a last time, begun, and through the wire.

Never blind: what may have gone out in an earlier try is asked about first.
"""

import time
from collections.abc import Iterable
from dataclasses import dataclass, field

import structlog
from django.conf import settings
from django.db import OperationalError

from menudo.delivery.actions.claim import Lane, LeaseLostError, begin_sending, renew_lease
from menudo.delivery.actions.hold_back import hold_back
from menudo.delivery.actions.settle import SendResult, settle_safely
from menudo.delivery.actions.sweep import delivery_boundary
from menudo.delivery.outgoing import Assets, NotSentError, build_outgoing
from menudo.delivery.sent_content import sent_content_of
from menudo.delivery.with_connection import find_by_key, with_connection
from menudo.networks.protocol import Adapter
from menudo.posts.checking import findings_for
from menudo.posts.models import Delivery
from menudo.posts.rendering import PostRenderer, render_delivery
from menudo.posts.sent_content import SentContent
from menudo.posts.signoff_state import signoff_state
from menudo.profiles.pauses import pauses_of
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Level
from menudo_core.sending.decision import NetworkResponse, Outcome

log = structlog.get_logger(__name__)
_MEDIA_MISSING = NetworkResponse(Outcome.REFUSED, "it is not there")
_BROKEN = NetworkResponse(Outcome.BROKEN)
Step = Delivery.Step


@dataclass(slots=True, eq=False)
class SendAttempt:
    """One claimed delivery on its way. One reading of its content: what is looked at for sign-off is what goes out.

    `begun_at`: when its lease was last renewed for publishing, by the process's own clock (seconds). `published`: the network
    was asked to publish it in this try.
    """

    delivery: Delivery
    renderer: PostRenderer
    content: Content
    assets: Assets = field(default_factory=lambda: Assets({}))
    begun_at: float = 0.0
    published: bool = False

    @property
    def lane(self) -> Lane:
        """The network it goes to, or the very site."""
        return self.delivery.profile.network, self.delivery.profile.site


def prepare_attempts(taken: list[Delivery]) -> list[SendAttempt]:
    """Those that go out through a line; what was held, handed over or stopped by our own looking is settled."""
    attempts, broken = _read_contents(taken)
    settle_safely(broken)
    # What was begun before may be out: its network is asked before anything else is decided about it, in its line.
    begun = [one for one in attempts if one.delivery.step == Step.CREATE]
    fresh, stopped = _inspect_attempts([one for one in attempts if one.delivery.step != Step.CREATE])
    settle_safely(stopped)
    return [*begun, *_begin_attempts(fresh)]


def _read_contents(taken: Iterable[Delivery]) -> tuple[list[SendAttempt], list[SendResult]]:
    """Those whose content could be read, and what came of those that Menudo broke over."""
    by_brand: dict[int, list[Delivery]] = {}
    for delivery in taken:
        by_brand.setdefault(delivery.brand_id, []).append(delivery)
    found: list[SendAttempt] = []
    broken: list[SendResult] = []
    for deliveries in by_brand.values():
        brand = deliveries[0].brand
        renderers = PostRenderer.for_posts(brand, {d.post_id: d.post for d in deliveries}.values())
        for d in deliveries:
            read, renderer = len(found), renderers[d.post_id]
            with delivery_boundary("send", d):
                found.append(SendAttempt(d, renderer, render_delivery(renderer, d, d.profile, brand)))
            if len(found) == read:
                broken.append(SendResult(d, _BROKEN, Content()))
    return found, broken


def _inspect_attempts(fresh: list[SendAttempt]) -> tuple[list[SendAttempt], list[SendResult]]:
    """Those that go through the wire, and those that can't; what was held or handed to a person is in neither."""
    pauses = pauses_of({one.delivery.brand_id for one in fresh}) if fresh else None
    go: list[SendAttempt] = []
    stopped: list[SendResult] = []
    for one in fresh:
        delivery, content = one.delivery, one.content
        response: NetworkResponse | None = _BROKEN
        with delivery_boundary("send", delivery):
            if pauses is None or hold_back(delivery, signoff_state(delivery, one.renderer), pauses, len(content.media)):
                continue
            one.assets = Assets.of(delivery, content)
            response = _blocking_response(one)
        if response is None:
            go.append(one)
        else:
            stopped.append(SendResult(delivery, response, content))
    return go, stopped


def _blocking_response(one: SendAttempt) -> NetworkResponse | None:
    """Why it can't go through the wire at all, by our own looking."""
    profile, content = one.delivery.profile, one.content
    if profile.connection is None:
        return NetworkResponse(Outcome.NOT_AUTHORISED)
    known = {a.pk: a.facts for a in one.assets.media(content)}
    found = findings_for(one.delivery.brand_id, profile.network, content, known, profile.followers)
    stops = [f for f in found if f.level is Level.STOPS]
    return NetworkResponse(Outcome.REFUSED, f"Menudo did not send it. {stops[0].message}") if stops else None


def _begin_attempts(fresh: list[SendAttempt]) -> list[SendAttempt]:
    """Note of all that have no files what is sent, in one statement; those whose lease was lost are left out. What has
    files notes it itself, when they are at the network."""
    plain = {one.delivery: sent_content_of(one.content) for one in fresh if not one.assets.by_id}
    mine = {delivery.pk for delivery in begin_sending(plain)}
    now = time.monotonic()
    for one in fresh:
        one.begun_at = now if one.delivery.pk in mine else 0.0
    return [one for one in fresh if one.delivery.pk in mine or one.delivery not in plain]


def run_attempt(one: SendAttempt) -> NetworkResponse | None:
    """What came of it; None: it was held back, or another worker has it. Doesn't raise."""
    delivery = one.delivery
    bound = structlog.contextvars.bound_contextvars(
        delivery=delivery.pk, profile=delivery.profile_id, tries=delivery.tries
    )
    with bound:
        try:
            with delivery_boundary("send", delivery):
                return _send_attempt(one)
            return _BROKEN
        except LeaseLostError:
            log.warning("delivery.lease_lost")
        except OperationalError:
            # The database is gone: its lease runs out, and then its network is asked.
            log.exception("delivery.failed")
    return None


def _send_attempt(one: SendAttempt) -> NetworkResponse | None:
    """Through the wire. Raises LeaseLostError."""
    delivery = one.delivery
    if delivery.step == Step.CREATE and not one.begun_at:
        there = _find_earlier(delivery)
        if there is not None:
            return there
        go, stopped = _inspect_attempts([one])
        if not go:
            return stopped[0].response if stopped else None
    connection = delivery.profile.connection
    if connection is None:
        return NetworkResponse(Outcome.NOT_AUTHORISED)
    return with_connection(connection, lambda adapter: _publish(adapter, one))


def _find_earlier(delivery: Delivery) -> NetworkResponse | None:
    """What the network says of what was begun; None: nothing is there. It is never held, or forgotten, while it may be out."""
    connection = delivery.profile.connection
    if connection is not None:
        response = with_connection(connection, lambda adapter: _earlier_outcome(adapter, delivery) or _MEDIA_MISSING)
        if response is not _MEDIA_MISSING:
            return response
        delivery.step, delivery.attempted_content = Step.NONE, None
    return None


def _earlier_outcome(adapter: Adapter, delivery: Delivery) -> NetworkResponse | None:
    """What an earlier try came to at the network. When that was isn't known, since it may have been given another time
    meanwhile; before its post was made it can't have been."""
    return find_by_key(adapter, delivery.profile, str(delivery.key), delivery.post.created_at)


def _publish(adapter: Adapter, one: SendAttempt) -> NetworkResponse:
    delivery, content = one.delivery, one.content
    # Within one try a token may be renewed and all of it done again: then what was begun is asked about here.
    if one.published:
        known = _earlier_outcome(adapter, delivery)
        if known is not None:
            return known
    sheet, destination = sheet_for(delivery.brand_id, delivery.profile.network), delivery.profile.remote_id
    try:
        post = build_outgoing(
            adapter, destination, content, one.assets, sheet, lambda: _renew_or_stop(delivery, Step.MEDIA)
        )
    except NotSentError as error:
        return error.response
    # It may have waited for a free line: never with a lease that another could have taken over meanwhile.
    if time.monotonic() - one.begun_at > settings.LEASE.total_seconds() / 4:
        _renew_or_stop(delivery, Step.CREATE, sent_content_of(content))
    log.info("delivery.sending")
    one.published = True
    return adapter.publish(destination, str(delivery.key), post)


def _renew_or_stop(delivery: Delivery, step: str, trying: SentContent | None = None) -> None:
    if not renew_lease(delivery, step, trying):
        raise LeaseLostError()
