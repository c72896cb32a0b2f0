"""Changes told to every open browser: PostgreSQL NOTIFY in, server-sent events out."""

import asyncio
import contextlib
import json
from collections import defaultdict
from collections.abc import AsyncIterator, Sequence
from typing import Any

import psycopg
import structlog
from django.conf import settings
from django.db import connection

CHANNEL = "menudo"
_KEEP_ALIVE_SECONDS = 15
log = structlog.get_logger(__name__)


def tell(brand: int, kind: str, id: int) -> None:
    """Say that something of a brand changed. Heard when the present transaction commits, and only then."""
    tell_all(brand, kind, [id])


def tell_all(brand: int, kind: str, ids: Sequence[int]) -> None:
    """Say that several things of one kind changed: one statement."""
    told = [json.dumps({"brand": brand, "kind": kind, "id": id}) for id in ids]
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, told) FROM unnest(%s::text[]) AS told", [CHANNEL, told])


class Hub:
    """One listening connection for a process, however many browsers are open."""

    def __init__(self) -> None:
        self._waiting: dict[int, set[asyncio.Queue[str | None]]] = defaultdict(set)
        self._task: asyncio.Task[None] | None = None

    async def changes(self, brand: int) -> AsyncIterator[str]:
        """Server-sent events of a brand, without end; ends when the database connection is lost, so that the browser comes again."""
        if self._task is None or self._task.done():
            ready = asyncio.Event()
            self._task = asyncio.create_task(self._listen(ready))
            with contextlib.suppress(asyncio.TimeoutError):
                await asyncio.wait_for(ready.wait(), 10)
        queue: asyncio.Queue[str | None] = asyncio.Queue(maxsize=1000)
        self._waiting[brand].add(queue)
        try:
            yield "retry: 1000\nevent: ready\ndata: {}\n\n"
            while True:
                try:
                    payload = await asyncio.wait_for(queue.get(), _KEEP_ALIVE_SECONDS)
                except TimeoutError:
                    yield ": still here\n\n"
                    continue
                if payload is None:
                    return
                yield f"event: change\ndata: {payload}\n\n"
        finally:
            self._waiting[brand].discard(queue)

    async def _listen(self, ready: asyncio.Event) -> None:
        db: dict[str, Any] = settings.DATABASES["default"]
        try:
            async with await psycopg.AsyncConnection.connect(
                host=db["HOST"],
                port=db["PORT"],
                dbname=db["NAME"],
                user=db["USER"],
                password=db["PASSWORD"] or None,
                autocommit=True,
            ) as listening:
                await listening.execute(f"LISTEN {CHANNEL}")
                ready.set()
                async for notice in listening.notifies():
                    self._pass_on(notice.payload)
        except psycopg.Error as error:
            log.warning("live_lost", error=str(error))
        finally:
            ready.set()
            self._end_all()

    def _pass_on(self, payload: str) -> None:
        change = json.loads(payload)
        for queue in self._waiting.get(change["brand"], ()):
            try:
                queue.put_nowait(json.dumps({"kind": change["kind"], "id": change["id"]}))
            except asyncio.QueueFull:
                self._end(queue)

    def _end_all(self) -> None:
        for queues in self._waiting.values():
            for queue in queues:
                self._end(queue)

    @staticmethod
    def _end(queue: "asyncio.Queue[str | None]") -> None:
        while not queue.empty():
            queue.get_nowait()
        queue.put_nowait(None)


hub = Hub()
