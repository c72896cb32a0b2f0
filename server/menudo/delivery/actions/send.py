"""Send what is due: looked at together, each through the wire by itself, and written down together.

Never blind: what may have gone out in an earlier try is asked about first.
"""

import contextlib
import threading
import time
from collections import deque
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Any

import structlog
from django.conf import settings
from django.db import OperationalError

from menudo.base import clock
from menudo.delivery.actions.claim import LeaseLost, anyone_sends, begin, claim, first_due, still_mine
from menudo.delivery.actions.set_aside import set_aside
from menudo.delivery.actions.settle import Came, store_sent_content, write_down
from menudo.delivery.actions.sweep import over_delivery
from menudo.delivery.lines import Lines
from menudo.delivery.outgoing import Assets, NotSent, outgoing
from menudo.delivery.with_connection import find_by_key, with_connection
from menudo.networks.protocol import Adapter
from menudo.posts.actions.due import put_job
from menudo.posts.checking import findings_of
from menudo.posts.models import Delivery
from menudo.posts.rendering import PostRenderer, render_delivery
from menudo.posts.signing import signoff_state
from menudo.profiles.sheets import sheet_for
from menudo.profiles.standing import pauses_of
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Level
from menudo_core.sending.decide import NetworkResponse, Outcome
from menudo_core.signoff.states import DeliveryState

log = structlog.get_logger(__name__)
# Of a lease's time; a worker that is told to stop isn't kept by what goes on coming due.
_ITS_TURN = 0.25
# Seconds.
_A_WHILE = 0.25
_at_it, _over = threading.Lock(), threading.Event()
# The ids of deliveries whose jobs asked since it was last looked for what is due; None: whatever is.
_asked: deque[int | None] = deque()
_NOT_THERE = NetworkResponse(Outcome.REFUSED, "it is not there")
_BROKEN = NetworkResponse(Outcome.BROKEN)
Step = Delivery.Step


@dataclass(slots=True, eq=False)
class _Going:
    """One claimed delivery on its way. One reading of the wording: what is looked at for sign-off is what goes out.

    `begun_at`: when its lease was last renewed for creating, by the process's own clock (seconds). `created`: the network
    was asked to create it in this try.
    """

    delivery: Delivery
    renderer: PostRenderer
    content: Content
    assets: Assets = field(default_factory=lambda: Assets({}))
    begun_at: float = 0.0
    created: bool = False


def send(id: int | None = None) -> None:
    """Send all that is due, the oldest first, until nothing is left or others are at it. `id`: the delivery whose job asks;
    when that one went with others, or was taken off, nothing is looked for, unless somebody sends just now and may be helped.

    One thread of a process is at it at a time; another that is asked meanwhile leaves it to that one, which looks again,
    and waits a little: it would only find nothing to do, and so would the next.
    """
    _asked.append(id)
    while _asked:
        if not _at_it.acquire(blocking=False):
            _over.wait(_A_WHILE)
            return
        try:
            _over.clear()
            if (_stands(_who_asked()) or anyone_sends()) and not _send() and anyone_sends():
                # Others have it all in hand: the jobs of what goes with theirs come thick and fast, and find nothing.
                _over.wait(_A_WHILE)
        finally:
            _at_it.release()
            _over.set()


def _who_asked() -> set[int | None]:
    """All that asked until now; who asks from here on finds the next look."""
    found: set[int | None] = set()
    with contextlib.suppress(IndexError):
        while True:
            found.add(_asked.popleft())
    return found


def _stands(asked: set[int | None]) -> bool:
    """Whether one of those that asked is still to go out by the wire, now or later."""
    ids = [id for id in asked if id is not None]
    states = [DeliveryState.PLANNED, DeliveryState.SENDING]
    return None in asked or Delivery.objects.filter(pk__in=ids, state__in=states).exists()


def _send() -> int:
    """How often something was there to send."""
    lines: Lines[_Going, NetworkResponse | None] = Lines(_line)
    claims, look = 0, True
    until = time.monotonic() + settings.LEASE.total_seconds() * _ITS_TURN
    while True:
        room = settings.TOGETHER - len(lines)
        its_turn = not claims or time.monotonic() < until
        taken = claim(most=room) if look and room > 0 and its_turn else []
        claims += bool(taken)
        if taken:
            lines.put(_ready(taken))
        if not taken and not lines:
            break
        came = lines.came(_A_WHILE)
        write_down([Came(one.delivery, answer, one.content) for one, answer in came if answer is not None])
        # While the last are on their way there is nothing new, unless a profile is free again or somebody asks.
        asked = _who_asked()
        look = bool(taken or came or asked)
    # What is left was passed over, because somebody held its profile's row just then, or because others shall have their
    # turn. Its own job may have come and gone: it gets another. Whoever still sends looks again by itself.
    if time.monotonic() >= until or not anyone_sends():
        for left in first_due():
            put_job(left, clock.now() + timedelta(seconds=_A_WHILE))
    return claims


def _ready(taken: list[Delivery]) -> list[_Going]:
    """Those that go out through a line; what was held, handed over or stopped by our own looking is written down."""
    going, broken = _read(taken)
    write_down(broken)
    # What was begun before may be out: its network is asked before anything else is decided about it, in its line.
    begun = [one for one in going if one.delivery.step == Step.CREATE]
    fresh, stopped = _looked_at([one for one in going if one.delivery.step != Step.CREATE])
    write_down(stopped)
    return [*begun, *_begun(fresh)]


