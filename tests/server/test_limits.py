"""What a request may send, and how often: judged before anything is kept."""

import asyncio
import json
from collections.abc import Iterator
from typing import Any

import pytest
from asgiref.sync import async_to_sync
from django.conf import settings

from menudo.asgi import application

_CHUNK = 64_000


def ask(path: str, length: int | None, cookie: str = "", method: str = "POST") -> tuple[int, dict[str, Any], int]:
    """Status, answer, and how many bytes were taken of a body that says it has `length` (None: it doesn't say), and has 80 MB."""
    taken, sent = 0, []
    chunks: Iterator[bytes] = iter([b"a" * _CHUNK] * (80_000_000 // _CHUNK))

    async def receive() -> dict[str, Any]:
        nonlocal taken
        chunk = next(chunks, None)
        if chunk is None:
            # Whoever sent it waits for an answer.
            await asyncio.Event().wait()
        taken += len(chunk or b"")
        return {"type": "http.request", "body": chunk, "more_body": taken < 80_000_000}

    async def send(message: dict[str, Any]) -> None:
        sent.append(message)

    how = (b"transfer-encoding", b"chunked") if length is None else (b"content-length", str(length).encode())
    scope = {
        "type": "http",
        "method": method,
        "path": path,
        "query_string": b"",
        "headers": [how, (b"host", b"127.0.0.1"), (b"cookie", cookie.encode())],
        "client": ("127.0.0.1", 9),
    }
    async_to_sync(application)(scope, receive, send)
    body = b"".join(message.get("body", b"") for message in sent)
    return sent[0]["status"], json.loads(body) if body.startswith(b"{") else {}, taken


@pytest.mark.parametrize(
    ("path", "most"),
    [("/health", 64_000), ("/api/brands/garden/posts", 2_000_000), ("/api/brands/garden/zips", 2_000_000)],
)
def test_nobody_in_particular_has_a_large_body_kept(database, path, most):
    """RFC 9110, 15.5.14: refused, and the rest isn't read."""
    status, answer, taken = ask(path, 80_000_000)
    assert (status, answer["type"], taken) == (413, "urn:menudo:problem:too_big", 0)
    status, _, taken = ask(path, None)
    assert status == 413
    assert taken <= most + _CHUNK


def test_a_body_that_is_longer_than_it_says_is_no_way_around(database):
    status, _, taken = ask("/api/brands/garden/posts", 0)
    assert status == 413
    assert taken == _CHUNK


def test_who_is_signed_in_may_send_a_file(world):
    client = world.api().client
    cookie = f"{settings.SESSION_COOKIE_NAME}={client.cookies[settings.SESSION_COOKIE_NAME].value}"
    status, _, taken = ask("/api/brands/garden/zips", 80_000_000, cookie)
    # The form is none, and there is no write token; but it was looked at.
    assert status in (400, 403)
    assert taken > 2_000_000
    assert ask("/api/brands/garden/plans/read", 80_000_000, cookie)[0] == 413
    assert ask("/api/brands/garden/zips", 80_000_000, cookie="sessionid=nobody")[0] == 413
