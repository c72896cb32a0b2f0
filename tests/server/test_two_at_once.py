"""Two people at one post in the same moment, whatever each of them does: each waits for the other, neither is answered with
an error, and what is kept afterwards is what one after the other would have made of it."""

import itertools
import json
import os
import random
import threading
import time
import uuid
from collections import Counter
from collections.abc import Callable
from datetime import timedelta
from functools import partial

import pytest
from django.core.cache import cache
from django.db import connection, transaction
from django.db.models import Count
from django.utils import timezone

from menudo.base import clock
from menudo.catalogue.actions.save_catalogue import report_event
from menudo.catalogue.models import Catalogue, CatalogueEvent, CatalogueItem
from menudo.delivery.actions.pause import pause
from menudo.delivery.actions.send import send_due
from menudo.history.models import HistoryEvent
from menudo.people.context import BrandContext
from menudo.people.models import Membership, User
from menudo.posts.actions.move_deliveries import Move, move_deliveries
from menudo.posts.actions.plan_post import plan_post
from menudo.posts.actions.save_post import create_post, save_post
from menudo.posts.change import apply as applying
from menudo.posts.change.holds import refresh_holds
from menudo.posts.change.kernel import System
from menudo.posts.change.recheck_signoff import recheck_signoff
from menudo.posts.change.recompute_holds import recheck_holds
from menudo.posts.models import Delivery, Post, Version
from menudo.posts.schemas import PostIn, WhenIn
from menudo.profiles.actions.set_timetable import create_default_timetable
from menudo.profiles.models import Profile
from menudo.profiles.pauses import pauses_of
from menudo.signoff.actions.answer_signoff import approve
from menudo.signoff.models import SignOff
from menudo.signoff.signers import signer_of_person
from menudo_core.catalogue.events import EventKind
from tests.server.conftest import in_thread, post_in
from tests.server.test_signoff import garden

__all__ = ["garden"]
# More by hand (50 take an hour): a race that is lost once in a hundred is lost.
ROUNDS = int(os.environ.get("ROUNDS", "2"))
# Seconds by which one of them may be before the other, so that they meet at different places.
HEAD_START = 0.012
ACTIONS = [
    "save",
    "plan",
    "move",
    "swap",
    "unplan",
    "undo",
    "bin",
    "go_back",
    "approve",
    "send_back",
    "pause",
    "catch_up",
    "lay_out",
    "claim",
]
VERBS = {"save": "write", "approve": "agree", "go_back": "write", "lay_out": "lay", "claim": "publish"}


def wall(days: int) -> str:
    return (timezone.now() + timedelta(days=days)).strftime("%Y-%m-%dT12:00")


def person(world, name: str) -> BrandContext:
    user = User.objects.get(email=f"{name}@example.org")
    member = Membership.objects.get(user=user, brand=world.garden)
    return BrandContext(user, world.garden, frozenset(member.capabilities))


