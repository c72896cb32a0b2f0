"""The one client for all that goes to networks: bounded, without cookies, connections kept by the name of the host.

What a network answers is read as far as the limit and unpacked no further. Cookies are never kept: what one brand's sign-in
was given is never shown with another's. Sites that people name are reached by the guarded way: see base/fetch.py.
"""

import socket
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from email.utils import parsedate_to_datetime
from functools import cache
from typing import Any

import httpx2
from django.conf import settings

from menudo.base import clock
from menudo.base.deadline import response_deadline, timed_transport
from menudo.base.fetch import FetchError, GuardedTransport, no_cookies, read_body
from menudo.base.numbers import parse_whole_number
from menudo.base.places import leave_place
from menudo.base.web_addresses import absolute_address
from menudo_core.sending.decision import NetworkResponse, Outcome

# What a network tells of itself, of posts and results fits; bytes.
MAX_RESPONSE_BYTES = 4_000_000
_SUCCESS_STATUSES = frozenset({200, 201, 202, 204})
# What was read of a file has gone out, but for a megabyte at most (the system doubles this): a lease that is renewed by what
# is read is renewed by what really flows.
_SOCKET = [(socket.SOL_SOCKET, socket.SO_SNDBUF, 524_288)]


class BoundedTransport(httpx2.BaseTransport):
    """For clients of other packages: an answer isn't taken packed, and breaks off beyond the limit."""

    def __init__(self, inner: httpx2.BaseTransport) -> None:
        self._inner = inner

    def handle_request(self, request: httpx2.Request) -> httpx2.Response:
        request.headers["Accept-Encoding"] = "identity"
        with response_deadline(settings.FETCH_SECONDS):
            response = self._inner.handle_request(request)
            try:
                if response.headers.get("Content-Encoding", "identity").strip().lower() != "identity":
                    raise FetchError("The answer came packed in a way that wasn't asked for.")
                body = read_body(response, MAX_RESPONSE_BYTES, settings.FETCH_SECONDS)
            finally:
                response.close()
        return httpx2.Response(response.status_code, headers=response.headers, content=body)

    def close(self) -> None:
        self._inner.close()


def transport_for(guarded: bool, socket_options: list[tuple[int, int, int]] | None = None) -> httpx2.BaseTransport:
    """`guarded`: for a site that somebody named."""
    return GuardedTransport(socket_options) if guarded else timed_transport(socket_options=socket_options)


def client_for(endpoints: dict[str, str]) -> httpx2.Client:
    """The client for a network's endpoints: the guarded one for a site that somebody named."""
    return _client(bool(endpoints.get("site")), settings.WIRE_TIMEOUT)


@cache
def _client(guarded: bool, timeout: float) -> httpx2.Client:
    """Kept for the process, so that connections are used again."""
    return httpx2.Client(
        transport=transport_for(guarded, _SOCKET),
        timeout=timeout,
        follow_redirects=False,
        trust_env=False,
        cookies=no_cookies(),
        headers={"Accept-Encoding": "identity"},
    )


def request(client: httpx2.Client, method: str, url: str, **more: Any) -> httpx2.Response:
    """Ask, and read the answer within bounds. Raises httpx2.HTTPError, FetchError."""
    leave_place()
    with response_deadline(settings.FETCH_SECONDS), client.stream(method, url, **more) as response:
        # Most answers to a post are empty: there is nothing to bound.
        if response.headers.get("Content-Length") == "0":
            response.read()
            return response
        body = read_body(response, MAX_RESPONSE_BYTES, settings.FETCH_SECONDS)
        kept = [(name, value) for name, value in response.headers.multi_items() if name not in _HOP_HEADERS]
        return httpx2.Response(response.status_code, headers=kept, content=body, request=response.request)


# What was true of the body as it came, and isn't of what was read.
_HOP_HEADERS = frozenset({"content-encoding", "content-length", "transfer-encoding"})


def read_json(response: httpx2.Response) -> Any:
    """The answer as JSON. Raises ValueError, also for what is nested too deep to be read."""
    try:
        return response.json()
    except RecursionError as error:
        raise ValueError("nested too deep") from error


def request_outcome(
    client: httpx2.Client, method: str, url: str, **more: Any
) -> tuple[NetworkResponse, httpx2.Response | None]:
    """Ask, and say what came of it; the whole answer where there was one."""
    try:
        response = request(client, method, url, **more)
    except (httpx2.HTTPError, httpx2.InvalidURL, FetchError) as error:
        return NetworkResponse(Outcome.DOWN, _failure_message(error)), None
    return read_response(response), response


def created_response(response: NetworkResponse, endpoint: str, shown: str = "") -> NetworkResponse:
    """What was made is where Location says (Micropub, 3.4 and 3.6; RFC 5023, 9.2), and people read it at `shown`, if that is said. Where
    neither names an address of the web nobody knows that it was made."""
    if response.outcome is not Outcome.DONE:
        return response
    url = absolute_address(endpoint, shown) or absolute_address(endpoint, response.url)
    return replace(response, url=url) if url else NetworkResponse(Outcome.DOWN, "it didn't say where it put it")


def read_response(response: httpx2.Response) -> NetworkResponse:
    """What an HTTP answer means (RFC 9110; 429 and Retry-After as in RFC 6585, 4)."""
    status = response.status_code
    if status in _SUCCESS_STATUSES:
        return NetworkResponse(Outcome.DONE, url=response.headers.get("Location", ""))
    words = _network_message(response)
    if status == 401:
        return NetworkResponse(Outcome.NOT_AUTHORISED, words)
    if status == 429 or (status == 503 and "Retry-After" in response.headers):
        return NetworkResponse(Outcome.TOO_MANY, words, retry_at=_retry_at(response.headers.get("Retry-After")))
    if status >= 500 or status in (408, 409, 425):
        return NetworkResponse(Outcome.DOWN, words)
    return NetworkResponse(Outcome.REFUSED, words)


def _network_message(response: httpx2.Response) -> str:
    """Why, in the network's own words: problem details (RFC 9457), OAuth's, else the status."""
    try:
        body = read_json(response)
    except ValueError:
        body = {}
    if isinstance(body, dict):
        for name in ("detail", "error_description", "title", "error"):
            if isinstance(body.get(name), str) and body[name]:
                return str(body[name])[:400]
    return f"it answered {response.status_code}"


def _retry_at(header: str | None) -> datetime | None:
    if not header:
        return None
    seconds = parse_whole_number(header, 86_400)
    if seconds is not None:
        return clock.now() + timedelta(seconds=seconds)
    try:
        at = parsedate_to_datetime(header)
    except (ValueError, OverflowError):
        return None
    return at if at.tzinfo else at.replace(tzinfo=UTC)


def _failure_message(error: Exception) -> str:
    if isinstance(error, FetchError):
        return str(error)
    if isinstance(error, httpx2.TimeoutException):
        return "it took too long to answer"
    if isinstance(error, httpx2.ConnectError):
        return "there is no way through to it"
    return "the connection broke off"
