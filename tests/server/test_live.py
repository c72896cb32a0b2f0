"""The live stream, at a real web process: it holds no database connection, and ends with the right to it."""

import asyncio
import json
import uuid
from collections.abc import AsyncIterator, Iterator
from contextlib import AsyncExitStack, asynccontextmanager
from pathlib import Path

import httpx2
import psycopg
import pytest
from tools.database import Cluster
from tools.stack import Stack

# Each story that takes somebody's right away has a person of its own.
PEOPLE = ("ines", "teo", "lucia", "maud")
_WORLD = f"""
import json
from django.conf import settings
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore
from menudo.people.capabilities import ROLES
from menudo.people.models import Brand, Membership, User
brand = Brand.objects.create(slug="garden", name="Garden", zone="UTC")
for name in {PEOPLE!r}:
    user = User.objects.create_user(name + "@example.org", "moss-and-ferns-2", name.title())
    Membership.objects.create(brand=brand, user=user, role="viewer", capabilities=sorted(ROLES["viewer"]))
    session = SessionStore()
    session.update({{SESSION_KEY: str(user.pk), BACKEND_SESSION_KEY: settings.AUTHENTICATION_BACKENDS[0], HASH_SESSION_KEY: user.get_session_auth_hash()}})
    session.save()
    print("session", name, session.session_key)
"""


class Site:
    """A web process with a pool of four connections, and people who are signed in there."""

    def __init__(self, stack: Stack, sessions: dict[str, str]) -> None:
        self.stack, self.sessions = stack, sessions
        self.db = psycopg.connect(stack.cluster.url(stack.database), autocommit=True)
        (self.brand,) = self.db.execute("SELECT id FROM people_brand").fetchone()

    def client(self, who: str = "ines") -> httpx2.AsyncClient:
        cookies = {"sessionid": self.sessions[who]}
        limits = httpx2.Limits(max_connections=None, max_keepalive_connections=None)
        return httpx2.AsyncClient(base_url=self.stack.url, cookies=cookies, limits=limits, timeout=20, trust_env=False)

    def tell(self, kind: str, object_id: int) -> None:
        payload = json.dumps({"brand": self.brand, "kind": kind, "id": object_id})
        self.db.execute("SELECT pg_notify('menudo', %s)", [payload])


@pytest.fixture(scope="module")
def site(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Site]:
    cluster = Cluster()
    cluster.start()
    name = f"menudo_live_{uuid.uuid4().hex[:8]}"
    cluster.make_database(name)
    env = {"MENUDO_DB_POOL": "4", "MENUDO_STREAMS_EACH": "220"}
    stack = Stack(cluster, name, Path(tmp_path_factory.mktemp("live")), env)
    try:
        stack.migrate()
        said = stack.manage("shell", "-v", "0", "-c", _WORLD)
        sessions = dict(line.split()[1:] for line in said.splitlines() if line.startswith("session "))
        stack.start_web()
        yield Site(stack, sessions)
    finally:
        stack.stop()
        cluster.drop_database(name)


@asynccontextmanager
async def stream(client: httpx2.AsyncClient) -> AsyncIterator[AsyncIterator[str]]:
    """The events of a stream that is open: `event data`, one after another."""
    async with client.stream("GET", "/live/garden") as response:
        assert response.status_code == 200, (await response.aread())[:300]

        async def events() -> AsyncIterator[str]:
            name = ""
            async for line in response.aiter_lines():
                if line.startswith("event: "):
                    name = line[7:]
                elif line.startswith("data: "):
                    yield f"{name} {line[6:]}"

        found = events()
        assert await anext(found) == "ready {}"
        yield found


async def rest(events: AsyncIterator[str]) -> list[str]:
    """What comes still, until the stream ends."""
    async with asyncio.timeout(30):
        return [event async for event in events]


def test_open_streams_take_no_database_connection_from_others(site: Site) -> None:
    async def two_hundred() -> None:
        async with site.client() as client, AsyncExitStack() as open_ones:
            streams = [await open_ones.enter_async_context(stream(client)) for _ in range(200)]
            answers = await asyncio.gather(*(client.get("/api/me") for _ in range(40)))
            assert {answer.status_code for answer in answers} == {200}
            site.tell("post", 7)
            # How many hear it (one that went just before may count still), and what has changed.
            [counted] = set(await asyncio.gather(*(anext(events) for events in streams)))
            assert counted.startswith("listeners ") and int(counted[10:]) >= 200
            heard = await asyncio.gather(*(anext(events) for events in streams))
            assert set(heard) == {'change {"kind": "post", "id": 7}'}

    asyncio.run(two_hundred())


def test_a_stream_ends_with_its_session(site: Site) -> None:
    async def signs_out() -> None:
        async with site.client("teo") as client, site.client("ines") as other:
            async with stream(client) as ended, stream(other) as stays:
                site.db.execute("DELETE FROM django_session WHERE session_key = %s", [site.sessions["teo"]])
                assert await rest(ended) == []
                site.tell("post", 8)
                assert (await anext(stays)).startswith("listeners ")
                assert await anext(stays) == 'change {"kind": "post", "id": 8}'
            assert (await client.get("/live/garden")).status_code == 404

    asyncio.run(signs_out())


@pytest.mark.parametrize(
    "ends",
    [
        "DELETE FROM people_membership USING people_user u WHERE user_id = u.id AND u.email LIKE 'lucia@%'",
        "UPDATE people_user SET password = 'another one' WHERE email LIKE 'maud@%'",
    ],
)
def test_a_stream_ends_with_the_right_to_it(site: Site, ends: str) -> None:
    """Taking somebody out of a brand says so; a password changed elsewhere is found out by looking."""

    async def is_taken_out() -> None:
        who = "lucia" if "lucia" in ends else "maud"
        async with site.client(who) as client, stream(client) as events:
            site.db.execute(ends)
            site.tell("people", 1)
            told = [event for event in await rest(events) if not event.startswith("listeners ")]
            assert told in ([], ['change {"kind": "people", "id": 1}'])

    asyncio.run(is_taken_out())