class Scene:
    """A post for four profiles: planned, due just now, missed, and not planned yet; and another one to change places with.
    With `loose` all of it is in the tray, where an undo may fetch it from. What each person does goes by what they saw."""

    def __init__(self, world, extra: list[Profile], agreed: bool, loose: bool) -> None:
        self.world, self.ines = world, person(world, "ines")
        profiles = [world.plaza.pk, world.profile.pk, *(p.pk for p in extra)]
        self.profiles, self.texts = profiles, {"Moss, agreed"} if agreed else set()
        post = create_post(self.ines, PostIn(**post_in("Moss, first", profiles=profiles)))
        self.entry = HistoryEvent.objects.filter(kind="post", object_id=post.pk, verb="make").get().pk
        post = save_post(self.ines, post, PostIn(**post_in("Moss, agreed", profiles=profiles)), post.revision)
        other = create_post(self.ines, PostIn(**post_in("Fern", profiles=profiles[:1])))
        at = WhenIn(kind="at", wall_time=wall(4))
        self.other = plan_post(self.ines, other, at, None, other.revision).planned[0]
        post = plan_post(self.ines, post, at, profiles[:3], post.revision).post
        if agreed:
            approve(signer_of_person(person(world, "maud")), post.pk, post.revision)
        mine = Delivery.objects.filter(post=post)
        if loose:
            moves = [Move(d.pk, d.revision, None) for d in mine if d.due_at]
        else:
            moves = [Move(d.pk, d.revision, wall(5)) for d in mine.filter(profile=profiles[0])]
            mine.filter(profile=profiles[1]).update(due_at=timezone.now() - timedelta(seconds=1))
            mine.filter(profile=profiles[2]).update(state="missed", held_for="paused", reason_code="missed")
        self.undo_entry = move_deliveries(self.ines, moves).undo
        self.post = Post.objects.get(pk=post.pk)
        by_profile = {delivery.profile_id: delivery for delivery in mine}
        self.first, self.fourth = by_profile[profiles[0]], by_profile[profiles[3]]
        self.swapped = Delivery.objects.get(pk=self.other)
        self.rows, self.versions = [self.post, *mine, self.swapped], list(post.versions.all())
        self.answers = set(SignOff.objects.filter(delivery__post=post).values_list("pk", flat=True))
        # Two clients for each person, since each thread has its own.
        self.clients = {(name, n): world.api(name).client for name in ("ines", "maud") for n in range(2)}
        self.began = HistoryEvent.objects.count()

    def again(self) -> None:
        """Everything as it was before anybody did anything."""
        for row in self.world.garden.pauses.filter(ended_at=None):
            row.delete()
        SignOff.objects.filter(delivery__post=self.post).exclude(pk__in=self.answers).delete()
        Version.objects.filter(post=self.post).delete()
        Version.objects.bulk_create(self.versions)
        Delivery.objects.filter(brand=self.world.garden).update(state="unplanned", lease_until=None)
        for row in self.rows:
            if isinstance(row, Delivery):
                # At the network it is another post.
                row.key = uuid.uuid4()
            row.save()
        HistoryEvent.objects.filter(pk=self.undo_entry).update(undone=False)
        # What is written soon after joins the entry before it.
        HistoryEvent.objects.filter(pk__gt=self.undo_entry, kind="post", object_id=self.post.pk).delete()
        self.began = HistoryEvent.objects.count()

    def ask(self, n: int, who: str, method: str, path: str, body=None, revision: int | None = None) -> int:
        client = self.clients[who, n]
        client.raise_request_exception = False
        headers = {"If-Match": f'"{revision}"'} if revision is not None else {}
        whole = f"/api/brands/garden/{path}"
        return client.generic(method, whole, json.dumps(body or {}), "application/json", headers=headers).status_code

    def act(self, what: str, n: int) -> int:
        """Do it, with a client of one's own; the answer's status."""
        post, first, at = self.post, self.first, f"posts/{self.post.pk}"
        said = post_in("Moss, saved", profiles=self.profiles)
        match what:
            case "save":
                return self.ask(n, "ines", "PUT", at, said, post.revision)
            case "plan":
                body = {"when": {"kind": "at", "wall_time": wall(6)}}
                return self.ask(n, "ines", "POST", f"{at}/plan", body, post.revision)
            case "move":
                path = f"deliveries/{first.pk}/move"
                return self.ask(n, "ines", "POST", path, {"wall_time": wall(7)}, first.revision)
            case "swap":
                one = {"id": first.pk, "revision": first.revision}
                other = {"id": self.other, "revision": self.swapped.revision}
                return self.ask(n, "ines", "POST", "swaps", {"one": one, "other": other})
            case "unplan":
                return self.ask(n, "ines", "POST", f"deliveries/{first.pk}/unschedule", {}, first.revision)
            case "undo":
                return self.ask(n, "ines", "POST", f"undo/{self.undo_entry}")
            case "bin":
                return self.ask(n, "ines", "DELETE", at)
            case "go_back":
                return self.ask(n, "ines", "POST", f"{at}/restore/{self.entry}", {}, post.revision)
            case "approve":
                return self.ask(n, "maud", "POST", f"{at}/approve", {}, post.revision)
            case "send_back":
                return self.ask(n, "maud", "POST", f"{at}/send-back", {"words": "No"}, post.revision)
            case "pause":
                return self.ask(n, "ines", "POST", "pauses", {"ends_at": "", "reason": ""})
            case "catch_up":
                return self.ask(n, "ines", "POST", "catch-up", {"choice": "next_slots"})
            case "lay_out":
                row = {"post": post.pk, "asset": None, "profile": self.fourth.profile_id, "wall_time": wall(8)}
                return self.ask(n, "ines", "POST", "batches", {"rows": [row], "seed": 1})
        send_due()
        return 200 if Delivery.objects.filter(post=post, state="published").exists() else 409


def at_once(acts: list[Callable[[], int]], ahead: float) -> list[int]:
    """What each came to; the first begins so many seconds ahead."""
    together, found = threading.Barrier(len(acts)), [0] * len(acts)

    def act(n: int) -> None:
        together.wait(10)
        if n:
            threading.Event().wait(ahead)
        found[n] = acts[n]()

    threads = [in_thread(act, n) for n in range(len(acts))]
    for thread in threads:
        thread.join(60)
    return found


