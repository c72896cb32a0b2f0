"""How many requests a web process works on at once. Beyond that they wait in the order in which they came, but for those that nobody waits
for: threads that all work a little hold each other up, and what each needs of the database isn't there for all."""

import asyncio
import re
import time
from collections.abc import Awaitable, Callable
from functools import partial

from django.conf import settings
from django.http import HttpRequest, HttpResponseBase

from menudo.base.metrics import BUSY, WAITED_SECONDS
from menudo.base.places import Place, PrioritySemaphore, current_place
from menudo.base.problems import busy_response

# What watchers ask is answered at once, however much is asked beside it.
_WATCHED = frozenset({"/health", "/metrics"})
# RFC 9218, 4.1: of 0 to 7, 3 where nothing is said; the larger, the less urgent.
_URGENCY = re.compile(r"(?:^|[\s,])u=([0-7])(?=$|[\s,;])")
_USUAL_URGENCY = 3
# So long who is less urgent lets others go before.
_PATIENCE_SECONDS = 5.0


class Admission:
    """The places of a process, given to one request after another. One that found none in time is told to come again (503, RFC 9110, 15.6.4)."""

    def __init__(self, answer: Callable[[HttpRequest], Awaitable[HttpResponseBase]]) -> None:
        self._answer = answer
        self._places = PrioritySemaphore(settings.REQUESTS_AT_ONCE)

    async def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if request.path in _WATCHED:
            return await self._answer(request)
        begun = time.perf_counter()
        try:
            async with asyncio.timeout(settings.REQUEST_WAIT_SECONDS):
                await self._places.acquire(_patience(request))
        except TimeoutError:
            BUSY.inc()
            return busy_response()
        finally:
            WAITED_SECONDS.observe(time.perf_counter() - begun)
        loop = asyncio.get_running_loop()
        place = Place(partial(loop.call_soon_threadsafe, self._places.release))
        # One that takes long, or waits for what another has locked, doesn't keep everyone else waiting.
        leaving = loop.call_later(settings.REQUEST_PLACE_SECONDS, place.leave)
        token = current_place.set(place)
        try:
            return await self._answer(request)
        finally:
            leaving.cancel()
            place.leave()
            current_place.reset(token)


def _patience(request: HttpRequest) -> float:
    said = _URGENCY.search(request.headers.get("Priority", ""))
    return _PATIENCE_SECONDS if said and int(said[1]) > _USUAL_URGENCY else 0.0
