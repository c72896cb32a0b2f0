"""Fifty people at one office: what their browsers ask for while they work, and again when others change what they show.

What is read again, and after how long a rest, is as `web/src/data/changes.ts` and `heard.ts` have it.
"""

import asyncio
import json
import random
import time
from collections.abc import Awaitable, Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

import httpx2

BRAND = "/api/brands/league"
LANES = 24
# Over so long they come in, one by one.
COMING_SECONDS = 30
_AROUND = (f"{BRAND}/strip", f"{BRAND}/obstacles", "/api/assigned")
_MOST_SECONDS = 20.0


@dataclass(slots=True)
class Shown:
    """Something that a person's page shows: what is in it, and since when it is old."""

    read_at: float = 0
    took: float = 0
    stale: bool = False
    # Of a run of lanes: whose they are, on which of them each post lies, and which are old.
    profiles: frozenset[int] = frozenset()
    posts: dict[int, set[int]] = field(default_factory=dict)
    old: set[int] = field(default_factory=set)


@dataclass(slots=True)
class Office:
    """What everyone shares: where it is, what there is to do, and how long every answer took, by what was done."""

    host: str
    port: int
    first: str
    lanes: list[int]
    networks: dict[int, str]
    moves: list[int]
    label: int
    until: float
    took: dict[str, list[float]] = field(default_factory=dict)
    faults: list[str] = field(default_factory=list)
    # Posts that are up for sign-off, for who signs.
    asked: list[tuple[int, int]] = field(default_factory=list)


