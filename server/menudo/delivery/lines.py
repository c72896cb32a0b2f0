"""The lines to the networks: what was claimed goes out side by side, so that a slow network holds up only its own."""

import queue
import threading
import time
from collections import deque
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from typing import Generic, TypeVar

from django.conf import settings
from django.db import connections

T = TypeVar("T")
R = TypeVar("R")
# Answers that come within this are written down together; seconds.
_TOGETHER = 0.05
# Where fewer than this come in that time, the networks are what is slow, and more lines are opened.
_FEW = 3


class Lines(Generic[T, R]):
    """Items on their way. Threads of the process take them one after another: one while the networks answer at once, since
    more would only be in one another's way; up to MENUDO_LINES while they don't. With none of them the caller acts itself.
    What is done with an item must not raise.
    """

    def __init__(self, act: Callable[[T], R]) -> None:
        self._act = act
        self._todo: deque[T] = deque()
        self._done: queue.SimpleQueue[tuple[T, R]] = queue.SimpleQueue()
        self._lock = threading.Lock()
        self._open, self._wanted, self._under_way = 0, 1, 0

    def __len__(self) -> int:
        return self._under_way

    def put(self, items: Iterable[T]) -> None:
        """Set out with them."""
        with self._lock:
            before = len(self._todo)
            self._todo.extend(items)
            self._under_way += len(self._todo) - before
            self._open_more()
        if not settings.LINES:
            self._open = 1
            self._run()

    def came(self, most: float) -> list[tuple[T, R]]:
        """What has come back by now, waiting `most` seconds for the first; those that come close together at once."""
        found: list[tuple[T, R]] = []
        until = time.monotonic() + most
        while self._under_way:
            try:
                one = self._done.get(timeout=max(until - time.monotonic(), 0))
            except queue.Empty:
                break
            self._under_way -= 1
            if not found:
                until = time.monotonic() + _TOGETHER
            found.append(one)
        if self._under_way and len(found) < _FEW:
            with self._lock:
                self._wanted = min(self._wanted * 2, settings.LINES)
                self._open_more()
        return found

    def _open_more(self) -> None:
        # Those open already may be busy for long: each thing to do may need one more.
        more = min(min(self._wanted, settings.LINES) - self._open, len(self._todo))
        for _ in range(more):
            self._open += 1
            _threads().submit(self._line)

    def _line(self) -> None:
        try:
            self._run()
        finally:
            # A line asks the database rarely; what it used goes back to the pool.
            connections.close_all()

    def _run(self) -> None:
        while True:
            with self._lock:
                if not self._todo:
                    self._open -= 1
                    return
                item = self._todo.popleft()
            self._done.put((item, self._act(item)))


@cache
def _threads() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(settings.LINES, "line")
