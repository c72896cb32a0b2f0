"""Laying out 2,000 deliveries in one step, and what goes out of the same profiles meanwhile."""

import statistics
import threading
import time
from datetime import UTC, datetime, timedelta

import psycopg
from tools.stack import Stack

from bench.deliveries import make_world
from bench.result import Result

POSTS, PROFILES, ROUNDS, BOUND = 200, 10, 5, 3.0
# As many go out beside each, one each so often.
BESIDE, APART = 60, 0.1
_POSTS = """
INSERT INTO posts_post (brand_id, title, master, state, revision)
SELECT b.id, %s, jsonb_build_object('text', 'Moss number ' || n || ' on the north wall #moss', 'media', '[]'::jsonb), 'draft', 1
FROM people_brand b, generate_series(1, %s) n RETURNING id
"""
_BESIDE = """
INSERT INTO posts_delivery (post_id, profile_id, brand_id, state, due_at, zone, key, step, tries, lease_holder, held_for, reason,
    reason_code, remote_url, headline, picture_count, revision)
SELECT id, (SELECT min(id) FROM profiles_profile) + id %% %s, brand_id, 'planned',
    now() + interval '1 second' + (row_number() OVER (ORDER BY id)) * interval '1 second' * %s, 'UTC', gen_random_uuid(),
    '', 0, '', '', '', '', '', '', 0, 1
FROM posts_post WHERE title = %s RETURNING id
"""


def measure(stack: Stack) -> Result:
    """Seconds of a layout, and the p95 of how late deliveries of the same profiles go out, beside layouts and without."""
    stack.env["MENUDO_PACE"] = "0"
    stack.start_module("standin", "bench.instant", str(stack.standin_port))
    stack.wait_for(f"{stack.standin_url}/", "standin")
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        make_world(stack)
        sets = [[post_id for (post_id,) in db.execute(_POSTS, [f"set {n}", POSTS])] for n in range(ROUNDS + 1)]
        stack.start_worker("worker")
        _time_batch(sets[0], 0)
        alone = _sending_lag(db, "alone")
        took: list[float] = []
        ended = threading.Event()

        def lay_out() -> None:
            for n, posts in enumerate(sets[1:], 1):
                took.append(_time_batch(posts, n))
            ended.set()

        thread = threading.Thread(target=lay_out)
        thread.start()
        beside = _sending_lag(db, "beside")
        thread.join()
        stack.stop_one("worker")
    seconds, ratio = statistics.median(took), beside / alone
    ran = (
        f"{POSTS * PROFILES} deliveries of {POSTS} posts, {ROUNDS} times; of {BESIDE} that fall due meanwhile p95 is "
        f"{beside * 1000:.0f} ms late, against {alone * 1000:.0f} without ({ratio:.2f} times)"
    )
    holds = seconds <= BOUND and ratio <= 1.5
    return Result("batch", seconds, BOUND, "seconds", seconds / BOUND, "<= 1, sending <= 1.5 x", holds, ran)


def _time_batch(posts: list[int], n: int) -> float:
    from menudo.people.capabilities import Capability
    from menudo.people.context import BrandContext
    from menudo.people.models import Brand, User
    from menudo.plans.actions.schedule_batch import schedule_batch
    from menudo.plans.schemas import BatchRowIn
    from menudo.profiles.models import Profile

    person, _ = User.objects.get_or_create(email="ines@example.org", defaults={"name": "Ines"})
    context = BrandContext(person, Brand.objects.get(), frozenset(Capability))
    profiles = list(Profile.objects.order_by("pk").values_list("pk", flat=True)[:PROFILES])
    first = datetime.combine(datetime.now(UTC).date() + timedelta(days=2 + 40 * n), datetime.min.time())
    rows = [
        BatchRowIn(
            post=post,
            asset=None,
            profile=profile,
            wall_time=(first + timedelta(hours=4 * at)).isoformat(),
            zone="UTC",
            jitter=0,
        )
        for at, post in enumerate(posts)
        for profile in profiles
    ]
    started = time.perf_counter()
    done = schedule_batch(context, rows, 7)
    took = time.perf_counter() - started
    assert len(done.planned) == POSTS * PROFILES and not done.left
    return took


def _sending_lag(db: psycopg.Connection, title: str) -> float:
    """Of deliveries that fall due one after another: p95 of how late each went out, in seconds."""
    from menudo.posts.actions.enqueue_delivery import enqueue_delivery
    from menudo.posts.models import Delivery

    db.execute(_POSTS, [title, BESIDE])
    ids = [delivery_id for (delivery_id,) in db.execute(_BESIDE, [PROFILES, APART, title])]
    for delivery in Delivery.objects.filter(pk__in=ids):
        enqueue_delivery(delivery)
    out = "SELECT count(*) FROM posts_delivery WHERE id = ANY(%s) AND state = 'published'"
    until = time.monotonic() + 120
    while db.execute(out, [ids]).fetchone()[0] < BESIDE:  # type: ignore[index]
        assert time.monotonic() < until, "not done in time"
        time.sleep(0.05)
    late = "SELECT percentile_cont(0.95) WITHIN GROUP (ORDER BY extract(epoch FROM published_at - due_at)) FROM posts_delivery WHERE id = ANY(%s)"
    return float(db.execute(late, [ids]).fetchone()[0])  # type: ignore[index]
