"""A place among the requests that a web process works on (see `admission.py`), and leaving it early."""

import threading
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


current_place: ContextVar[Place | None] = ContextVar("current_place", default=None)


def leave_place() -> None:
    """The present request waits for something outside of this process: another may begin. It doesn't wait again when it goes on."""
    if place := current_place.get():
        place.leave()
