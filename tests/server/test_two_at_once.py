"""Two people at one post in the same moment, whatever each of them does: each waits for the other, neither is answered with
an error, and what is kept afterwards is what one after the other would have made of it."""

import itertools
import json
import os
import random
import threading
from collections import Counter
from collections.abc import Callable
from datetime import timedelta

import pytest
from django.core.cache import cache
from django.db import connections, transaction
from django.db.models import Count
from django.test import Client
from django.utils import timezone

from menudo.delivery.actions.send import send
from menudo.history.models import Entry
from menudo.people.here import Here
from menudo.people.models import Membership, User
from menudo.posts.actions.plan import plan
from menudo.posts.actions.save import make, save
from menudo.posts.actions.shift import Move, shift
from menudo.posts.change.holds import recompute_holds
from menudo.posts.change.kernel import System
from menudo.posts.change.recheck import recheck_signoff
from menudo.posts.models import Delivery, Post
from menudo.posts.schemas import PostIn, WhenIn
from menudo.profiles.models import Profile
from menudo.signoff.actions.answer import agree
from menudo.signoff.signers import of_person
from tests.server.conftest import post_in
from tests.server.test_signoff import garden

__all__ = ["garden"]
# More by hand (50 take an hour): a race that is lost once in a hundred is lost.
ROUNDS = int(os.environ.get("ROUNDS", "2"))
# Seconds by which one of them may be before the other, so that they meet at different places.
HEAD_START = 0.012
ACTIONS = [
    "save", "plan", "move", "swap", "unplan", "undo", "bin", "go_back", "agree", "send_back", "pause", "catch_up",
    "lay_out", "claim",
]  # fmt: skip
VERBS = {"save": "write", "go_back": "write", "lay_out": "lay", "claim": "publish"}


def wall(days: int) -> str:
    return (timezone.now() + timedelta(days=days)).strftime("%Y-%m-%dT12:00")


def person(world, name: str) -> Here:
    user = User.objects.get(email=f"{name}@example.org")
    member = Membership.objects.get(user=user, brand=world.garden)
    return Here(user, world.garden, frozenset(member.capabilities))


class Scene:
    """A post for four profiles: planned, due just now, missed, and not planned yet; and another one to change places with.
    With `loose` all of it is in the tray, where an undo may fetch it from. What each person does goes by what they saw."""

    def __init__(self, world, extra: list[Profile], agreed: bool, loose: bool) -> None:
        self.world, self.ines, self.began = world, person(world, "ines"), Entry.objects.count()
        profiles = [world.profile.pk, world.plaza.pk, *(p.pk for p in extra)]
        self.profiles, self.texts = profiles, {"Moss, agreed"} if agreed else set()
        post = make(self.ines, PostIn(**post_in("Moss, first", profiles=profiles)))
        self.entry = Entry.objects.filter(kind="post", object_id=post.pk, verb="make").get().pk
        post = save(self.ines, post, PostIn(**post_in("Moss, agreed", profiles=profiles)), post.revision)
        other = make(self.ines, PostIn(**post_in("Fern", profiles=profiles[:1])))
        at = WhenIn(kind="at", wall=wall(4))
        self.other = plan(self.ines, other, at, None, other.revision).planned[0]
        post = plan(self.ines, post, at, profiles[:3], post.revision).post
        if agreed:
            agree(of_person(person(world, "maud")), post.pk, post.revision)
        mine = Delivery.objects.filter(post=post).order_by("pk")
        if loose:
            moves = [Move(d.pk, d.revision, None) for d in mine if d.due_at]
        else:
            moves = [Move(mine[0].pk, mine[0].revision, wall(5))]
            mine.filter(pk=mine[1].pk).update(due_at=timezone.now() - timedelta(seconds=1))
            mine.filter(pk=mine[2].pk).update(state="missed", held_for="paused", reason_code="missed")
        self.undo_entry = shift(self.ines, moves).undo
        self.post = Post.objects.get(pk=post.pk)
        self.first, self.second, self.third, self.fourth = mine
        self.swapped = Delivery.objects.get(pk=self.other)

    def ask(self, client: Client, who: str, method: str, path: str, body=None, revision: int | None = None) -> int:
        user = User.objects.get(email=f"{who}@example.org")
        client.force_login(user, backend="allauth.account.auth_backends.AuthenticationBackend")
        client.raise_request_exception = False
        headers = {"If-Match": f'"{revision}"'} if revision is not None else {}
        whole = f"/api/brands/garden/{path}"
        return client.generic(method, whole, json.dumps(body or {}), "application/json", headers=headers).status_code

    def act(self, what: str, client: Client) -> int:
        """Do it; the answer's status."""
        post, first, at = self.post, self.first, f"posts/{self.post.pk}"
        said = post_in("Moss, saved", profiles=self.profiles)
        match what:
            case "save":
                return self.ask(client, "ines", "PUT", at, said, post.revision)
            case "plan":
                body = {"when": {"kind": "at", "wall": wall(6)}}
                return self.ask(client, "ines", "POST", f"{at}/plan", body, post.revision)
            case "move":
                path = f"deliveries/{first.pk}/move"
                return self.ask(client, "ines", "POST", path, {"wall": wall(7)}, first.revision)
            case "swap":
                one = {"id": first.pk, "revision": first.revision}
                other = {"id": self.other, "revision": self.swapped.revision}
                return self.ask(client, "ines", "POST", "swap", {"one": one, "other": other})
            case "unplan":
                return self.ask(client, "ines", "POST", f"deliveries/{first.pk}/unplan", {}, first.revision)
            case "undo":
                return self.ask(client, "ines", "POST", f"undo/{self.undo_entry}")
            case "bin":
                return self.ask(client, "ines", "DELETE", at)
            case "go_back":
                return self.ask(client, "ines", "POST", f"{at}/history/{self.entry}/go-back", {}, post.revision)
            case "agree":
                return self.ask(client, "maud", "POST", f"{at}/agree", {}, post.revision)
            case "send_back":
                return self.ask(client, "maud", "POST", f"{at}/send-back", {"words": "No"}, post.revision)
            case "pause":
                return self.ask(client, "ines", "POST", "pauses", {"until": "", "why": ""})
            case "catch_up":
                return self.ask(client, "ines", "POST", "catch-up", {"choice": "next_slots"})
            case "lay_out":
                row = {"post": post.pk, "asset": None, "profile": self.fourth.profile_id, "wall": wall(8)}
                return self.ask(client, "ines", "POST", "lay", {"rows": [row], "seed": 1})
        send()
        return 200 if Delivery.objects.filter(post=post, state="published").exists() else 409


