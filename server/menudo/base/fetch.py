"""The one guarded way out to addresses that people name: feeds, pages, open sites (OWASP, server-side request forgery).

http and https only; every host is resolved here, every address it resolves to must be public, and the connection
goes to the address that was checked, so that a name can't answer twice. Redirects are followed by hand, each checked
the same; sizes and times are limited. The demo opens nothing but the stand-in's own address.
"""

import http.cookiejar
import ipaddress
import socket
import threading
import time
import zlib
from dataclasses import dataclass
from functools import cache
from typing import Any
from urllib.parse import urljoin

import httpcore2
import httpx2
from django.conf import settings

from menudo.base.deadline import TimedBackend, deadline, timed_transport
from menudo.base.numbers import parse_whole_number
from menudo.base.places import leave_place
from menudo.base.web_addresses import split_address

_REDIRECTS = 5
# The redirects that may be followed without asking (RFC 9110, 15.4).
_REDIRECT_STATUSES = frozenset({301, 302, 303, 307, 308})
_AGENT = "Menudo/0.1 (link reader)"


class FetchError(Exception):
    """The page can't be read; the text says why, for people. `status`: what the site answered, 0: nothing."""

    def __init__(self, words: str, status: int = 0, wait: str = "") -> None:
        self.status, self.wait = status, wait
        super().__init__(words)


@dataclass(frozen=True, slots=True)
class Page:
    """What was read: the address it came from after redirects, its type in lower case, and its bytes. `moved`: where the
    page says that it lives from now on (301, 308), empty when it doesn't. `unchanged`: it is as it was (304)."""

    address: str
    type: str
    body: bytes
    headers: httpx2.Headers
    moved: str = ""
    unchanged: bool = False

    @property
    def validators(self) -> tuple[str, str]:
        """ETag and Last-Modified, for the next conditional request; empty where they couldn't be sent back."""
        found = (self.headers.get(name, "") for name in ("ETag", "Last-Modified"))
        etag, modified = (one if one.isascii() and one.isprintable() and len(one) <= 300 else "" for one in found)
        return etag, modified

    @property
    def text(self) -> str:
        """The body as text, by the charset it says, else UTF-8."""
        charset = httpx2.Response(200, headers=self.headers).charset_encoding or "utf-8"
        try:
            return self.body.decode(charset, "replace")
        except LookupError:
            return self.body.decode("utf-8", "replace")


class _GuardedBackend(TimedBackend):
    """Connects to the very address that was judged. Connections are kept by the name of the host, so that two sites at one
    address never share one."""

    def __init__(self) -> None:
        super().__init__()
        # By thread, since a connection is opened by the thread whose request was judged: one look-up for both.
        self.judged = threading.local()

    def connect_tcp(self, host: str, port: int, *args: Any, **named: Any) -> httpcore2.NetworkStream:
        known: dict[tuple[str, int], str] = getattr(self.judged, "addresses", {})
        place = known.get((host, port)) or _resolve_public(host, port)
        return super().connect_tcp(place, port, *args, **named)


class GuardedTransport(httpx2.BaseTransport):
    """Resolves and judges the host of every request, and connects to an address that was judged."""

    def __init__(self, socket_options: list[tuple[int, int, int]] | None = None) -> None:
        self._backend = _GuardedBackend()
        self._inner = timed_transport(self._backend, socket_options)

    def handle_request(self, request: httpx2.Request) -> httpx2.Response:
        host = request.url.host
        if request.url.scheme not in ("http", "https"):
            raise FetchError("Only web addresses that begin with http:// or https:// can be read.")
        if request.url.userinfo:
            raise FetchError("An address with a password in it is not opened.")
        port = request.url.port or (443 if request.url.scheme == "https" else 80)
        leave_place()
        self._backend.judged.addresses = {(host, port): _resolve_public(host, port)}
        return self._inner.handle_request(request)

    def close(self) -> None:
        self._inner.close()


def no_cookies() -> http.cookiejar.CookieJar:
    """A jar that keeps none: what a site gave for one brand is never shown to it for another."""
    return http.cookiejar.CookieJar(http.cookiejar.DefaultCookiePolicy(allowed_domains=[]))


@cache
def guarded_client() -> httpx2.Client:
    """The client for addresses that people name. It doesn't follow redirects: see `fetch`."""
    return httpx2.Client(
        transport=GuardedTransport(),
        timeout=settings.FETCH_TIMEOUT,
        follow_redirects=False,
        trust_env=False,
        cookies=no_cookies(),
        headers={"User-Agent": _AGENT},
    )


# How each content coding is unpacked (RFC 9110, 8.4.1), by zlib's window; some servers pack whatever one asks.
_WINDOW = {"identity": 0, "gzip": 31, "x-gzip": 31, "deflate": 15}
_MAX_CONCURRENT = ("If-None-Match", "If-Modified-Since")


