"""A thousand deliveries while workers are killed, the network misbehaves, and the database crashes: none lost, none twice.

The count at the end is against the stand-in's own record.
"""

import random
import time
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import psycopg
from tools.stack import Stack

from bench.result import Result
from bench.throttle import throttled_relay

COUNT, PROFILES, STORM_SECONDS = 1000, 40, 90.0
QUICK = {
    "MENUDO_LEASE_SECONDS": "4",
    "MENUDO_PACE": "0",
    "MENUDO_WIRE_TIMEOUT": "2",
    "MENUDO_BACKOFF_BASE": "0.4",
    "MENUDO_BACKOFF_MOST": "2",
    "MENUDO_POLL_SECONDS": "0.5",
    "MENUDO_BACKOFF_TRIES": "60",
}
ENDED = ("published", "in_trouble")
FAULTS = ("down", "answer_lost", "slow", "rate_limiting")
EVERY_FAULT = (*FAULTS, "refusing", "forgetful", "hold_before", "hold_after")
BOTH = ("brisk", "foolscap")
# A picture of more than four megabytes takes longer than the lease of four seconds.
UPLOAD_BYTES_A_SECOND = 800_000


@dataclass(frozen=True, slots=True)
class Outcome:
    """What was counted. `twice`: texts that are at the network more than once; `lost`: deliveries that are neither out nor
    in trouble with a reason, or said to be out and not there."""

    published: int
    trouble: int
    twice: int
    lost: int
    kills: int
    crashes: int
    faults: int


def measure(stack: Stack, long: bool = False) -> Result:
    """`./menudo bench chaos`; with `--long` on both wires, with uploads that take longer than a lease, and more mishaps."""
    stack.env.update(QUICK)
    if long:
        with throttled_relay(stack.standin_url, UPLOAD_BYTES_A_SECOND) as address:
            networks = Path(stack.env["MENUDO_NETWORKS"])
            networks.write_text(networks.read_text().replace(stack.standin_url, address))
            found = run_storm(stack, COUNT, PROFILES, STORM_SECONDS * 2, 20261127, 3, kills=40, wires=BOTH, uploads=40)
    else:
        found = run_storm(stack, COUNT, PROFILES, STORM_SECONDS, seed=20261125, crashes=3)
    good = found.published + found.trouble
    ran = (
        f"{COUNT} deliveries for {PROFILES} profiles{' on two wires' if long else ''}, two workers: {found.kills} workers "
        f"killed, {found.crashes} database crashes, {found.faults} faults at the network"
        f"{', 40 uploads longer than a lease' if long else ''}; {found.published} out, {found.trouble} in trouble, "
        f"{found.twice} twice, {found.lost} lost"
    )
    holds = found.twice == 0 and found.lost == 0 and good == COUNT
    return Result("chaos", good, COUNT, "accounted for", good / COUNT, "= 1, none twice", holds, ran)


def run_storm(
    stack: Stack,
    count: int,
    profiles: int,
    seconds: float,
    seed: int,
    crashes: int,
    kills: int = 0,
    wires: Sequence[str] = ("brisk",),
    uploads: int = 0,
) -> Outcome:
    """Half of it due at one instant, the rest over the `seconds` of mishaps drawn from `seed`; then calm until all has ended.
    `kills`: so many at least (0: as it comes). `uploads`: so many of the posts have a picture."""
    dice = random.Random(seed)
    stack.start_standin()
    world = {"profiles": profiles, "count": count, "seconds": seconds, "wires": tuple(wires), "uploads": uploads}
    stack.manage("shell", "-c", _WORLD.format(**world))
    workers = ["one", "two"]
    for name in workers:
        stack.start_worker(name)
    killed = broke = faults = 0
    kinds = FAULTS if len(wires) == 1 else EVERY_FAULT
    end = time.monotonic() + seconds
    at_crash = sorted(end - seconds * share for share in (dice.uniform(0.1, 0.8) for _ in range(crashes)))
    while (now := time.monotonic()) < end or killed < kills:
        if not kills and _has_ended(stack, count):
            break
        if at_crash and now >= at_crash[0]:
            at_crash.pop(0)
            stack.cluster.crash()
            broke += 1
        elif dice.random() < 0.45:
            stack.kill(name := dice.choice(workers))
            stack.start_worker(name)
            killed += 1
        else:
            fault = {"network": dice.choice(wires), "kind": dice.choice(kinds), "profile": "", "seconds": 0.3}
            stack.control("fault", fault)
            faults += 1
        _wait_restarting(stack, workers, dice.uniform(0.2, 1.4) if not kills else dice.uniform(1, 5))
        for network in wires:
            stack.control(f"fault?network={network}", method="DELETE")
    until = time.monotonic() + 300
    while not _has_ended(stack, count) and time.monotonic() < until:
        _wait_restarting(stack, workers, 0.5)
    return _count_outcome(stack, killed, broke, faults)


