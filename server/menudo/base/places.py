"""A place among the requests that a web process works on (see `admission.py`), the queue for one, and leaving it early."""

import asyncio
import heapq
import itertools
import threading
import time
from collections.abc import Callable
from contextvars import ContextVar


class Place:
    """Left once, from whatever thread, and by several at once; `free` lets another request have it."""

    def __init__(self, free: Callable[[], object]) -> None:
        self._free, self._held = free, threading.Lock()
        self._held.acquire()

    def leave(self) -> None:
        # Whoever finds it free no more has come second: that is said in one step, as two threads may ask at one moment.
        try:
            self._held.release()
        except RuntimeError:
            return
        self._free()


class PrioritySemaphore:
    """So many places, and before them a queue of those who wait, by when each must begin. In one event loop."""

    def __init__(self, places: int) -> None:
        self._free = places
        self._waiting: list[tuple[float, int, asyncio.Future[None]]] = []
        self._numbers = itertools.count()

    async def acquire(self, patience: float) -> None:
        """Wait for a place. Who has `patience` (seconds) lets those go before who come less than so long after and have none."""
        if self._free:
            self._free -= 1
            return
        turn = asyncio.get_running_loop().create_future()
        heapq.heappush(self._waiting, (time.monotonic() + patience, next(self._numbers), turn))
        try:
            await turn
        except asyncio.CancelledError:
            # The place came as who waited for it went away.
            if turn.done() and not turn.cancelled():
                self.release()
            raise

    def release(self) -> None:
        while self._waiting:
            *_, turn = heapq.heappop(self._waiting)
            if not turn.done():
                turn.set_result(None)
                return
        self._free += 1


current_place: ContextVar[Place | None] = ContextVar("current_place", default=None)


def leave_place() -> None:
    """The present request waits for something outside of this process: another may begin. It doesn't wait again when it goes on."""
    if place := current_place.get():
        place.leave()
