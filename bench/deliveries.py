"""Deliveries a second with an instant stand-in and one worker, beside Procrastinate's own no-op jobs a second."""

import time
import urllib.request
from datetime import timedelta

import psycopg
from tools.stack import Stack

from bench.place import fetch_one
from bench.result import Result

COUNT = 400
PROFILES = 40


def measure(stack: Stack) -> Result:
    """Both are jobs already due when the worker starts, drained by one worker with four jobs at a time; time is by the database's clock."""
    # One profile is sent to as fast as it goes.
    stack.env["MENUDO_PACE"] = "0"
    stack.start_module("standin", "bench.instant", str(stack.standin_port))
    stack.wait_for(f"{stack.standin_url}/", "standin")
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        make_world(stack)
        plan_deliveries(db, COUNT, PROFILES)
        ours = _time_draining(stack, db, "SELECT count(*) FROM posts_delivery WHERE state = 'published'")
        with urllib.request.urlopen(f"{stack.standin_url}/", timeout=5) as answer:
            sent, twice = map(int, answer.read().split())
        assert (sent, twice) == (COUNT, 0), f"{sent} posts at the network for {COUNT} deliveries, {twice} twice"
        db.execute("DELETE FROM procrastinate_jobs")
        defer_no_ops(COUNT)
        idle = _time_draining(
            stack,
            db,
            f"SELECT {COUNT} - count(*) FROM procrastinate_jobs WHERE task_name = 'bench_no_op' AND status IN ('todo', 'doing')",
            "bench.no_op_worker",
        )
    a, b = COUNT / ours, COUNT / idle
    ran = f"{COUNT} deliveries of text for {PROFILES} profiles over the wire, and {COUNT} no-op jobs; one worker, 4 at a time"
    return Result("deliveries", a, b, "a second", a / b, ">= 0.5 x no-op jobs", a / b >= 0.5, ran)


def make_world(stack: Stack) -> None:
    from django.utils import timezone

    from menudo.base.sealing import seal
    from menudo.people.models import Brand
    from menudo.profiles.models import Connection, Profile

    brand = Brand.objects.create(slug="garden", name="Garden", zone="UTC")
    uids = [f"p{n}" for n in range(PROFILES)]
    connection = Connection.objects.create(
        brand=brand,
        network="brisk",
        account="desk",
        access_token=seal("token"),
        access_expires_at=timezone.now() + timedelta(hours=1),
        endpoints={"micropub": f"{stack.standin_url}/brisk/micropub", "media": f"{stack.standin_url}/brisk/media"},
    )
    Profile.objects.bulk_create(
        Profile(
            brand=brand, network="brisk", connection=connection, remote_id=u, handle=f"@{u}", name=u, kind="account"
        )
        for u in uids
    )


def plan_deliveries(db: psycopg.Connection, count: int, profiles: int) -> None:
    """`count` deliveries of text, due in a second, spread over the profiles, each with its job."""
    from menudo.posts.actions.enqueue_delivery import enqueue_delivery
    from menudo.posts.models import Delivery

    db.execute(
        "INSERT INTO posts_post (brand_id, title, master, state, revision) SELECT b.id, '', jsonb_build_object('text', 'Moss ' || n, 'media', '[]'::jsonb), 'signed_off', 1 FROM people_brand b, generate_series(1, %s) n",
        [count],
    )
    db.execute(
        "INSERT INTO posts_delivery (post_id, profile_id, brand_id, state, due_at, zone, key, step, tries, lease_holder, held_for, reason, reason_code, remote_url,"
        " headline, picture_count, revision) SELECT p.id, (SELECT min(id) FROM profiles_profile) + p.id %% %s, p.brand_id, 'planned', now() + interval '1 second', 'UTC',"
        " gen_random_uuid(), '', 0, '', '', '', '', '', '', 0, 1 FROM posts_post p",
        [profiles],
    )
    for delivery in Delivery.objects.all():
        enqueue_delivery(delivery)


def defer_no_ops(count: int) -> None:
    """As many jobs of the engine's that do nothing."""
    from bench.no_op_worker import do_nothing

    for _ in range(count):
        do_nothing.defer()


def _time_draining(stack: Stack, db: psycopg.Connection, done: str, module: str = "") -> float:
    """Seconds from the first to the last job done, the worker's own start left out."""
    worker = stack.start_worker("worker") if not module else stack.start_module("worker", module)
    try:
        first = 0.0
        until = time.monotonic() + 300
        while time.monotonic() < until:
            count = int(fetch_one(db, done)[0])
            if count and not first:
                first, left_before = time.perf_counter(), count
            if count >= COUNT:
                return (time.perf_counter() - first) * COUNT / max(COUNT - left_before, 1)
            time.sleep(0.02)
        raise SystemExit(f"not done in time; see {stack.log('worker')[-2000:]}")
    finally:
        stack.stop_one("worker")
        assert worker.poll() is not None
