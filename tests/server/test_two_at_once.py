"""Two people at one post in the same moment: each waits for the other, neither is answered with an error, and what is
kept afterwards is what one after the other would have made of it."""

import json
import os
import threading
from collections.abc import Callable
from datetime import timedelta

import pytest
from django.db import connections, transaction
from django.utils import timezone

from menudo.delivery.actions.claim import claim
from menudo.people.models import Brand
from menudo.posts.actions.resign import resign
from menudo.posts.models import Delivery, Post
from tests.server.conftest import post_in
from tests.server.test_signoff import garden, planned

__all__ = ["garden"]
# More by hand: a race that is lost once in a hundred is lost.
ROUNDS = int(os.environ.get("ROUNDS", "3"))


def wall(days: int) -> str:
    return (timezone.now() + timedelta(days=days)).strftime("%Y-%m-%dT12:00")


class Scene:
    """A post that is signed off and planned for two profiles; what each person does goes by what they saw before."""

    def __init__(self, world, n: int) -> None:
        self.world, self.n = world, n
        post = planned(world)
        path = f"posts/{post['id']}"
        post = world.api("maud")("POST", f"{path}/agree", {}, post["revision"], 200)
        first = post["deliveries"][0]
        moved = world.api()("POST", f"deliveries/{first['id']}/move", {"wall": wall(5)}, first["revision"], 200)
        self.undo = moved["undo"]
        self.post = world.api()("GET", path, status=200)
        self.first, self.second = self.post["deliveries"]

    def ask(self, who: str, method: str, path: str, body: dict | None = None, revision: int | None = None) -> int:
        client = self.world.api(who).client
        client.raise_request_exception = False
        headers = {"If-Match": f'"{revision}"'} if revision is not None else {}
        path = f"/api/brands/garden/{path}"
        return client.generic(method, path, json.dumps(body or {}), "application/json", headers=headers).status_code

    def save(self) -> int:
        said = post_in(f"Moss, round {self.n}", profiles=[self.first["profile"], self.second["profile"]])
        return self.ask("ines", "PUT", f"posts/{self.post['id']}", said, self.post["revision"])

    def agree(self) -> int:
        return self.ask("maud", "POST", f"posts/{self.post['id']}/agree", {}, self.post["revision"])

    def move(self) -> int:
        return self.ask(
            "ines", "POST", f"deliveries/{self.first['id']}/move", {"wall": wall(6)}, self.first["revision"]
        )

    def shift(self) -> int:
        moves = [{"id": d["id"], "revision": d["revision"], "wall": wall(7)} for d in (self.second, self.first)]
        return self.ask("ines", "POST", "moves", {"moves": moves})

    def unplan(self) -> int:
        return self.ask("ines", "POST", f"deliveries/{self.first['id']}/unplan", {}, self.first["revision"])

    def undo_it(self) -> int:
        return self.ask("ines", "POST", f"undo/{self.undo}")

    def pause(self) -> int:
        return self.ask("ines", "POST", "pauses", {"until": "", "why": ""})

    def claim(self) -> int:
        due = timezone.now() - timedelta(seconds=1)
        Delivery.objects.filter(pk=self.second["id"], state="planned").update(due_at=due)
        claim(most=10)
        return 200


def at_once(*acts: Callable[[], int]) -> list[int]:
    """What each came to, all begun in the same moment."""
    together, found = threading.Barrier(len(acts)), [0] * len(acts)

    def act(n: int) -> None:
        together.wait(10)
        try:
            found[n] = acts[n]()
        finally:
            connections.close_all()

    threads = [threading.Thread(target=act, args=[n]) for n in range(len(acts))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    return found


@pytest.mark.parametrize("one", ["save", "agree"])
@pytest.mark.parametrize("other", ["move", "shift", "unplan", "undo_it", "pause", "claim"])
def test_whoever_changes_a_post_and_whoever_moves_it_wait_for_each_other(garden, one, other):
    Brand.objects.filter(pk=garden.garden.pk).update(moving_asks=True)
    garden.garden.refresh_from_db()
    for n in range(ROUNDS):
        scene = Scene(garden, n)
        statuses = at_once(getattr(scene, one), getattr(scene, other))
        assert all(status in (200, 201, 409, 412, 422) for status in statuses), (one, other, n, statuses)
        post = Post.objects.get(pk=scene.post["id"])
        kept = dict(Delivery.objects.filter(post=post).values_list("pk", "signing"))
        # Looked at again there is nothing to put right: what was kept of the sign-off is not stale.
        with transaction.atomic():
            assert resign(garden.garden, [post.pk]) == 0, (one, other, n, statuses, kept)
        garden.garden.pauses.update(ended=timezone.now())
        Delivery.objects.filter(post=post).update(state="unplanned", lease_until=None)
