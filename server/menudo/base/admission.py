"""How many requests a web process works on at once. Beyond that they wait in the order in which they came: threads that all work a little
hold each other up, and what each needs of the database isn't there for all."""

import asyncio
import time
from collections.abc import Callable
from functools import partial
from typing import Any

from asgiref.sync import iscoroutinefunction
from django.conf import settings
from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import sync_and_async_middleware

from menudo.base.metrics import BUSY, WAITED_SECONDS
from menudo.base.places import Place, current_place
from menudo.base.problems import problem_response

_RETRY_SECONDS = 2
# What watchers ask is answered at once, however much is asked beside it.
_WATCHED = frozenset({"/health", "/metrics"})


@sync_and_async_middleware
def limit_concurrency(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """A request that found no place in time is told to come again (503, RFC 9110, 15.6.4)."""
    if not iscoroutinefunction(get_response):
        return get_response
    places = asyncio.Semaphore(settings.REQUESTS_AT_ONCE)

    async def admit(request: HttpRequest) -> HttpResponseBase:
        if request.path in _WATCHED:
            return await get_response(request)  # type: ignore[no-any-return]
        begun = time.perf_counter()
        try:
            async with asyncio.timeout(settings.REQUEST_WAIT_SECONDS):
                await places.acquire()
        except TimeoutError:
            BUSY.inc()
            busy = problem_response(503, "busy", "Menudo has much to do just now. Try again in a moment.", "")
            busy["Retry-After"], busy["Cache-Control"] = str(_RETRY_SECONDS), "no-store"
            return busy
        finally:
            WAITED_SECONDS.observe(time.perf_counter() - begun)
        loop = asyncio.get_running_loop()
        place = Place(partial(loop.call_soon_threadsafe, places.release))
        # One that takes long, or waits for what another has locked, doesn't keep everyone else waiting.
        leaving = loop.call_later(settings.REQUEST_PLACE_SECONDS, place.leave)
        token = current_place.set(place)
        try:
            return await get_response(request)  # type: ignore[no-any-return]
        finally:
            leaving.cancel()
            place.leave()
            current_place.reset(token)

    return admit
