"""Send what is due: looked at together, each through the wire by itself, and written down together."""

import contextlib
import threading
import time
from collections import deque
from datetime import timedelta
from functools import cache

from django.conf import settings

from menudo.base import clock
from menudo.delivery import attempt
from menudo.delivery.actions.claim import Lane, claim_due, first_due, is_anyone_sending
from menudo.delivery.actions.settle import SendResult, settle_safely
from menudo.delivery.attempt import SendAttempt
from menudo.delivery.sender_pool import SenderPool
from menudo.posts.actions.enqueue_delivery import enqueue_delivery
from menudo.posts.models import Delivery
from menudo_core.sending.decision import NetworkResponse
from menudo_core.signoff.states import DeliveryState

# Of a lease's time; a worker that is told to stop isn't kept by what goes on coming due.
SENDER_LOCK_SHARE = 0.25
_MAX_RUN_SECONDS = 0.25


def send_due(delivery_id: int | None = None) -> None:
    """Send all that is due, the oldest first, until nothing is left or others are at it. `delivery_id`: the delivery whose job asks;
    when that one went with others, or was taken off, nothing is looked for, unless somebody sends just now and may be
    helped."""
    _process_sender().request(delivery_id)


@cache
def _process_sender() -> "Sender":
    """The one of this process."""
    return Sender()


class Sender:
    """One thread of a process sends at a time; another that is asked meanwhile leaves it to that one, which looks again, and
    waits a little: it would only find nothing to do, and so would the next."""

    def __init__(self) -> None:
        self._at_it, self._over = threading.Lock(), threading.Event()
        # The ids of deliveries whose jobs asked since it was last looked for what is due; None: whatever is.
        self._asked: deque[int | None] = deque()

    def request(self, delivery_id: int | None) -> None:
        """Send, or have whoever is at it look again."""
        self._asked.append(delivery_id)
        while self._asked:
            if not self._at_it.acquire(blocking=False):
                self._over.wait(_MAX_RUN_SECONDS)
                return
            try:
                self._over.clear()
                if (
                    (is_still_due(self._take_requests()) or is_anyone_sending())
                    and not self.send_due()
                    and is_anyone_sending()
                ):
                    # Others have it all in hand: the jobs of what goes with theirs come thick and fast, and find nothing.
                    self._over.wait(_MAX_RUN_SECONDS)
            finally:
                self._at_it.release()
                self._over.set()

    def _take_requests(self) -> set[int | None]:
        """All that asked until now; who asks from here on finds the next look."""
        found: set[int | None] = set()
        with contextlib.suppress(IndexError):
            while True:
                found.add(self._asked.popleft())
        return found

    def send_due(self) -> int:
        """Send what is due. How often something was there to send."""
        pool: SenderPool[Lane, SendAttempt, NetworkResponse | None] = SenderPool(
            attempt.run_attempt, lambda one: one.lane
        )
        claims, look = 0, True
        until = time.monotonic() + settings.LEASE.total_seconds() * SENDER_LOCK_SHARE
        while True:
            # What hangs takes no room from the others.
            stuck = pool.stuck_lanes()
            room = settings.TOGETHER - pool.count_in_flight(without=stuck)
            # What takes long must be waited for anyway, and holds up nothing else meanwhile.
            its_turn = not claims or time.monotonic() < until or pool.has_items_from_before(until)
            taken = claim_due(limit=room, without=stuck) if look and room > 0 and its_turn else []
            claims += bool(taken)
            if taken:
                pool.put(attempt.prepare_attempts(taken))
            if not taken and not pool:
                break
            results = pool.results(_MAX_RUN_SECONDS)
            settle_safely([SendResult(one.delivery, response, one.content) for one, response in results if response])
            # While the last are on their way there is nothing new, unless a profile is free again or somebody asks.
            asked = self._take_requests()
            look = bool(taken or results or asked or pool.stuck_lanes() - stuck)
        # What is left was passed over, because somebody held its profile's row just then, or because others shall have their
        # turn. Its own job may have come and gone: it gets another. Whoever still sends looks again by itself.
        if time.monotonic() >= until or not is_anyone_sending():
            for left in first_due():
                enqueue_delivery(left, clock.now() + timedelta(seconds=_MAX_RUN_SECONDS))
        return claims


def is_still_due(asked: set[int | None]) -> bool:
    """Whether one of those that asked is still to go out by the wire, now or later."""
    ids = [delivery_id for delivery_id in asked if delivery_id is not None]
    states = [DeliveryState.PLANNED, DeliveryState.SENDING]
    return None in asked or Delivery.objects.filter(pk__in=ids, state__in=states).exists()
