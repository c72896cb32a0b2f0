"""A small world for the server's tests: two brands, four people, one connected profile, a real stand-in."""

import io
import json
import threading
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

import pytest
from asgiref.sync import async_to_sync
from django.db import connection, connections
from django.http import StreamingHttpResponse
from django.test import Client
from django.test.utils import override_settings, setup_databases, teardown_databases
from django.utils import timezone
from PIL import Image

from menudo.base.sealing import seal
from menudo.networks.networks_file import Network
from menudo.networks.sign_in import discover
from menudo.people.capabilities import ROLES
from menudo.people.models import Brand, Membership, User
from menudo.profiles.actions.set_timetable import create_default_timetable
from menudo.profiles.models import Connection, Profile
from menudo_core.networks.load import shipped_sheets
from tests.standins import StandIn, running

PEOPLE = {"ines": "coordinator", "teo": "author", "maud": "approver", "lucia": "viewer"}


@pytest.fixture(scope="session", autouse=True)
def without_static_files() -> Iterator[None]:
    """Each client of a test would look through all the web's files first, a tenth of a second."""
    with override_settings(WHITENOISE_ROOT=None):
        yield


@pytest.fixture(scope="session")
def standin_program(tmp_path_factory):
    with running(tmp_path_factory.mktemp("standin"), "http://127.0.0.1:8600/connect/back") as program:
        yield program


@pytest.fixture
def standin(standin_program: StandIn, settings, tmp_path) -> StandIn:
    standin_program.behave()
    standin_program.fresh()
    settings.NETWORKS = {
        name: Network(f"{standin_program.url}/{name}", "atompub" if name == "foolscap" else "micropub")
        for name in shipped_sheets()
        if name != "open-site"
    }
    settings.FETCH_ALLOWED = {standin_program.url.removeprefix("http://")}
    settings.PUBLIC_URL = "http://127.0.0.1:8600"
    settings.MEDIA_ROOT = tmp_path
    settings.PACE = False
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    return standin_program


@dataclass
class Api:
    """A signed-in person at the API of a brand."""

    client: Client
    brand: str = "garden"

    def __call__(
        self, method: str, path: str, data: Any = None, revision: int | None = None, status: int | None = None
    ) -> Any:
        headers = {"If-Match": f'"{revision}"'} if revision is not None else {}
        body = json.dumps(data) if data is not None else ""
        answer = self.client.generic(
            method, f"/api/brands/{self.brand}/{path}", body, "application/json", headers=headers
        )
        if status is not None:
            assert answer.status_code == status, answer.content.decode()[:600]
        return answer.json() if answer.content else None

    def upload(self, data: bytes, name: str = "moss.jpg") -> Any:
        file = io.BytesIO(data)
        file.name = name
        return self.client.post(f"/api/brands/{self.brand}/assets", {"file": file})


@async_to_sync
async def read_whole(response: StreamingHttpResponse) -> bytes:
    """A file that goes out piece by piece, as the web process sends it."""
    return b"".join([piece async for piece in response])


@dataclass
class World:
    garden: Brand
    bakery: Brand
    profile: Profile
    foreign: Profile
    connection: Connection

    def api(self, who: str = "ines", brand: str = "garden") -> Api:
        client = Client()
        client.force_login(
            User.objects.get(email=f"{who}@example.org"), backend="allauth.account.auth_backends.AuthenticationBackend"
        )
        return Api(client, brand)


def connected(standin: StandIn, brand: Brand, *uids: str) -> tuple[Connection, list[Profile]]:
    tokens = standin.grant(*uids)
    connection = Connection.objects.create(
        brand=brand,
        network="brisk",
        account="desk",
        access_token=seal(tokens["access_token"]),
        refresh_token=seal(tokens["refresh_token"]),
        access_expires_at=timezone.now() + timedelta(hours=1),
        endpoints=discover("brisk"),
    )
    made = [
        Profile.objects.create(
            brand=brand,
            network="brisk",
            connection=connection,
            remote_id=uid,
            handle=f"@{uid}",
            name=uid,
            kind="account",
        )
        for uid in uids
    ]
    for profile in made:
        create_default_timetable(profile)
    return connection, made


@pytest.fixture(scope="session")
def django_db_setup(django_test_environment, django_db_modify_db_settings, django_db_blocker) -> Iterator[None]:
    """The test database, whether or not a test is marked as asking for it: see `database`."""
    with django_db_blocker.unblock():
        made = setup_databases(verbosity=0, interactive=False, serialized_aliases=set())
    yield
    with django_db_blocker.unblock():
        teardown_databases(made, verbosity=0)


# Triggers of foreign keys are left out, so that the order doesn't matter. What the migrations made stays.
_EMPTY = """
DO $$ DECLARE one record; BEGIN
    SET LOCAL session_replication_role = replica;
    FOR one IN SELECT tablename FROM pg_tables WHERE schemaname = 'public'
        AND tablename NOT IN ('django_migrations', 'django_content_type', 'auth_permission')
    LOOP EXECUTE format('DELETE FROM %I', one.tablename); END LOOP;
END $$
"""


@pytest.fixture
def database(django_db_setup, django_db_blocker) -> Iterator[None]:
    """The database as production has it: a pool of connections, and every statement kept. Emptied afterwards.

    pytest-django's own way to that asks Django to flush, which takes half a second a test.
    """
    with django_db_blocker.unblock():
        try:
            yield
        finally:
            with connection.cursor() as cursor:
                cursor.execute(_EMPTY)
            connections.close_all()


def in_thread(act: Callable[..., object], *args: object) -> threading.Thread:
    """A thread that does it, started. What it used of the pool goes back when it ends, else the database can't be dropped."""

    def run() -> None:
        try:
            act(*args)
        finally:
            connections.close_all()

    thread = threading.Thread(target=run)
    thread.start()
    return thread


@pytest.fixture
def world(database, standin: StandIn) -> World:
    garden = Brand.objects.create(slug="garden", name="Fernhollow", zone="Europe/Madrid")
    bakery = Brand.objects.create(slug="bakery", name="Hogaza", zone="Europe/Madrid")
    for name, role in PEOPLE.items():
        user = User.objects.create_user(f"{name}@example.org", "a-long-password", name.title())
        Membership.objects.create(brand=garden, user=user, role=role, capabilities=sorted(ROLES[role]))
    bruno = User.objects.create_user("bruno@example.org", "a-long-password", "Bruno")
    Membership.objects.create(brand=bakery, user=bruno, role="coordinator", capabilities=sorted(ROLES["coordinator"]))
    connection, (profile,) = connected(standin, garden, "fernhollow")
    foreign = Profile.objects.create(
        brand=bakery, network="brisk", remote_id="hogaza", handle="@hogaza", name="Hogaza", kind="account"
    )
    return World(garden, bakery, profile, foreign, connection)


def picture(size: tuple[int, int] = (640, 480), kind: str = "JPEG", colour: str = "#2f6b4a", **how: Any) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, colour).save(out, kind, **how)
    return out.getvalue()


def post_in(
    text: str = "Forty kinds of moss", media: list[int] | None = None, profiles: list[int] | None = None, **more: Any
) -> dict[str, Any]:
    return {"master": {"text": text, "media": media or []}, "profiles": profiles or [], **more}


@pytest.fixture
def nursery(world, standin) -> Profile:
    """Another profile of the garden's at the same network."""
    Connection.objects.filter(pk=world.connection.pk).update(account="first")
    return connected(standin, world.garden, "nursery")[1][0]