def at_once(acts: list[Callable[[], int]], ahead: float) -> list[int]:
    """What each came to; the first begins so many seconds ahead."""
    together, found = threading.Barrier(len(acts)), [0] * len(acts)

    def act(n: int) -> None:
        together.wait(10)
        try:
            if n:
                threading.Event().wait(ahead)
            found[n] = acts[n]()
        finally:
            connections.close_all()

    threads = [threading.Thread(target=act, args=[n]) for n in range(len(acts))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    return found


def holds(scene: Scene, pair: tuple[str, str], statuses: list[int], case: tuple) -> None:
    """What must be so whichever came first."""
    assert all(status in (200, 201, 204, 404, 409, 412, 422) for status in statuses), case
    post, rows = Post.objects.get(pk=scene.post.pk), Delivery.objects.filter(post=scene.post)
    assert not rows.values("profile").annotate(n=Count("pk")).filter(n__gt=1), case
    # Looked at again there is nothing to put right: what is kept of sign-off and holds is not stale.
    if post.binned is None:
        assert recheck_signoff(System(scene.world.garden), [post.pk]) == 0, case
    with transaction.atomic():
        assert recompute_holds(Delivery.objects.filter(brand=scene.world.garden)) == 0, case
    planned = [row for row in rows if row.state not in ("unplanned", "called_off")]
    assert not (post.binned and planned), case
    did = [what for what, status in zip(pair, statuses, strict=True) if status < 300]
    agreed = scene.texts | ({"Moss, agreed"} if "agree" in did else set())
    for row in rows.filter(state="published"):
        assert row.sent["text"] in agreed, (case, row.sent)
    said = Counter(Entry.objects.order_by("pk")[scene.began :].values_list("verb", flat=True))
    for what in did:
        assert said[VERBS.get(what, what)], (case, what, said)


@pytest.mark.parametrize("one", ACTIONS)
def test_whatever_two_people_do_to_a_post_at_once_is_what_one_after_the_other_would_have_made(garden, one):
    extra = [
        Profile.objects.create(brand=garden.garden, network="plaza", remote_id=f"p{n}", handle=f"Page {n}", name="P",
                               kind="page", connection=garden.connection)
        for n in range(2)
    ]  # fmt: skip
    rng = random.Random(one)
    for other, n in itertools.product(ACTIONS[ACTIONS.index(one) :], range(ROUNDS)):
        cache.clear()
        pair = (one, other) if n % 2 == 0 else (other, one)
        scene = Scene(garden, extra, agreed=n % 4 < 2, loose="bin" in pair)
        clients, ahead = [Client(), Client()], rng.uniform(0, HEAD_START)
        acts = [lambda what=what, client=client: scene.act(what, client) for what, client in zip(pair, clients)]
        statuses = at_once(acts, ahead)
        holds(scene, pair, statuses, (pair, n, ahead, statuses))
        garden.garden.pauses.update(ended=timezone.now())
        Delivery.objects.filter(brand=garden.garden).update(state="unplanned", lease_until=None)
