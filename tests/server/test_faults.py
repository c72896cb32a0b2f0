"""The fault matrix: a worker killed with signal 9 after each step × what the network is like when the next one comes.

Real programs: a worker process, the stand-in, PostgreSQL. The worker is held at each step from outside: the
stand-in holds a request before or after acting on it, or a lock on the delivery's row holds the outcome back.
Whatever happens: exactly one post, or one delivery in trouble that says why; never two, never none and silence.
"""

import time
import uuid
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import psycopg
import pytest
from psycopg.types.json import Jsonb
from tools.database import Cluster
from tools.stack import Stack

NETWORKS = ("fine", "slow", "down", "answer_lost")
# The wires, by a network of the stand-in's that speaks each.
WIRES = {"micropub": ("brisk", "account"), "atompub": ("foolscap", "blog")}
# Each step: how the worker is held there, and whether the post has a picture.
STEPS = ("claimed", "media sent", "post created", "answer lost", "outcome unwritten")
QUICK = {
    "MENUDO_LEASE_SECONDS": "3",
    "MENUDO_PACE": "0",
    "MENUDO_WIRE_TIMEOUT": "2",
    "MENUDO_BACKOFF_BASE": "0.4",
    "MENUDO_BACKOFF_MOST": "1",
    "MENUDO_POLL_SECONDS": "0.5",
    "MENUDO_BACKOFF_TRIES": "12",
}


def until(said: str, true: Callable[[], Any], seconds: float = 45) -> Any:
    """Wait for a condition, and fail by name when it never comes."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if found := true():
            return found
        time.sleep(0.05)
    pytest.fail(f"never came: {said}")


class Scene:
    """Four profiles on each wire, one for each kind of network, on a stack of their own."""

    network = ""

    def __init__(self, stack: Stack, db: psycopg.Connection[Any]) -> None:
        self.stack, self.db = stack, db

    def fault(self, kind: str, profile: str = "", **more: Any) -> None:
        self.stack.control("fault", {"network": self.network, "kind": kind, "profile": profile, **more})

    def behave(self, profile: str = "") -> None:
        self.stack.control(f"fault?network={self.network}&profile={profile}", method="DELETE")

    def plan(self, profile: str, text: str, media: list[int]) -> int:
        one = lambda sql, *values: self.db.execute(sql, values).fetchone()[0]  # noqa: E731
        profile_id, brand_id = self.db.execute(
            "SELECT id, brand_id FROM profiles_profile WHERE name = %s AND network = %s", [profile, self.network]
        ).fetchone()
        post = one(
            "INSERT INTO posts_post (brand_id, title, master, state, revision) VALUES (%s, '', %s, 'signed_off', 1) RETURNING id",
            brand_id,
            Jsonb({"text": text, "media": media}),
        )
        # No job: the sweep of a worker that starts must find it, as it must find what a dead one left.
        return one(
            "INSERT INTO posts_delivery (post_id, profile_id, brand_id, state, due_at, zone, key, step, tries, lease_holder, held_for, reason, reason_code,"
            " remote_url, headline, picture_count, revision) VALUES (%s,%s,%s,'planned',%s,'UTC',%s,'',0,'','','','','','',0,1) RETURNING id",
            post,
            profile_id,
            brand_id,
            datetime.now(UTC),
            uuid.uuid4(),
        )

    def states(self, ids: list[int]) -> dict[int, tuple[str, str, str]]:
        rows = self.db.execute(
            "SELECT id, state, step, reason FROM posts_delivery WHERE id = ANY(%s)", [ids]
        ).fetchall()
        return {delivery_id: (state, step, reason) for delivery_id, state, step, reason in rows}

    def posts(self, text: str) -> list[dict[str, Any]]:
        return [p for p in self.stack.control("posts") if p["body"]["text"] == text]


@pytest.fixture(scope="module")
def scene(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Scene]:
    cluster = Cluster()
    cluster.start()
    name = f"menudo_faults_{uuid.uuid4().hex[:8]}"
    cluster.make_database(name)
    stack = Stack(cluster, name, Path(tmp_path_factory.mktemp("faults")), QUICK)
    try:
        stack.migrate()
        stack.start_standin()
        stack.manage("shell", "-c", _WORLD)
        with psycopg.connect(cluster.url(name), autocommit=True) as db:
            yield Scene(stack, db)
    finally:
        stack.stop()
        cluster.drop_database(name)


# One sign-in a profile, so that the stand-in can tell whose media request it is.
_WORLD = f"""
import io
from datetime import timedelta
from django.utils import timezone
from PIL import Image
import httpx2
import os
from menudo.base.sealing import seal
from menudo.history.actions.record_event import Actor
from menudo.library.actions.add_asset import add_asset
from menudo.people.context import BrandContext
from menudo.people.models import Brand, User
from menudo.people.capabilities import Capability
from menudo.profiles.models import Connection, Profile
from menudo.networks.registry import open_adapter
from menudo.networks.sign_in import discover
brand = Brand.objects.create(slug="garden", name="Garden", zone="UTC")
user = User.objects.create_user("ines@example.org", None, "Ines")
for network, kind in {list(WIRES.values())!r}:
    for uid in {NETWORKS!r}:
        control = os.environ["MENUDO_STANDIN_URL"] + "/control/api/"
        profile = dict(uid=uid, handle="@" + uid, name=uid, kind=kind)
        httpx2.post(control + "seed", json=dict(accounts=[dict(network=network, login=uid, password="x", name=uid, profiles=[profile])]))
        tokens = httpx2.post(control + "grant", json=dict(network=network, login=uid, profiles=[uid])).json()
        endpoints = discover(network)
        (place,) = open_adapter(endpoints, tokens["access_token"]).destinations()
        connection = Connection.objects.create(brand=brand, network=network, account=uid, access_token=seal(tokens["access_token"]),
            refresh_token=seal(tokens["refresh_token"]), access_expires_at=timezone.now() + timedelta(hours=1), endpoints=endpoints)
        Profile.objects.create(brand=brand, network=network, connection=connection, remote_id=place.remote_id, handle="@" + uid, name=uid, kind=kind)
