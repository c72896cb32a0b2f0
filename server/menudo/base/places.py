"""A place among the requests that a web process works on (see `admission.py`), and leaving it early."""

from collections.abc import Callable
from contextvars import ContextVar


class Place:
    """Left once, from whatever thread; `free` lets another request have it."""

    def __init__(self, free: Callable[[], object]) -> None:
        self._free, self._left = free, False

    def leave(self) -> None:
        if not self._left:
            self._left = True
            self._free()


current_place: ContextVar[Place | None] = ContextVar("current_place", default=None)


def leave_place() -> None:
    """The present request waits for something outside of this process: another may begin. It doesn't wait again when it goes on."""
    if place := current_place.get():
        place.leave()
