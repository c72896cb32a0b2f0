"""Live streams: what other requests take beside 500 open ones in one web process, against without any."""

import http.client
import json
import statistics
import subprocess
import sys
import threading
import time
from typing import Any

from tools.stack import Stack

from bench.result import Result

STREAMS, PEOPLE, ROUNDS, THREADS, ASKED = 500, 20, 5, 3, 120


def measure(stack: Stack) -> Result:
    """Three at a time read what a page reads and write a draft now and then, which every stream hears of. p95 of all answers,
    round by round with and without streams, in turn."""
    from menudo.posts.models import Post

    # No other process answers, and nobody is refused for having so many.
    stack.env |= {"MENUDO_STREAMS_EACH": str(STREAMS)}
    sessions = _make_people()
    posts = list(Post.objects.order_by("pk").values_list("pk", flat=True)[:THREADS])
    stack.start_web()
    without: list[float] = []
    beside: list[float] = []
    _time_requests(stack, sessions[0], posts)
    for _ in range(ROUNDS):
        without.append(_p95(_time_requests(stack, sessions[0], posts)))
        with _Listeners(stack, [sessions[n % PEOPLE] for n in range(STREAMS)]) as listeners:
            beside.append(_p95(_time_requests(stack, sessions[0], posts)))
        writes = THREADS * ASKED // 20
        assert listeners.heard >= STREAMS * writes, f"{listeners.heard} changes heard of {STREAMS * writes}"
    ratio = statistics.median(a / b for a, b in zip(beside, without, strict=True))
    a, b = statistics.median(beside), statistics.median(without)
    ran = f"{STREAMS} streams of {PEOPLE} people in one web process, {THREADS * ASKED} requests a round, one of 20 a write; {ROUNDS} pairs"
    return Result("streams", a * 1000, b * 1000, "ms, p95", ratio, "<= 1.5 x without", ratio <= 1.5, ran)


class _Listeners:
    """The streams, in a process of their own; `heard`: how many changes came, known afterwards."""

    def __init__(self, stack: Stack, sessions: list[str]) -> None:
        command = [sys.executable, "-m", "bench.listeners", "127.0.0.1", str(stack.web_port), "/live/garden"]
        self.program = subprocess.Popen(
            [*command, str(len(sessions))], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, bufsize=1
        )
        self.sessions, self.heard = sessions, 0

    def __enter__(self) -> "_Listeners":
        assert self.program.stdin and self.program.stdout
        self.program.stdin.write("\n".join(self.sessions) + "\n")
        line = self.program.stdout.readline()
        assert line == f"open {len(self.sessions)}\n", line
        return self

    def __exit__(self, *_: object) -> None:
        assert self.program.stdin and self.program.stdout
        self.program.stdin.write("\n")
        line = self.program.stdout.readline()
        self.program.wait(30)
        assert line.startswith("heard "), line
        self.heard = int(line.split()[1])


def _make_people() -> list[str]:
    """A garden with 40 profiles and 400 deliveries, and people who are signed in there: their sessions' keys."""
    import uuid
    from datetime import timedelta

    from django.conf import settings
    from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
    from django.contrib.sessions.backends.db import SessionStore
    from django.utils import timezone

    from menudo.people.capabilities import ROLES
    from menudo.people.models import Brand, Membership, User
    from menudo.posts.models import Delivery, Post
    from menudo.profiles.models import Profile

    brand = Brand.objects.create(slug="garden", name="Garden", zone="Europe/Madrid")
    profiles = Profile.objects.bulk_create(
        Profile(brand=brand, network="brisk", remote_id=f"p{n}", handle=f"@p{n}", name=f"p{n}", kind="account")
        for n in range(40)
    )
    posts = Post.objects.bulk_create(
        Post(brand=brand, master={"text": f"Moss {n}", "media": []}, state="signed_off") for n in range(400)
    )
    Delivery.objects.bulk_create(
        Delivery(
            post=post,
            profile=profiles[n % 40],
            brand=brand,
            key=uuid.uuid4(),
            state="planned",
            zone="Europe/Madrid",
            due_at=timezone.now() + timedelta(minutes=47 * n),
            headline=f"Moss {n}",
        )
        for n, post in enumerate(posts[THREADS:])
    )
    keys = []
    for n in range(PEOPLE):
        user = User.objects.create_user(f"p{n}@example.org", None, f"Person {n}")
        Membership.objects.create(brand=brand, user=user, role="coordinator", capabilities=sorted(ROLES["coordinator"]))
        session = SessionStore()
        known = {
            BACKEND_SESSION_KEY: settings.AUTHENTICATION_BACKENDS[0],
            HASH_SESSION_KEY: user.get_session_auth_hash(),
        }
        session.update({SESSION_KEY: str(user.pk), **known})
        session.save()
        keys.append(session.session_key or "")
    return keys


def _time_requests(stack: Stack, session: str, posts: list[int]) -> list[float]:
    """Seconds of every answer."""
    took: list[float] = []
    threads = [threading.Thread(target=_request_once, args=[stack, session, post, took]) for post in posts]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(took) == THREADS * ASKED, f"{len(took)} answers of {THREADS * ASKED}"
    return took


def _request_once(stack: Stack, session: str, post: int, took: list[float]) -> None:
    garden = "/api/brands/garden"
    reads = ["/api/me", f"{garden}/strip", f"{garden}/today", f"{garden}/posts/{post}", f"{garden}/calendar?days=14"]
    line = http.client.HTTPConnection("127.0.0.1", stack.web_port, timeout=60)
    cookie = {"Cookie": f"sessionid={session}; csrftoken={'a' * 32}", "X-CSRFToken": "a" * 32}
    _, found = _send_request(line, "GET", f"{garden}/posts/{post}", cookie)
    revision = found["revision"]
    for n in range(ASKED):
        if n % 20:
            seconds, _ = _send_request(line, "GET", reads[n % 5], cookie)
        else:
            wording = {"master": {"text": f"Moss, written {n} and {revision}"}, "profiles": []}
            seconds, found = _send_request(
                line, "PUT", f"{garden}/posts/{post}", {**cookie, "If-Match": f'"{revision}"'}, wording
            )
            revision = found["revision"]
        took.append(seconds)


def _send_request(
    line: http.client.HTTPConnection,
    method: str,
    path: str,
    headers: dict[str, str],
    data: dict[str, Any] | None = None,
) -> tuple[float, dict[str, Any]]:
    started = time.perf_counter()
    body = json.dumps(data) if data is not None else None
    line.request(method, path, body, {**headers, **({"Content-Type": "application/json"} if body else {})})
    answer = line.getresponse()
    answer_body = answer.read()
    assert answer.status == 200, f"{method} {path}: {answer.status} {answer_body[:300]!r}"
    return time.perf_counter() - started, json.loads(answer_body)


def _p95(seconds: list[float]) -> float:
    return statistics.quantiles(seconds, n=20)[-1]
