"""The lines to the networks: what was claimed goes out side by side, each network in a lane of its own, so that one that
hangs holds up only itself."""

import queue
import threading
import time
from collections import deque
from collections.abc import Callable, Hashable, Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from functools import cache
from typing import Generic, TypeVar

from django.conf import settings
from django.db import connections

L = TypeVar("L", bound=Hashable)
T = TypeVar("T")
R = TypeVar("R")
# Answers that come within this are written down together; seconds.
_TOGETHER_SECONDS = 0.05
# Where fewer than this come in that time, a network is what is slow, and its lane gets more lines.
_FEW = 3
# A lane all of whose lines are busy, and from which nothing has come for so long, is stuck; seconds.
_STUCK_SECONDS = 1.0
# So many lanes may have all their lines at once.
_MAX_LANES = 8


@dataclass(eq=False)
class _Lane(Generic[T]):
    """What is to go to one network. `lines`: threads at it; `wanted`: how many there may be by now; `under_way`: how many
    items haven't come back; `came_at`: when the last did, or the first was put (monotonic seconds)."""

    todo: deque[T] = field(default_factory=deque)
    lines: int = 0
    wanted: int = 1
    under_way: int = 0
    came_at: float = 0.0


class SenderPool(Generic[L, T, R]):
    """Items on their way. In each lane threads take them one after another: one while its network answers at once, since more
    would only be in one another's way; up to MENUDO_LINES while it doesn't. With none of them the caller acts itself.
    Items are hashable, each once; what is done with one must not raise.
    """

    def __init__(self, act: Callable[[T], R], lane_of: Callable[[T], L]) -> None:
        self._act, self._lane_of = act, lane_of
        self._lanes: dict[L, _Lane[T]] = {}
        self._done: queue.SimpleQueue[tuple[T, R]] = queue.SimpleQueue()
        # When each item that is under way was put (monotonic seconds).
        self._put_at: dict[T, float] = {}
        self._lock = threading.Lock()

    def __len__(self) -> int:
        return sum(lane.under_way for lane in self._lanes.values())

    def stuck_lanes(self) -> set[L]:
        """The lanes that take nothing more until something comes back from them."""
        now = time.monotonic()
        return {
            name
            for name, lane in self._lanes.items()
            if lane.under_way >= max(settings.LINES, 1) and now - lane.came_at > _STUCK_SECONDS
        }

    def has_items_from_before(self, at: float) -> bool:
        """Whether something is under way still that was put before (monotonic seconds)."""
        return any(put_at < at for put_at in self._put_at.values())

    def count_in_flight(self, without: Iterable[L]) -> int:
        """How many are under way in other lanes than these."""
        left_out = set(without)
        return sum(lane.under_way for name, lane in self._lanes.items() if name not in left_out)

    def put(self, items: Iterable[T]) -> None:
        """Set out with them."""
        now = time.monotonic()
        with self._lock:
            for item in items:
                lane = self._lanes.setdefault(self._lane_of(item), _Lane())
                if not lane.under_way:
                    lane.came_at = now
                self._put_at[item] = now
                lane.todo.append(item)
                lane.under_way += 1
            self._open_lines()
        if not settings.LINES:
            for lane in self._lanes.values():
                lane.lines = 1
                self._run(lane)

    def results(self, most: float) -> list[tuple[T, R]]:
        """What has come back by now, waiting `most` seconds for the first; those that come close together at once."""
        found: list[tuple[T, R]] = []
        until = time.monotonic() + most
        counts: dict[L, int] = {}
        while self:
            try:
                item, result = self._done.get(timeout=max(until - time.monotonic(), 0))
            except queue.Empty:
                break
            del self._put_at[item]
            name = self._lane_of(item)
            self._lanes[name].under_way -= 1
            self._lanes[name].came_at = time.monotonic()
            counts[name] = counts.get(name, 0) + 1
            if not found:
                until = time.monotonic() + _TOGETHER_SECONDS
            found.append((item, result))
        with self._lock:
            for name, lane in self._lanes.items():
                if lane.under_way and counts.get(name, 0) < _FEW:
                    lane.wanted = min(lane.wanted * 2, settings.LINES)
            self._open_lines()
        return found

    def _open_lines(self) -> None:
        for lane in self._lanes.values():
            # Those open already may be busy for long: each thing to do may need one more.
            for _ in range(min(min(lane.wanted, settings.LINES) - lane.lines, len(lane.todo))):
                lane.lines += 1
                _threads().submit(self._line, lane)

    def _line(self, lane: _Lane[T]) -> None:
        try:
            self._run(lane)
        finally:
            # A line asks the database rarely; what it used goes back to the pool.
            connections.close_all()

    def _run(self, lane: _Lane[T]) -> None:
        while True:
            with self._lock:
                if not lane.todo:
                    lane.lines -= 1
                    return
                item = lane.todo.popleft()
            self._done.put((item, self._act(item)))


@cache
def _threads() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(settings.LINES * _MAX_LANES, "line")
