"""Changes told to every open browser: PostgreSQL NOTIFY in, server-sent events out."""

import asyncio
import contextlib
import json
from collections import Counter
from collections.abc import AsyncIterator, Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

import psycopg
import structlog
from django.conf import settings
from django.db import connection, connections

CHANNEL = "menudo"
_KEEP_ALIVE_SECONDS = 15
# What changes within this is told together: a save says several things, and every open browser hears them.
_GATHER_SECONDS = 0.05
# How long a right or a session that has ended may be used at most when nobody said that it ended.
_RECHECK_SECONDS = 15
_MAX_QUEUED = 1000
# More of a kind than this at once are told as "many".
_EACH = 20
log = structlog.get_logger(__name__)


def publish_change(brand: int, kind: str, object_id: int) -> None:
    """Say that something of a brand changed. Heard when the present transaction commits, and only then."""
    publish_changes(brand, kind, [object_id])


def publish_changes(brand: int, kind: str, ids: Sequence[int]) -> None:
    """Say that several things of one kind changed; more than a few are told as "many" (id 0). One statement."""
    told = ids if len(ids) <= _EACH else [0]
    _notify([{"brand": brand, "kind": kind, "id": object_id} for object_id in told])


def publish_posts(brand: int, undated: Mapping[int, bool]) -> None:
    """The same of posts, each with whether nothing of it stands, or stood, on the calendar or in a rota: a draft that somebody types
    changes nothing there."""
    if len(undated) > _EACH:
        publish_change(brand, "post", 0)
        return
    _notify([{"brand": brand, "kind": "post", "id": post, "undated": undated[post]} for post in sorted(undated)])


@dataclass(frozen=True, slots=True)
class DeliveryChange:
    """A delivery that changed, its post and profile, and the instant (UTC) for which it is planned now: who shows neither it nor that
    day of that profile needn't look again."""

    id: int
    post: int
    profile: int
    at: datetime | None


def publish_deliveries(brand: int, changes: Iterable[DeliveryChange]) -> None:
    """The same of deliveries."""
    told = sorted(changes, key=lambda change: change.id)
    if len(told) > _EACH:
        publish_change(brand, "delivery", 0)
        return
    _notify(
        [
            {
                "brand": brand,
                "kind": "delivery",
                "id": one.id,
                "post": one.post,
                "profile": one.profile,
                "at": one.at and one.at.astimezone(UTC).isoformat(),
            }
            for one in told
        ]
    )


def _notify(changes: Sequence[dict[str, Any]]) -> None:
    messages = [json.dumps(change) for change in changes]
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, told) FROM unnest(%s::text[]) AS told", [CHANNEL, messages])


@dataclass(eq=False, slots=True)
class Stream:
    """One open browser's line: the brand it hears of, and the person and session by whose right. `queue`: what is to be
    written to it, None for its end."""

    brand: int
    user: int
    session_key: str
    queue: asyncio.Queue[str | None] = field(default_factory=lambda: asyncio.Queue(_MAX_QUEUED))

    def write(self, text: str) -> None:
        """Write to the browser; one that doesn't read is let go."""
        try:
            self.queue.put_nowait(text)
        except asyncio.QueueFull:
            self.end()

    def end(self) -> None:
        """Let the browser go; it comes again by itself if it may."""
        while not self.queue.empty():
            self.queue.get_nowait()
        self.queue.put_nowait(None)


class Hub:
    """One listening connection for a process, however many browsers are open. No stream holds one.

    `permitted` says which streams may go on; it asks the database, in a thread.
    """

    def __init__(self, permitted: Callable[[Sequence[Stream]], set[Stream]]) -> None:
        self._permitted = permitted
        self._streams: set[Stream] = set()
        self._tasks: list[asyncio.Task[None]] = []
        self._doubt = asyncio.Event()
        # By brand; the changes in the order in which they came, each once.
        self._changes: dict[int, dict[str, None]] = {}

    def open_streams(self, user: int) -> int:
        """How many streams a person has open in this process."""
        return sum(stream.user == user for stream in self._streams)

    async def events(self, stream: Stream) -> AsyncIterator[str]:
        """Server-sent events of a brand, until the right to them ends or the database is lost; then the browser comes again."""
        self._streams.add(stream)
        try:
            await self._start()
            yield "retry: 1000\nevent: ready\ndata: {}\n\n"
            while (text := await stream.queue.get()) is not None:
                yield text
        finally:
            self._streams.discard(stream)

    async def _start(self) -> None:
        if self._tasks and not any(task.done() for task in self._tasks):
            return
        for task in self._tasks:
            task.cancel()
        ready, self._doubt = asyncio.Event(), asyncio.Event()
        self._tasks = [asyncio.create_task(step) for step in (self._listen(ready), self._recheck(), self._keep_alive())]
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(ready.wait(), 10)

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
                    self._pass_on(json.loads(notice.payload))
        except psycopg.Error as error:
            log.warning("live.connection_lost", error=str(error))
        finally:
            ready.set()
            for stream in self._streams:
                stream.end()

    async def _recheck(self) -> None:
        """End the streams whose right or session has ended: when it is said that one did, and every so often."""
        while True:
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(self._doubt.wait(), _RECHECK_SECONDS)
            self._doubt.clear()
            asked = list(self._streams)
            try:
                permitted = await asyncio.to_thread(_with_own_connection, self._permitted, asked)
            except Exception:
                # The database is gone, or full just now: what was permitted is looked at again soon.
                log.exception("live.recheck_failed")
                await asyncio.sleep(1)
                self._doubt.set()
                continue
            for stream in asked:
                if stream not in permitted:
                    stream.end()

    async def _keep_alive(self) -> None:
        while True:
            await asyncio.sleep(_KEEP_ALIVE_SECONDS)
            for stream in self._streams:
                stream.write(": still here\n\n")

    def _pass_on(self, change: dict[str, Any]) -> None:
        if "session" in change:
            for stream in self._streams:
                if stream.session_key == change["session"]:
                    stream.end()
            return
        if change["kind"] == "people":
            self._doubt.set()
        if not self._changes:
            asyncio.get_running_loop().call_later(_GATHER_SECONDS, self._deliver_changes)
        told = json.dumps({name: value for name, value in change.items() if name != "brand"})
        self._changes.setdefault(change["brand"], {})[told] = None

    def _deliver_changes(self) -> None:
        """Before the changes, how many listen here: by that each browser takes its time to read what they made old."""
        listening = Counter(stream.brand for stream in self._streams)
        receivers = {
            brand: f"event: listeners\ndata: {listening[brand]}\n\n"
            + "".join(f"event: change\ndata: {change}\n\n" for change in changes)
            for brand, changes in self._changes.items()
        }
        self._changes.clear()
        for stream in self._streams:
            if stream.brand in receivers:
                stream.write(receivers[stream.brand])


def _with_own_connection(
    permitted: Callable[[Sequence[Stream]], set[Stream]], streams: Sequence[Stream]
) -> set[Stream]:
    """Ask with a connection that goes back to the pool at once."""
    try:
        return permitted(streams)
    finally:
        connections.close_all()