def _wait_restarting(stack: Stack, workers: list[str], seconds: float) -> None:
    """A mishap lasts so long; a worker that ended by itself (its database was gone) is started again, as a service is."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        for name in workers:
            if stack.processes[name].poll() is not None:
                stack.start_worker(name)
        time.sleep(0.05)


def _has_ended(stack: Stack, count: int) -> bool:
    rows = _query(stack, "SELECT count(*) FROM posts_delivery WHERE state = ANY(%s)", list(ENDED))
    return bool(rows) and rows[0][0] == count


def _query(stack: Stack, sql: str, *values: Any) -> list[tuple[Any, ...]]:
    """Rows; none while the database is away."""
    try:
        with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
            return db.execute(sql, values).fetchall()
    except psycopg.OperationalError:
        return []


def _count_outcome(stack: Stack, kills: int, crashes: int, faults: int) -> Outcome:
    there = Counter(post["body"]["text"] for post in stack.control("posts"))
    rows = _query(
        stack, "SELECT p.master->>'text', d.state, d.reason FROM posts_delivery d JOIN posts_post p ON p.id = d.post_id"
    )
    published = sum(state == "published" for _, state, _ in rows)
    trouble = sum(state == "in_trouble" and bool(reason) for _, state, reason in rows)
    lost = sum(
        (state == "published") > there[text] or state not in ENDED or (state == "in_trouble" and not reason)
        for text, state, reason in rows
    )
    return Outcome(published, trouble, sum(n > 1 for n in there.values()), lost, kills, crashes, faults)


_WORLD = """
from datetime import timedelta
import io
import uuid
import httpx2
import os
from PIL import Image
from django.utils import timezone
from menudo.base.sealing import seal
from menudo.library.actions.add_asset import add_asset
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Brand, User
from menudo.posts.actions.enqueue_delivery import enqueue_delivery
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Connection, Profile
from menudo.networks.registry import open_adapter
from menudo.networks.sign_in import discover
brand = Brand.objects.create(slug="chaos", name="Chaos", zone="UTC")
user = User.objects.create_user("chaos@example.org", None, "Chaos")
control = os.environ["MENUDO_STANDIN_URL"] + "/control/api/"
profiles = []
for network in {wires}:
    kind = "blog" if network == "foolscap" else "account"
    uids = ["%s%d" % (network, n) for n in range({profiles} // len({wires}))]
    named = [dict(uid=u, handle="@" + u, name=u, kind=kind) for u in uids]
    httpx2.post(control + "seed", json=dict(accounts=[dict(network=network, login="chaos", password="x", name="Chaos", profiles=named)]))
    tokens = httpx2.post(control + "grant", json=dict(network=network, login="chaos", profiles=uids)).json()
    endpoints = discover(network)
    places = open_adapter(endpoints, tokens["access_token"]).destinations()
    connection = Connection.objects.create(brand=brand, network=network, account="chaos", access_token=seal(tokens["access_token"]),
        refresh_token=seal(tokens["refresh_token"]), access_expires_at=timezone.now() + timedelta(hours=1), endpoints=endpoints)
    profiles += Profile.objects.bulk_create([Profile(brand=brand, network=network, connection=connection, remote_id=p.remote_id, handle=p.handle, name=p.name, kind=kind) for p in places])
media = []
if {uploads}:
    out = io.BytesIO()
    Image.effect_noise((1900, 1900), 90).convert("RGB").save(out, "JPEG", quality=97)
    media = [add_asset(BrandContext(user, brand, frozenset(Capability)), out.getvalue(), "noise.jpg", "Noise").pk]
every = {count} // ({uploads} or 1)
posts = Post.objects.bulk_create([Post(brand=brand, master=dict(text="Moss %d" % n, media=media if {uploads} and n % every == 1 else []), state="signed_off", requested_at=timezone.now()) for n in range({count})])
due = timezone.now() + timedelta(seconds=2)
# The other half comes while the storm lasts, which would find too little to do else.
late = [timedelta(seconds={seconds} * n / {count}) if n % 2 else timedelta() for n in range({count})]
made = Delivery.objects.bulk_create([Delivery(post=p, profile=profiles[n % len(profiles)], brand=brand, key=uuid.uuid4(), state="planned", due_at=due + late[n], zone="UTC") for n, p in enumerate(posts)])
for one in made:
    enqueue_delivery(one)
"""