class Person:
    def __init__(self, office: Office, session: str, can: frozenset[str], seed: int) -> None:
        self.office, self.can, self.dice = office, can, random.Random(seed)
        self.session = session
        self.client = httpx2.AsyncClient(
            base_url=f"http://{office.host}:{office.port}",
            timeout=60,
            trust_env=False,
            # Browsers ask again by themselves where the server has let an idle line go meanwhile.
            limits=httpx2.Limits(keepalive_expiry=2),
            headers={"X-CSRFToken": "a" * 32, "Cookie": f"sessionid={session}; csrftoken={'a' * 32}"},
        )
        self.shown: dict[str, Shown] = {path: Shown() for path in _AROUND}
        self.listeners = 1
        self.draft: tuple[int, int, list[int]] | None = None

    async def work(self) -> None:
        """Until the day is over: one thing after another, while the stream is heard."""
        hearing = asyncio.create_task(self._listen())
        reading = asyncio.create_task(self._read_again())
        try:
            await asyncio.sleep(self.dice.uniform(0, COMING_SECONDS))
            for path in _AROUND:
                await self._show(path, "around")
            while time.monotonic() < self.office.until:
                await self.dice.choice(self._tasks())()
        finally:
            for task in (hearing, reading):
                task.cancel()
            await asyncio.gather(hearing, reading, return_exceptions=True)
            await self.client.aclose()

    def _tasks(self) -> list[Callable[[], Awaitable[None]]]:
        tasks: list[Callable[[], Awaitable[None]]] = [self._read_calendar] * 5
        if "write" in self.can:
            tasks += [self._type] * 3 + [self._ask_for_signoff]
        if "publish" in self.can:
            tasks += [self._move] * 2
        if "sign_off" in self.can:
            tasks += [self._sign] * 2
        return tasks

    # What they do.

    async def _read_calendar(self) -> None:
        """Lanes of two weeks, down a few screens, a post looked into now and then."""
        await self._open_calendar()
        for n in range(1, 5):
            await self._pause(5, 12)
            await self._show_lanes(n)
            if n % 2 and (posts := sorted(self._posts_in_sight())):
                await self._ask("GET", f"{BRAND}/posts/{self.dice.choice(posts)}/peek", "peek")

    async def _type(self) -> None:
        """A draft for eight profiles, a phrase every few seconds: each is checked when the fingers rest, and then kept."""
        office = self.office
        if self.draft is None:
            profiles = self.dice.sample(office.lanes, 8)
            body = {"master": {"text": "The stall is open."}, "profiles": profiles}
            made = await self._ask("POST", f"{BRAND}/posts", "write", body)
            self.draft = (made["id"], made["revision"], profiles)
        post, revision, profiles = self.draft
        self._turn_to(f"{BRAND}/posts/{post}")
        for path in ("", "/talk", "/signoff"):
            found = await self._show(f"{BRAND}/posts/{post}{path}", "write")
            revision = revision if path else found["revision"]
        columns = [
            {"network": network, "profiles": [one for one in profiles if office.networks[one] == network]}
            for network in sorted({office.networks[one] for one in profiles})
        ]
        text = "The stall is open."
        for n in range(8):
            await self._pause(2, 5)
            text += f" Chestnuts, number {n}, from the hill above the mill."
            await self._ask("POST", f"{BRAND}/check", "type", {"master": {"text": text}, "columns": columns})
            body = {"master": {"text": text}, "profiles": profiles}
            kept = await self._ask("PUT", f"{BRAND}/posts/{post}", "keep", body, revision)
            revision = kept["revision"]
        self.draft = (post, revision, profiles)

    async def _move(self) -> None:
        """A few cards to another day; the calendar shows it before the next."""
        await self._open_calendar()
        for _ in range(3):
            await self._pause(4, 10)
            delivery = self.office.moves.pop()
            found = await self._ask("GET", f"{BRAND}/deliveries/{delivery}", "peek")
            day = datetime.now(UTC).date() + timedelta(days=self.dice.randrange(2, 60))
            body = {"wall_time": f"{day}T{self.dice.randrange(8, 21):02}:{self.dice.randrange(12) * 5:02}"}
            await self._ask("POST", f"{BRAND}/deliveries/{delivery}/move", "move", body, found["delivery"]["revision"])
            for path in [path for path in self.shown if "/calendar" in path or "/tray" in path]:
                await self._show(path, "calendar")

    async def _ask_for_signoff(self) -> None:
        profiles = self.dice.sample(self.office.lanes, 3)
        body = {"master": {"text": "May this go out?"}, "profiles": profiles, "labels": [self.office.label]}
        made = await self._ask("POST", f"{BRAND}/posts", "write", body)
        await self._pause(3, 6)
        posts = {"posts": [{"id": made["id"], "revision": made["revision"]}]}
        answer = await self._ask("POST", f"{BRAND}/signoff-requests", "sign", posts)
        assert answer["done"] == 1, answer
        self.office.asked.append((made["id"], made["revision"] + 1))

    async def _sign(self) -> None:
        """What waits is looked at, and one of it agreed to."""
        self._turn_to(f"{BRAND}/signoffs")
        await self._show(f"{BRAND}/signoffs", "sign")
        await self._pause(4, 8)
        if self.office.asked:
            post, _ = self.office.asked.pop(0)
            found = await self._ask("GET", f"{BRAND}/posts/{post}", "sign")
            await self._ask("POST", f"{BRAND}/posts/{post}/approve", "sign", {}, found["revision"])
        await self._pause(2, 4)

    # What their pages show.

    async def _open_calendar(self) -> None:
        self._turn_to(
            f"{BRAND}/calendar?first={self.office.first}&days=14&gather=profile",
            f"{BRAND}/upcoming?days=14",
            f"{BRAND}/tray",
        )
        for path in list(self.shown):
            if path not in _AROUND:
                await self._show(path, "calendar")
        await self._show_lanes(0)

    async def _show_lanes(self, run: int) -> None:
        lanes = self.office.lanes[LANES * run : LANES * (run + 1)]
        first = self.office.first
        query = f"first={first}&origin={first}&days=14&marks=true&profiles={','.join(map(str, lanes))}"
        path = f"{BRAND}/calendar/cards?{query}"
        self.shown = {known: it for known, it in self.shown.items() if "/cards?" not in known}
        self.shown[path] = Shown(profiles=frozenset(lanes))
        await self._show(path, "calendar")

    def _turn_to(self, *paths: str) -> None:
        """Another page: what the one before showed is read no more."""
        self.shown = {path: self.shown.get(path, Shown()) for path in (*_AROUND, *paths)}

    def _posts_in_sight(self) -> frozenset[int]:
        return frozenset().union(*(it.posts for it in self.shown.values()))

    async def _show(self, path: str, what: str) -> Any:
        it = self.shown.setdefault(path, Shown())
        lanes, whole = it.old, what != "again" or not it.profiles or len(it.old) > len(it.profiles) / 3
        it.stale, it.old = False, set()
        asked = path if whole else f"{path.rpartition('=')[0]}={','.join(map(str, lanes))}"
        started = time.monotonic()
        found = await self._ask("GET", asked, what)
        it.read_at, it.took = time.monotonic(), time.monotonic() - started
        if it.profiles:
            left = {} if whole else {post: on - lanes for post, on in it.posts.items() if on - lanes}
            for ticket in found["tickets"]:
                left.setdefault(ticket["post"], set()).add(ticket["profile"])
            it.posts = left
        return found

    async def _ask(self, method: str, path: str, what: str, body: Any = None, revision: int | None = None) -> Any:
        headers = {} if revision is None else {"If-Match": f'"{revision}"'}
        if what == "again":
            headers["Priority"] = "u=5"
        started = time.monotonic()
        try:
            answer = await self.client.request(method, path, json=body, headers=headers)
        except httpx2.TransportError as error:
            raise RuntimeError(f"{method} {path} after {time.monotonic() - started:.2f} s: {error!r}") from error
        self.office.took.setdefault(what, []).append(time.monotonic() - started)
        if answer.status_code >= 400:
            self.office.faults.append(f"{method} {path}: {answer.status_code} {answer.text[:200]}")
            raise RuntimeError(self.office.faults[-1])
        return answer.json()

    async def _pause(self, least: float, most: float) -> None:
        await asyncio.sleep(self.dice.uniform(least, most))

    # What others change.

    async def _listen(self) -> None:
        reader, writer = await asyncio.open_connection(self.office.host, self.office.port)
        head = f"GET /live/league HTTP/1.1\r\nHost: {self.office.host}:{self.office.port}\r\nCookie: sessionid={self.session}\r\n\r\n"
        writer.write(head.encode())
        while line := await reader.readline():
            told = json.loads(line[6:]) if line.startswith(b"data: ") else None
            if isinstance(told, int):
                self.listeners = told
            elif told:
                self._note_change(told)
        self.office.faults.append("a stream was lost")

    def _note_change(self, change: dict[str, Any]) -> None:
        kind, at = change["kind"], change.get("at")
        if kind not in ("delivery", "post"):
            return
        post: int = change.get("post", 0) if kind == "delivery" else change["id"]
        for path, it in self.shown.items():
            if it.profiles:
                lanes = set(it.posts.get(post, ())) | ({change.get("profile", 0)} & it.profiles)
                lanes = set(it.profiles) if not change["id"] else lanes
                it.old |= lanes
                it.stale = it.stale or bool(lanes)
            elif "/tray" in path:
                it.stale = it.stale or (not at if kind == "delivery" else change.get("undated") is not False)
            elif "/calendar?" in path or "/obstacles" in path:
                it.stale = it.stale or kind == "delivery" or not change["id"]
            elif "/strip" in path or "/upcoming" in path:
                it.stale = it.stale or not change.get("undated")
            elif "/posts/" not in path or f"/posts/{post}" in path:
                it.stale = True

    async def _read_again(self) -> None:
        while True:
            await asyncio.sleep(0.1)
            for path, it in list(self.shown.items()):
                if it.stale and it.read_at and time.monotonic() - it.read_at > _rest(path, it.took, self.listeners):
                    await self._show(path, "again")


def _rest(path: str, took: float, listeners: int) -> float:
    """Seconds from one reading to the next."""
    counted = "/calendar?" in path
    near = "/cards?" in path or "/posts/" in path or "/tray" in path
    by_time = max(10 * took, took * listeners / (0.5 if near else 0.05))
    return min(max(by_time, 2 if counted else 0), _MOST_SECONDS if near else max(_MOST_SECONDS, listeners))


@contextmanager
def gathered_faults(office: Office) -> Iterator[None]:
    """What broke off is a fault of the day, told at its end."""
    try:
        yield
    except Exception as error:
        office.faults.append(repr(error)[:300])


async def work_all(people: list[Person]) -> None:
    async def one(person: Person) -> None:
        with gathered_faults(person.office):
            await person.work()

    await asyncio.gather(*(one(person) for person in people))
