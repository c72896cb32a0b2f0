"""How long a thread may wait for others in all: a time limit of each read is none for what comes a byte at a time."""

import ssl
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import httpcore2
import httpx2

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


@contextmanager
def response_deadline(seconds: float) -> Iterator[None]:
    """What this thread asks by a TimedStream meanwhile is answered in so many seconds, or in the time of one read where that is longer,
    counted from when the request has gone out: a large file may take its time. Raises httpcore2.ReadTimeout."""
    before = getattr(_waiting, "response_seconds", None)
    _waiting.response_seconds = seconds
    try:
        yield
    finally:
        _waiting.response_seconds = before


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
        # When the answer to what was written last must be there; None until the first of it is waited for.
        self._response_ends: float | None = None

    def read(self, max_bytes: int, timeout: float | None = None) -> bytes:
        return self._inner.read(max_bytes, self._left_for_response(_left(timeout)))

    def _left_for_response(self, timeout: float | None) -> float | None:
        seconds = getattr(_waiting, "response_seconds", None)
        if seconds is None or timeout is None:
            return timeout
        if self._response_ends is None:
            self._response_ends = time.monotonic() + max(seconds, timeout)
        left = self._response_ends - time.monotonic()
        if left <= 0:
            raise httpcore2.ReadTimeout
        return min(left, timeout)

    def write(self, buffer: bytes, timeout: float | None = None) -> None:
        self._response_ends = None
        self._inner.write(buffer, _left(timeout))

    def close(self) -> None:
        self._inner.close()

    def start_tls(
        self, ssl_context: ssl.SSLContext, server_hostname: str | None = None, timeout: float | None = None
    ) -> httpcore2.NetworkStream:
        return TimedStream(self._inner.start_tls(ssl_context, server_hostname, _left(timeout)))

    def get_extra_info(self, info: str) -> Any:
        return self._inner.get_extra_info(info)


class TimedBackend(httpcore2.SyncBackend):
    """Opens connections that keep to the deadline of whichever thread uses them."""

    def connect_tcp(self, host: str, port: int, *args: Any, **named: Any) -> httpcore2.NetworkStream:
        return TimedStream(super().connect_tcp(host, port, *args, **named))


def timed_transport(
    backend: TimedBackend | None = None, socket_options: list[tuple[int, int, int]] | None = None
) -> httpx2.HTTPTransport:
    """One that opens its connections by `backend`, keeps some of them for five seconds, and knows no proxy."""
    transport = httpx2.HTTPTransport(retries=0, trust_env=False)
    transport._pool = httpcore2.ConnectionPool(
        ssl_context=httpx2.create_ssl_context(trust_env=False),
        network_backend=backend or TimedBackend(),
        socket_options=socket_options,
        max_connections=100,
        max_keepalive_connections=20,
        keepalive_expiry=5.0,
    )
    return transport
