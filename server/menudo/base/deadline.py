"""How long a thread may wait for others in all: a time limit of each read is none for what comes a byte at a time."""

import ssl
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import httpcore2

_waiting = threading.local()


@contextmanager
def deadline(seconds: float) -> Iterator[None]:
    """What this thread reads and writes by a TimedStream meanwhile takes so many seconds at most, in all. Raises httpcore2.ReadTimeout."""
    before = getattr(_waiting, "ends", None)
    _waiting.ends = time.monotonic() + seconds
    try:
        yield
    finally:
        _waiting.ends = before


def _left(timeout: float | None) -> float | None:
    ends = getattr(_waiting, "ends", None)
    if ends is None:
        return timeout
    left = float(ends - time.monotonic())
    if left <= 0:
        raise httpcore2.ReadTimeout
    return left if timeout is None else min(left, timeout)


class TimedStream(httpcore2.NetworkStream):
    """A connection that keeps to the deadline of whichever thread uses it."""

    def __init__(self, inner: httpcore2.NetworkStream) -> None:
        self._inner = inner

    def read(self, max_bytes: int, timeout: float | None = None) -> bytes:
        return self._inner.read(max_bytes, _left(timeout))

    def write(self, buffer: bytes, timeout: float | None = None) -> None:
        self._inner.write(buffer, _left(timeout))

    def close(self) -> None:
        self._inner.close()

    def start_tls(
        self, ssl_context: ssl.SSLContext, server_hostname: str | None = None, timeout: float | None = None
    ) -> httpcore2.NetworkStream:
        return TimedStream(self._inner.start_tls(ssl_context, server_hostname, _left(timeout)))

    def get_extra_info(self, info: str) -> Any:
        return self._inner.get_extra_info(info)