out = io.BytesIO()
Image.new("RGB", (300, 300), "#2f6b4a").save(out, "PNG")
add_asset(BrandContext(user, brand, frozenset(Capability)), out.getvalue(), "moss.png")
"""


@pytest.mark.parametrize("wire", WIRES)
@pytest.mark.parametrize("step", STEPS)
def test_a_worker_killed_after_each_step_leaves_exactly_one_post(scene: Scene, step: str, wire: str) -> None:
    scene.network = WIRES[wire][0]
    scene.behave()
    asset = scene.db.execute("SELECT id FROM library_asset").fetchone()[0]
    texts = {network: f"{wire}: {step}, {network}" for network in NETWORKS}
    ids = {network: scene.plan(network, texts[network], [asset]) for network in NETWORKS}
    lock = None
    if step == "claimed":
        scene.fault("hold_before", at="media")
    elif step == "media sent":
        scene.fault("hold_before", at="create")
    elif step == "post created":
        scene.fault("hold_after", at="create")
    elif step == "answer lost":
        scene.fault("answer_lost", at="create")
    else:
        scene.fault("hold_after", at="create")

    scene.stack.start_worker("doomed", MENUDO_LEASE_SECONDS="6", MENUDO_WIRE_TIMEOUT="30", MENUDO_BACKOFF_BASE="2")
    if step == "answer lost":
        until("every answer lost once", lambda: all(scene.posts(text) for text in texts.values()))
    else:
        until("all four held", lambda: len(scene.stack.control("state")["held"]) == len(NETWORKS))
    if step == "outcome unwritten":
        # The answers arrive, and the worker can't write what came of them.
        lock = psycopg.connect(scene.db.info.dsn, password=scene.db.info.password)
        lock.execute("SELECT id FROM posts_delivery WHERE id = ANY(%s) FOR UPDATE", [list(ids.values())])
        scene.behave()
        waiting = (
            "SELECT count(*) FROM pg_stat_activity WHERE wait_event_type = 'Lock' AND datname = current_database()"
        )
        # One write for all four: they came back together.
        until("the write waiting", lambda: scene.db.execute(waiting).fetchone()[0])
    scene.stack.kill("doomed")
    if lock is not None:
        # The dead worker's statements end with their connections; then the rows are free again.
        lock.close()
    before = {network: len(scene.posts(texts[network])) for network in NETWORKS}
    assert set(before.values()) == ({0} if step in ("claimed", "media sent") else {1})
    scene.behave()

    scene.fault("slow", "slow", seconds=1)
    scene.fault("down", "down")
    scene.fault("answer_lost", "answer_lost")
    scene.stack.start_worker("next")
    ended = {"published", "in_trouble"}
    well = [ids["fine"], ids["slow"]]
    until("fine and slow ended", lambda: all(s[0] in ended for s in scene.states(well).values()))
    scene.behave()
    until("all ended", lambda: all(s[0] in ended for s in scene.states(list(ids.values())).values()))
    states = scene.states(list(ids.values()))
    scene.stack.kill("next")
    for network in NETWORKS:
        state, _, reason = states[ids[network]]
        posts = scene.posts(texts[network])
        assert len(posts) == 1, (network, state, reason)
        assert state == "published" or reason, (network, state, reason)
        assert len(posts[0]["body"]["media"]) == 1
