"""Fifty people at work in an office of 400 profiles, against one web process and one worker, while a thousand deliveries go out."""

import asyncio
import statistics
import sys
import time
import urllib.request
from datetime import UTC, datetime, timedelta

import psycopg
from tools.demo import load
from tools.stack import Stack

from bench.crowd_people import COMING_SECONDS, Office, Person, work_all
from bench.place import fetch_one
from bench.result import Result

PEOPLE, SECONDS, MINUTE = 50, 300, 60
# Deliveries and, half a burst later, as many jobs that do nothing are due at one instant.
BURSTS, EACH = 10, 100
P95_SECONDS, LAG_RATIO = 0.4, 1.5
# When the first of them is due all have come in.
_LEAD_SECONDS = COMING_SECONDS


def measure(stack: Stack) -> Result:
    """p95 of all answers that somebody waits for: of what is read again because others changed it, it is told beside. The network answers
    at once and counts what it was given."""
    stack.env |= {"MENUDO_PACE": "0"}
    stack.start_standin()
    load(stack, fresh=True, large=True)
    stack.stop_one("standin")
    return run_day(stack)


def run_day(stack: Stack) -> Result:
    """All of it, on a stack whose database has the large office."""
    stack.start_module("standin", "bench.instant", str(stack.standin_port))
    stack.wait_for(f"{stack.standin_url}/", "standin")
    office, people = _make_office(stack)
    # As autovacuum does soon after.
    stack.cluster.sql("VACUUM ANALYZE", stack.database)
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        first = datetime.now(UTC) + timedelta(seconds=_LEAD_SECONDS)
        bursts = [first + timedelta(seconds=n * SECONDS / BURSTS) for n in range(BURSTS)]
        _set_due(db, bursts, office.label)
        _defer_no_ops([at + timedelta(seconds=SECONDS / BURSTS / 2) for at in bursts])
        stack.start_web()
        stack.start_worker()
        stack.start_module("engine", "bench.no_op_worker", "keep")
        office.until = time.monotonic() + SECONDS + _LEAD_SECONDS
        asyncio.run(work_all(people))
        lag, engine = _wait_for_lags(db, stack)
    with urllib.request.urlopen(f"{stack.standin_url}/", timeout=5) as answer:
        sent, twice = map(int, answer.read().split())
    if (sent, twice) != (BURSTS * EACH, 0):
        office.faults.append(f"{sent} posts at the network for {BURSTS * EACH} deliveries, {twice} twice")
    _print_answers(office)
    again = office.took.pop("again", [0.0])
    every = [one for took in office.took.values() for one in took]
    p95 = _p95(every)
    ran = (
        f"{len(people)} people for {SECONDS} s, {len(every)} answers, {len(office.faults)} faults; read again for others' changes {len(again)} times, "
        f"p95 {_p95(again):.1f} s; {BURSTS * EACH} deliveries in {BURSTS} bursts, "
        f"p95 {lag:.2f} s late, as many no-op jobs of the engine's {engine:.2f} s; one web process, one worker; the reference is the bound"
    )
    holds = p95 <= P95_SECONDS and not office.faults and lag <= LAG_RATIO * max(engine, 1)
    return Result(
        "crowd", p95 * 1000, P95_SECONDS * 1000, "ms, p95", p95 / P95_SECONDS, "<= 400 ms, no fault", holds, ran
    )


def _print_answers(office: Office) -> None:
    for what, took in sorted(office.took.items()):
        print(f"{what:10} {len(took):6}  median {statistics.median(took) * 1000:5.0f} ms  p95 {_p95(took) * 1000:5.0f} ms", file=sys.stderr)  # fmt: skip # a table's row
    for fault in office.faults[:10]:
        print(fault, file=sys.stderr)


def _p95(took: list[float]) -> float:
    return statistics.quantiles(took, n=20, method="inclusive")[-1] if len(took) > 1 else took[0]


