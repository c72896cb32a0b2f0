"""Files that are sent as they are made, however long they are."""

from collections.abc import AsyncIterator, Iterator

from asgiref.sync import sync_to_async
from django.db import close_old_connections
from django.http import StreamingHttpResponse


def csv_response(pieces: Iterator[bytes], name: str) -> StreamingHttpResponse:
    """A CSV file under a name, sent piece by piece; each is made when the one before it has gone out."""
    response = StreamingHttpResponse(_piece_by_piece(pieces), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


async def _piece_by_piece(pieces: Iterator[bytes]) -> AsyncIterator[bytes]:
    """Made in the request's own thread."""
    make_next = sync_to_async(_next_piece)
    while (piece := await make_next(pieces)) is not None:
        yield piece


def _next_piece(pieces: Iterator[bytes]) -> bytes | None:
    """None at the end. Whoever reads slowly holds no connection to the database between two pieces: there are few of them."""
    try:
        return next(pieces, None)
    finally:
        close_old_connections()
