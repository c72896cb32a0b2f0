"""Hostility on demand: whatever is asked for under an address is answered so as to harm who asks.

Before all that the stand-in serves: networks, open sites with their feeds and files, the shared store.
"""

import json
import os
import threading
import zlib
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from functools import cache
from typing import Any

_App = Callable[[dict[str, Any], Any], Iterable[bytes]]
# Nothing that a test starts goes on for longer, whatever becomes of the test; bytes and seconds.
_MOST_BYTES, _MOST_SECONDS, _CHUNK = 400_000_000, 60, 65_536
_DEEP = 100_000
_NEVER = ("/control", "/health")
# A document of a kilobyte whose entities say ten thousand million words.
_ENTITIES = (
    b'<!DOCTYPE a [<!ENTITY a0 "moss ">'
    + b"".join(b'<!ENTITY a%d "%s">' % (n, b"&a%d;" % (n - 1) * 10) for n in range(1, 11))
    + b'<!ENTITY file SYSTEM "file:///etc/passwd">]><feed><title>&a10;&file;</title></feed>'
)
KINDS = {
    "endless": "answers without end",
    "drip": "answers a byte at a time",
    "packed": "answers a megabyte that unpacks to a gigabyte",
    "noise": "answers with bytes that are nothing",
    "deep": "answers nested a hundred thousand times",
    "entities": "answers with entities that say ten thousand million words, and a file of whoever reads it",
    "heads": "answers with a head of a megabyte",
    "short": "says that much comes, and breaks off",
    "inward": "sends on to an address of the inner network",
    "round": "sends on to itself, for ever",
    "script": "answers with script in every field it can think of",
}
# What a place that shows words must not take for markup, nor a place that opens addresses open.
_SCRIPT = "<script>alert(1)</script>\"'><img src=x onerror=alert(2)>"


@dataclass
class Hostility:
    """The WSGI application before another. `by_path`: how the addresses that begin so are answered; the longest counts."""

    app: _App
    by_path: dict[str, str] = field(default_factory=dict)
    asked: list[str] = field(default_factory=list)
    _over: threading.Event = field(default_factory=threading.Event)

    def set(self, path: str, kind: str) -> None:
        self._over.clear()
        self.by_path[path] = kind

    def clear(self) -> None:
        self.by_path.clear()
        self.asked.clear()
        self._over.set()

    def __call__(self, environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        path = environ.get("PATH_INFO", "")
        # Whoever made it so can end it; others may set and clear it meanwhile.
        kinds = {} if path.startswith(_NEVER) else {**self.by_path}
        found = max((one for one in kinds if path.startswith(one)), key=len, default=None)
        if found is None:
            return self.app(environ, start_response)
        self.asked.append(path)
        return self._answer(kinds[found], environ, start_response)

    def _answer(self, kind: str, environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        path, head = environ["PATH_INFO"], [("Content-Type", _type_of(environ))]
        if kind in ("inward", "round"):
            inward = "http://169.254.169.254/latest/meta-data/"
            start_response("302 Found", [*head, ("Location", path if kind == "round" else inward)])
            return [b""]
        if kind == "packed":
            start_response("200 OK", [*head, ("Content-Encoding", "gzip")])
            return [_packed()]
        if kind == "heads":
            start_response("200 OK", [*head, *((f"X-Moss-{n}", "m" * 1000) for n in range(1000))])
            return [b"{}"]
        if kind == "short":
            start_response("200 OK", [*head, ("Content-Length", "100000"), ("Connection", "close")])
            return [b'{"a": "']
        start_response("200 OK", head)
        if kind == "endless":
            return self._endless()
        return self._drip() if kind == "drip" else [_body_of(kind, head[0][1])]

    def _endless(self) -> Iterator[bytes]:
        for _ in range(_MOST_BYTES // _CHUNK):
            if self._over.is_set():
                return
            yield b"[" * _CHUNK

    def _drip(self) -> Iterator[bytes]:
        for _ in range(_MOST_SECONDS * 20):
            yield b" "
            if self._over.wait(0.05):
                return


@cache
def _packed() -> bytes:
    """A gigabyte of blanks as gzip (RFC 1952): a megabyte, packed once, a thousand times in one stream."""
    packer = zlib.compressobj(9, zlib.DEFLATED, -zlib.MAX_WBITS)
    block = packer.compress(b" " * 1_000_000) + packer.flush(zlib.Z_FULL_FLUSH)
    return b"\x1f\x8b\x08" + bytes(6) + b"\xff" + block * 1000 + b"\x03\x00" + bytes(8)


def _type_of(environ: dict[str, Any]) -> str:
    """What whoever asks probably hopes for."""
    path = environ["PATH_INFO"]
    if environ["REQUEST_METHOD"] == "PROPFIND" or path.endswith(".xml") or "/atom/" in path:
        return "application/xml"
    if path.endswith((".png", ".jpg")):
        return "image/png"
    return "text/html" if path.startswith("/site/") and not path.endswith((".json", ".csv")) else "application/json"


def _body_of(kind: str, type_: str) -> bytes:
    if kind == "noise":
        return os.urandom(100_000)
    if kind == "entities":
        return b'<?xml version="1.0"?>' + _ENTITIES
    if kind == "deep":
        return b"[" * _DEEP + b"]" * _DEEP if type_ == "application/json" else b"<a>" * _DEEP
    fields = ("title", "name", "url", "uid", "id", "issuer", "error", "detail", "me", "access_token", "syndicate-to")
    if type_ == "application/json":
        return json.dumps(dict.fromkeys(fields, _SCRIPT)).encode()
    return (
        f"<html><head><title>{_SCRIPT}</title><link rel='micropub' href='javascript:alert(3)'></head>{_SCRIPT}".encode()
    )
