"""Lag of 1,000 deliveries due at one instant, two workers, beside as many no-ops of the engine with two workers."""

import time
import urllib.request
from datetime import datetime

import psycopg
from tools.stack import Stack

from bench.deliveries import defer_no_ops, make_world, plan_deliveries
from bench.place import fetch_one
from bench.result import Result

COUNT, PROFILES = 1000, 40


def measure(stack: Stack) -> Result:
    """p95 of (gone out - due), by the database's clock, against the seconds that two workers need for as many no-op jobs due
    at one instant. The stand-in answers at once and counts: nothing lost, nothing twice."""
    stack.env["MENUDO_PACE"] = "0"
    stack.start_module("standin", "bench.instant", str(stack.standin_port))
    stack.wait_for(f"{stack.standin_url}/", "standin")
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        make_world(stack)
        plan_deliveries(db, COUNT, PROFILES)
        _start_at_once(db, "send")
        _run_two_workers(stack, db, "SELECT count(*) FROM posts_delivery WHERE state = 'published'", "")
        [lag] = fetch_one(
            db,
            "SELECT percentile_cont(0.95) WITHIN GROUP (ORDER BY extract(epoch FROM published_at - due_at)) FROM posts_delivery",
        )
        with urllib.request.urlopen(f"{stack.standin_url}/", timeout=5) as answer:
            sent, twice = map(int, answer.read().split())
        assert (sent, twice) == (COUNT, 0), f"{sent} posts at the network for {COUNT} deliveries, {twice} twice"
        db.execute("DELETE FROM procrastinate_jobs")
        defer_no_ops(COUNT)
        due = _start_at_once(db, "bench_no_op")
        left = f"SELECT {COUNT} - count(*) FROM procrastinate_jobs WHERE task_name = 'bench_no_op' AND status IN ('todo', 'doing')"
        done = _run_two_workers(stack, db, left, "bench.no_op_worker")
        engine = done - due
    ran = f"{COUNT} deliveries of text for {PROFILES} profiles due at one instant, two workers, 4 at a time each"
    return Result(
        "lag", float(lag), engine, "s", float(lag) / engine, "<= 1.5 x no-op jobs", float(lag) <= 1.5 * engine, ran
    )


def _start_at_once(db: psycopg.Connection, task: str) -> float:
    """Put every job of a task, and what it is for, at one instant that both workers wait for: seconds since 1970.

    Planning took its time, and so does starting two workers.
    """
    at: datetime
    [at] = fetch_one(db, "SELECT now() + interval '12 seconds'")
    db.execute("UPDATE posts_delivery SET due_at = %s WHERE state = 'planned'", [at])
    db.execute("UPDATE procrastinate_jobs SET scheduled_at = %s WHERE task_name = %s", [at, task])
    return at.timestamp()


def _run_two_workers(stack: Stack, db: psycopg.Connection, done: str, module: str) -> float:
    """Two workers until all is done; the instant at which it was, by the database's clock (seconds since 1970)."""
    for name in ("one", "two"):
        if module:
            stack.start_module(name, module)
        else:
            stack.start_worker(name)
    try:
        until = time.monotonic() + 300
        while time.monotonic() < until:
            count, now = fetch_one(db, f"SELECT ({done}), extract(epoch FROM clock_timestamp())")
            if count >= COUNT:
                return float(now)
            time.sleep(0.02)
        raise SystemExit(f"not done in time; see {stack.log('one')[-2000:]}")
    finally:
        for name in ("one", "two"):
            stack.stop_one(name)