def _read(taken: Iterable[Delivery]) -> tuple[list[_Going], list[Came]]:
    """Those whose wording could be read, and what came of those that Menudo broke over."""
    by_brand: dict[int, list[Delivery]] = {}
    for delivery in taken:
        by_brand.setdefault(delivery.brand_id, []).append(delivery)
    found: list[_Going] = []
    broken: list[Came] = []
    for deliveries in by_brand.values():
        brand = deliveries[0].brand
        renderers = PostRenderer.of_all(brand, {d.post_id: d.post for d in deliveries}.values())
        for d in deliveries:
            read = len(found)
            with over_delivery("send", d):
                found.append(
                    _Going(d, renderers[d.post_id], render_delivery(renderers[d.post_id], d, d.profile, brand))
                )
            if len(found) == read:
                broken.append(Came(d, _BROKEN, Content()))
    return found, broken


def _looked_at(fresh: list[_Going]) -> tuple[list[_Going], list[Came]]:
    """Those that go through the wire, and those that can't; what was held or handed to a person is in neither."""
    pauses = pauses_of({one.delivery.brand_id for one in fresh}) if fresh else None
    go: list[_Going] = []
    stopped: list[Came] = []
    for one in fresh:
        delivery, content = one.delivery, one.content
        answer: NetworkResponse | None = _BROKEN
        with over_delivery("send", delivery):
            if pauses is None or set_aside(delivery, signoff_state(delivery, one.renderer), pauses, len(content.media)):
                continue
            one.assets = Assets.of(delivery, content)
            answer = _stopped(one)
        if answer is None:
            go.append(one)
        else:
            stopped.append(Came(delivery, answer, content))
    return go, stopped


def _stopped(one: _Going) -> NetworkResponse | None:
    """Why it can't go through the wire at all, by our own looking."""
    profile, content = one.delivery.profile, one.content
    if profile.connection is None:
        return NetworkResponse(Outcome.NOT_AUTHORISED)
    known = {a.pk: a.facts for a in one.assets.media(content)}
    found = findings_of(one.delivery.brand_id, profile.network, content, known, profile.followers)
    stops = [f for f in found if f.level is Level.STOPS]
    return NetworkResponse(Outcome.REFUSED, f"Menudo did not send it. {stops[0].words}") if stops else None


def _begun(fresh: list[_Going]) -> list[_Going]:
    """Note of all that have no files what is sent, in one statement; those whose lease was lost are left out. What has
    files notes it itself, when they are at the network."""
    plain = {one.delivery: store_sent_content(one.content) for one in fresh if not one.assets.by_id}
    mine = {delivery.pk for delivery in begin(plain)}
    now = time.monotonic()
    for one in fresh:
        one.begun_at = now if one.delivery.pk in mine else 0.0
    return [one for one in fresh if one.delivery.pk in mine or one.delivery not in plain]


def _line(one: _Going) -> NetworkResponse | None:
    """What came of it; None: it was set aside, or another worker has it."""
    delivery = one.delivery
    bound = structlog.contextvars.bound_contextvars(
        delivery=delivery.pk, profile=delivery.profile_id, tries=delivery.tries
    )
    with bound:
        try:
            with over_delivery("send", delivery):
                return _sent(one)
            return _BROKEN
        except LeaseLost:
            log.warning("lease_lost")
        except OperationalError:
            # The database is gone: its lease runs out, and then its network is asked.
            log.exception("delivery.broke_off")
    return None


def _sent(one: _Going) -> NetworkResponse | None:
    """Through the wire. Raises LeaseLost."""
    delivery = one.delivery
    if delivery.step == Step.CREATE and not one.begun_at:
        there = _asked_first(delivery)
        if there is not None:
            return there
        go, stopped = _looked_at([one])
        if not go:
            return stopped[0].answer if stopped else None
    connection = delivery.profile.connection
    if connection is None:
        return NetworkResponse(Outcome.NOT_AUTHORISED)
    return with_connection(connection, lambda adapter: _create(adapter, one))


def _asked_first(delivery: Delivery) -> NetworkResponse | None:
    """What the network says of what was begun; None: nothing is there. It is never held, or forgotten, while it may be out."""
    connection = delivery.profile.connection
    if connection is not None:
        answer = with_connection(connection, lambda adapter: _found(adapter, delivery) or _NOT_THERE)
        if answer is not _NOT_THERE:
            return answer
        delivery.step, delivery.trying = Step.NONE, None
    return None


def _found(adapter: Adapter, delivery: Delivery) -> NetworkResponse | None:
    """What an earlier try came to at the network: it can't have been before it was due."""
    return find_by_key(adapter, delivery.profile, str(delivery.key), delivery.due_at or clock.now())


def _create(adapter: Adapter, one: _Going) -> NetworkResponse:
    delivery, content = one.delivery, one.content
    # Within one try a token may be renewed and all of it done again: then what was begun is asked about here.
    if one.created:
        known = _found(adapter, delivery)
        if known is not None:
            return known
    sheet, place = sheet_for(delivery.brand_id, delivery.profile.network), delivery.profile.remote_id
    try:
        post = outgoing(adapter, place, content, one.assets, sheet, lambda: _hold_on(delivery, Step.MEDIA))
    except NotSent as error:
        return error.answer
    # It may have waited for a free line: never with a lease that another could have taken over meanwhile.
    if time.monotonic() - one.begun_at > settings.LEASE.total_seconds() / 4:
        _hold_on(delivery, Step.CREATE, store_sent_content(content))
    log.info("creating")
    one.created = True
    return adapter.publish(place, str(delivery.key), post)


def _hold_on(delivery: Delivery, step: str, trying: dict[str, Any] | None = None) -> None:
    if not still_mine(delivery, step, trying):
        raise LeaseLost()