def holds(scene: Scene, pair: tuple[str, str], statuses: list[int], case: tuple) -> None:
    """What must be so whichever came first."""
    assert all(status in (200, 201, 204, 404, 409, 412, 422) for status in statuses), case
    post, rows = Post.objects.get(pk=scene.post.pk), Delivery.objects.filter(post=scene.post)
    assert not rows.values("profile").annotate(n=Count("pk")).filter(n__gt=1), case
    # Looked at again there is nothing to put right: what is kept of sign-off and holds is not stale.
    if post.deleted_at is None:
        assert recheck_signoff(System(scene.world.garden), [post.pk]) == 0, case
    brand = scene.world.garden
    assert not refresh_holds(Delivery.objects.filter(brand=brand), pauses_of([brand.pk]), clock.now()), case
    assert recheck_holds() == 0, case
    planned = [row for row in rows if row.state not in ("unplanned", "called_off")]
    assert not (post.deleted_at and planned), case
    did = [what for what, status in zip(pair, statuses, strict=True) if status < 300]
    agreed = scene.texts | ({"Moss, agreed"} if "approve" in did else set())
    for row in rows.filter(state="published"):
        assert row.sent_content["text"] in agreed, (case, row.sent_content)
    said = Counter(HistoryEvent.objects.order_by("pk")[scene.began :].values_list("verb", flat=True))
    for what in did:
        assert said[VERBS.get(what, what)], (case, what, said)


@pytest.fixture
def pages(garden):
    """Two profiles more, on another network, with slots."""
    found = [
        Profile.objects.create(
            brand=garden.garden,
            network="plaza",
            remote_id=f"p{n}",
            handle=f"Page {n}",
            name="P",
            kind="page",
            connection=garden.connection,
        )
        for n in range(2)
    ]
    for page in found:
        create_default_timetable(page)
    return found


@pytest.mark.parametrize("what", ACTIONS)
def test_each_of_them_does_it_alone(garden, pages, what):
    """So that a pair that is refused, is so for what the other did."""
    cache.clear()
    scene = Scene(garden, pages, agreed=what not in ("approve", "send_back"), loose=what == "bin")
    assert scene.act(what, 0) in (200, 201, 204)


@pytest.mark.parametrize("one", ACTIONS)
def test_whatever_two_people_do_to_a_post_at_once_is_what_one_after_the_other_would_have_made(garden, pages, one):
    rng, scenes = random.Random(one), {}
    for other, n in itertools.product(ACTIONS[ACTIONS.index(one) :], range(ROUNDS)):
        cache.clear()
        pair = (one, other) if n % 2 == 0 else (other, one)
        # Either may be first, with what is agreed to and what isn't: four rounds have all of it.
        how, ahead = {"agreed": (n // 2 + n + len(other)) % 2 == 0, "loose": "bin" in pair}, rng.uniform(0, HEAD_START)
        if str(how) not in scenes:
            scenes[str(how)] = Scene(garden, pages, **how)
        scene = scenes[str(how)]
        scene.again()
        acts = [partial(scene.act, what, n) for n, what in enumerate(pair)]
        statuses = at_once(acts, ahead)
        holds(scene, pair, statuses, (pair, n, ahead, statuses))


def test_a_pause_that_begins_while_something_is_planned_holds_it(garden, monkeypatch):
    """The pause is begun when the planning has looked for pauses already, and hasn't written anything yet."""
    garden.garden.needs_signoff = False
    garden.garden.save()
    ines = person(garden, "ines")
    post = create_post(ines, PostIn(**post_in("Moss", profiles=[garden.profile.pk])))
    real, begun = applying.write_fields, []

    def write(rows, names):
        if "held_for" in names and not begun:
            begun.append(in_thread(pause, ines, None, "", ""))
            until = time.monotonic() + 20
            while begun[0].is_alive() and not waits_for_a_lock() and time.monotonic() < until:
                pass
        return real(rows, names)

    monkeypatch.setattr(applying, "write_fields", write)
    plan_post(ines, post, WhenIn(kind="at", wall_time=wall(3)), None, post.revision)
    begun[0].join(20)
    assert Delivery.objects.get(post=post).held_for == "paused"


def test_what_happened_to_a_thing_is_said_by_hand_while_its_catalogue_is_read(world):
    """Whoever says so comes when the reading has begun: he waits, and goes by what was read."""
    ines = person(world, "ines")
    catalogue = Catalogue.objects.create(brand=world.garden, name="Nursery", read_at=timezone.now())
    aster = CatalogueItem.objects.create(
        catalogue=catalogue, key="A", title="Aster", price=9, last_seen_at=timezone.now()
    )
    with transaction.atomic():
        Catalogue.objects.select_for_update().get(pk=catalogue.pk)
        said = in_thread(report_event, ines, aster.pk, EventKind.SOLD, None, None, "")
        while said.is_alive() and not waits_for_a_lock():
            pass
        CatalogueItem.objects.filter(pk=aster.pk).update(title="Aster, tall")
    said.join(20)
    assert CatalogueItem.objects.values_list("title", "availability").get() == ("Aster, tall", "sold")
    assert CatalogueEvent.objects.count() == 1


def waits_for_a_lock() -> bool:
    """Whether any statement in the tests' database waits for a lock."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'"
        )
        return bool(cursor.fetchone()[0])