def fetch(
    address: str,
    accept: str = "text/html",
    max_bytes: int = 0,
    validators: tuple[str, str] = ("", ""),
    body: bool = True,
) -> Page:
    """GET an address that a person named. `max_bytes` bytes are read (0: the setting), none without `body`. `validators`: those of
    the page as it was read last, for a conditional request (RFC 9110, 13.1). Raises FetchError."""
    max_bytes, for_good, moved = max_bytes or settings.FETCH_MOST_BYTES, True, ""
    ends = time.monotonic() + settings.FETCH_SECONDS
    for _ in range(_REDIRECTS + 1):
        parts = split_address(address)
        if parts is None:
            raise FetchError("That is not a whole web address. Write it with https:// in front.")
        try:
            headers = {"Accept": accept, "Accept-Encoding": "identity"}
            headers |= {name: mark for name, mark in zip(_MAX_CONCURRENT, validators, strict=True) if mark}
            with (
                deadline(ends - time.monotonic()),
                guarded_client().stream("GET", address, headers=headers) as response,
            ):
                if response.status_code in _REDIRECT_STATUSES and response.headers.get("Location"):
                    address = _redirected(address, response.headers.get("Location", ""))
                    # Moved for good only as far as every step before was (RFC 9110, 15.4.2 and 15.4.9).
                    for_good = for_good and response.status_code in (301, 308)
                    moved = address if for_good else moved
                    continue
                status, wait = response.status_code, response.headers.get("Retry-After", "")
                unchanged = status == 304 and any(validators)
                # 304 answers a conditional request only, and 300 and 305 lead nowhere by themselves (RFC 9110, 15.4).
                if status >= 300 and not unchanged:
                    raise FetchError(f"{parts.hostname} answered {status} to that address.", status, wait)
                kind = response.headers.get("Content-Type", "").split(";")[0].strip().lower()
                if unchanged or not body:
                    return Page(address, kind, b"", response.headers, moved, unchanged)
                return Page(
                    address, kind, read_body(response, max_bytes, ends - time.monotonic()), response.headers, moved
                )
        except httpx2.TimeoutException as error:
            raise FetchError(f"{parts.hostname} took too long to answer.") from error
        except (httpx2.HTTPError, httpx2.InvalidURL, UnicodeError) as error:
            raise FetchError(f"There is no way through to {parts.hostname}.") from error
    raise FetchError("The address leads on and on to other addresses.")


def _redirected(address: str, location: str) -> str:
    try:
        return urljoin(address, location)
    except ValueError as error:
        raise FetchError("The address leads on to something that is no address.") from error


def read_body(response: httpx2.Response, max_bytes: int, seconds: float) -> bytes:
    """An answer's body, unpacked, as it streams in: `max_bytes` bytes in `seconds`. Raises FetchError beyond either."""
    ends = time.monotonic() + seconds
    if (parse_whole_number(response.headers.get("Content-Length", ""), max_bytes + 1) or 0) > max_bytes:
        raise FetchError("The page is too large to be read.")
    coding = response.headers.get("Content-Encoding", "").strip().lower() or "identity"
    if coding not in _WINDOW:
        raise FetchError("The page came packed in a way that wasn't asked for.")
    unpack = zlib.decompressobj(_WINDOW[coding]) if _WINDOW[coding] else None
    out, received = bytearray(), 0
    # As it arrives, so that a body that drips is seen to; what is unpacked stops at the limit, so that none can swell.
    for chunk in response.iter_raw():
        received += len(chunk)
        try:
            out += unpack.decompress(chunk, max_bytes + 1 - len(out)) if unpack else chunk
        except zlib.error as error:
            raise FetchError("The page came packed, and can't be unpacked.") from error
        if len(out) > max_bytes or received > max_bytes:
            raise FetchError("The page is too large to be read.")
        if time.monotonic() > ends:
            raise FetchError("The page took too long to arrive.")
    if unpack and not unpack.eof:
        raise FetchError("The page came packed, and only in part.")
    return bytes(out)


def _resolve_public(host: str, port: int) -> str:
    """An address of `host` that may be connected to. Raises FetchError when any that it resolves to is not public."""
    if f"{host}:{port}".lower() in settings.FETCH_ALLOWED:
        return host
    if settings.DEMO:
        raise FetchError("The demo opens only its own stand-in's addresses.")
    try:
        found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
    except (OSError, UnicodeError) as error:
        raise FetchError(f"There is no site named {host}.") from error
    addresses = [str(entry[4][0]).split("%")[0] for entry in found]
    for address in addresses:
        if not _is_public(address):
            raise FetchError(f"{host} is not on the public network.")
    if not addresses:
        raise FetchError(f"There is no site named {host}.")
    return addresses[0]


def _is_public(address: str) -> bool:
    ip = ipaddress.ip_address(address)
    if isinstance(ip, ipaddress.IPv6Address):
        # What hides an IPv4 address inside is judged by that one (RFC 4291, 2.5.5.2; RFC 6052; RFC 3056).
        inner = ip.ipv4_mapped or ip.sixtofour or (ip.teredo[1] if ip.teredo else None)
        if inner is None and ip in ipaddress.ip_network("64:ff9b::/96"):
            inner = ipaddress.IPv4Address(int(ip) & 0xFFFFFFFF)
        if inner is not None:
            return inner.is_global and not inner.is_multicast
    return ip.is_global and not ip.is_multicast and not ip.is_reserved