def _make_office(stack: Stack) -> tuple[Office, list[Person]]:
    """The league, signed into by all of its people; posts with one label are signed off."""
    from django.conf import settings
    from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
    from django.contrib.sessions.backends.db import SessionStore

    from menudo.labels.models import Label
    from menudo.people.capabilities import ROLES
    from menudo.people.models import Brand, Membership, User
    from menudo.posts.models import Delivery
    from menudo.profiles.models import Connection, Profile
    from menudo.signoff.models import SignRule

    brand = Brand.objects.get(slug="league")
    label = Label.objects.filter(brand=brand).first()
    assert label is not None
    Brand.objects.filter(pk=brand.pk).update(needs_signoff=True)
    SignRule.objects.create(brand=brand, name="What is labelled", labels=[label.pk])
    Connection.objects.filter(brand=brand).update(access_expires_at=datetime.now(UTC) + timedelta(days=1))
    profiles = Profile.objects.filter(brand=brand).order_by("network", "handle")
    soon = datetime.now(UTC) + timedelta(days=3)
    moves = Delivery.objects.filter(brand=brand, state="planned", due_at__gt=soon).exclude(post__labels=label)
    office = Office(
        host="127.0.0.1",
        port=stack.web_port,
        first=f"{datetime.now(UTC).date()}",
        lanes=[one.pk for one in profiles],
        networks={one.pk: one.network for one in profiles},
        moves=list(moves.order_by("due_at").values_list("pk", flat=True)[:3000]),
        label=label.pk,
        until=0,
    )
    for n in range(PEOPLE - Membership.objects.filter(brand=brand).count()):
        user = User.objects.create_user(f"crowd{n}@example.org", None, f"Person {n}")
        Membership.objects.create(brand=brand, user=user, role="coordinator", capabilities=sorted(ROLES["coordinator"]))
    people = []
    for n, member in enumerate(Membership.objects.filter(brand=brand).select_related("user").order_by("pk")):
        session = SessionStore()
        known = {
            BACKEND_SESSION_KEY: settings.AUTHENTICATION_BACKENDS[0],
            HASH_SESSION_KEY: member.user.get_session_auth_hash(),
        }
        session.update({SESSION_KEY: str(member.user.pk), **known})
        session.save()
        people.append(Person(office, session.session_key or "", frozenset(member.capabilities), n))
    return office, people


def _set_due(db: psycopg.Connection, bursts: list[datetime], signed: int) -> None:
    """A thousand deliveries of text, of those planned for later, a burst's due at one instant; whatever else would fall due goes later.
    What has the label `signed` would wait for sign-off."""
    db.execute(
        "UPDATE posts_delivery SET due_at = due_at + interval '2 days' WHERE state = 'planned' AND due_at < now() + interval '1 hour'"
    )
    chosen = (
        "SELECT d.id, row_number() OVER (ORDER BY d.due_at DESC, d.id) - 1 AS n FROM posts_delivery d JOIN profiles_profile p ON p.id = d.profile_id"
        " WHERE d.state = 'planned' AND p.network = 'brisk' AND p.connection_id IS NOT NULL AND d.picture_count = 0"
        " AND NOT EXISTS (SELECT 1 FROM posts_post_labels l WHERE l.post_id = d.post_id AND l.label_id = %s)"
        f" ORDER BY d.due_at DESC, d.id LIMIT {BURSTS * EACH}"
    )
    db.execute(
        f"UPDATE posts_delivery d SET due_at = (%s::timestamptz[])[1 + c.n / {EACH}] FROM ({chosen}) c WHERE c.id = d.id".encode(),
        [bursts, signed],
    )
    # The worker, when it starts, gives jobs to what is due soon.
    db.execute("DELETE FROM procrastinate_jobs WHERE task_name = 'send'")
    [count] = fetch_one(
        db, "SELECT count(*) FROM posts_delivery WHERE due_at < now() + interval '1 hour' AND state = 'planned'"
    )
    assert count == BURSTS * EACH, f"{count} deliveries are due"


def _defer_no_ops(bursts: list[datetime]) -> None:
    from bench.no_op_worker import do_nothing

    for at in bursts:
        for _ in range(EACH):
            do_nothing.configure(schedule_at=at).defer()


def _wait_for_lags(db: psycopg.Connection, stack: Stack) -> tuple[float, float]:
    """p95 of how late deliveries went out and jobs that do nothing were done, in seconds, once all are."""
    left = (
        "SELECT (SELECT count(*) FROM posts_delivery WHERE state IN ('planned', 'sending') AND due_at < now()) + (SELECT count(*) FROM"
        " procrastinate_jobs WHERE task_name = 'bench_no_op' AND status IN ('todo', 'doing'))"
    )
    until = time.monotonic() + MINUTE
    while fetch_one(db, left)[0]:
        if time.monotonic() > until:
            raise SystemExit(f"not all went out; see {stack.log('worker')[-2000:]}")
        time.sleep(0.2)
    late = "percentile_cont(0.95) WITHIN GROUP (ORDER BY extract(epoch FROM {} - {}))"
    [lag] = fetch_one(
        db,
        f"SELECT {late.format('published_at', 'due_at')} FROM posts_delivery WHERE published_at > now() - interval '10 minutes'",
    )
    [engine] = fetch_one(
        db,
        f"SELECT {late.format('e.at', 'j.scheduled_at')} FROM procrastinate_jobs j JOIN procrastinate_events e ON e.job_id = j.id"
        " WHERE j.task_name = 'bench_no_op' AND e.type = 'succeeded'",
    )
    return float(lag), float(engine)
