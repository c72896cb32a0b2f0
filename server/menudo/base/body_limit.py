"""How much a request may send, judged before any of it is kept: Django itself writes a body to disk before it asks anybody."""

from collections.abc import Awaitable, Callable, Mapping
from typing import Any

from menudo.base.problems import too_big_body

_Scope = dict[str, Any]
_Message = Mapping[str, Any]
_Receive = Callable[[], Awaitable[_Message]]
_Send = Callable[[_Message], Awaitable[None]]
_App = Callable[[_Scope, _Receive, _Send], Awaitable[None]]


class _BodyTooLargeError(Exception):
    pass


class BodyLimit:
    """An ASGI application before another: refuses a body of more bytes than `limit` says of the request, with 413 (RFC 9110, 15.5.14).

    By the length that the request says it has, and by what comes where it says none (or less).
    """

    def __init__(self, app: _App, limit: Callable[[_Scope], Awaitable[int]]) -> None:
        self._app, self._limit = app, limit

    async def __call__(self, scope: _Scope, receive: _Receive, send: _Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        said = _content_length(scope)
        # What sends nothing is asked nothing: most requests.
        most = await self._limit(scope) if said != 0 else 0
        if said is not None and said > most:
            await _refuse(send)
            return
        received, begun = 0, False

        async def counted() -> _Message:
            nonlocal received
            message = await receive()
            received += len(message.get("body", b""))
            if received > most:
                raise _BodyTooLargeError
            return message

        async def noted(message: _Message) -> None:
            nonlocal begun
            begun = True
            await send(message)

        try:
            await self._app(scope, counted, noted)
        except _BodyTooLargeError:
            if not begun:
                await _refuse(send)


def _content_length(scope: _Scope) -> int | None:
    """The bytes it says it sends: 0 where it sends no body, None where it doesn't say how much."""
    headers: dict[bytes, bytes] = dict(scope["headers"])
    if b"transfer-encoding" in headers:
        return None
    said = headers.get(b"content-length", b"0")
    return int(said) if said.isdigit() and len(said) < 16 else None


async def _refuse(send: _Send) -> None:
    """The rest of what comes is not read: the connection ends."""
    body = too_big_body()
    headers = [
        (b"content-type", b"application/problem+json"),
        (b"content-length", str(len(body)).encode()),
        (b"connection", b"close"),
    ]
    await send({"type": "http.response.start", "status": 413, "headers": headers})
    await send({"type": "http.response.body", "body": body})
