"""That the program does what the tables of docs/sign-off.md say, event by event and role by role; and that no sequence of
actions publishes what nobody signed."""

import json
import uuid
from datetime import UTC, datetime, timedelta
from itertools import product

import pytest
from django.db import transaction
from django.test import Client
from django.utils import timezone
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from menudo.delivery.actions.send import send_due
from menudo.delivery.actions.sweep import miss_overdue
from menudo.people.capabilities import ROLES
from menudo.people.models import Brand, Membership, User
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Pause
from menudo_core.signoff.states import POST_TRANSITIONS, TRANSITIONS, DeliveryState, Event, PostEvent, PostState
from tests.server.conftest import connected, post_in
from tests.server.test_delivery import due, sent
from tests.server.test_signoff import garden

__all__ = ["garden"]


TEXT = {PostState.DRAFT: "Draft", PostState.UP: "Up", PostState.BACK: "Back", PostState.SIGNED: "Signed"}
ROLES_HERE = {"coordinator": "ines", "author": "teo", "approver": "maud", "viewer": "lucia"}
# What a role must be allowed, by event; an author for their own post, which this one is.
MAY_DO = {
    PostEvent.PUT_UP: {"coordinator", "author", "approver"},
    PostEvent.WITHDRAW: {"coordinator", "author", "approver"},
    PostEvent.CHANGE: {"coordinator", "author", "approver"},
    PostEvent.PLAN: {"coordinator"},
    PostEvent.MEET: {"coordinator", "approver"},
    PostEvent.SEND_BACK: {"coordinator", "approver"},
}


def a_post_in(garden, state: PostState) -> dict:
    """The author's post, brought to a state by what people do."""
    teo, who = garden.api("teo"), garden.api("maud")
    post = teo("POST", "posts", post_in(TEXT[state], profiles=[garden.profile.pk]), status=201)
    path = f"posts/{post['id']}"
    if state is PostState.DRAFT:
        return post
    teo("POST", "signoff-requests", {"posts": [{"id": post["id"], "revision": post["revision"]}]}, status=200)
    post = teo("GET", path, status=200)
    if state is PostState.BACK:
        return who("POST", f"{path}/send-back", {"words": "No"}, post["revision"], 200)
    return who("POST", f"{path}/approve", {}, post["revision"], 200) if state is PostState.SIGNED else post


def do(garden, role: str, event: PostEvent, post: dict, wall: str) -> int:
    api, path, revision = garden.api(ROLES_HERE[role]), f"/api/brands/garden/posts/{post['id']}", post["revision"]
    method, path, body = {
        PostEvent.PUT_UP: (
            "POST",
            "/api/brands/garden/signoff-requests",
            {"posts": [{"id": post["id"], "revision": revision}]},
        ),
        PostEvent.WITHDRAW: ("POST", f"{path}/withdraw", {}),
        PostEvent.CHANGE: ("PUT", path, post_in("Another wording", profiles=[garden.profile.pk])),
        PostEvent.PLAN: ("POST", f"{path}/plan", {"when": {"kind": "at", "wall_time": wall}}),
        PostEvent.MEET: ("POST", f"{path}/approve", {}),
        PostEvent.SEND_BACK: ("POST", f"{path}/send-back", {"words": "Not like this"}),
    }[event]
    headers = {"If-Match": f'"{revision}"'}
    return api.client.generic(method, path, json.dumps(body), "application/json", headers=headers).status_code


@pytest.mark.parametrize("state", list(PostState))
def test_every_event_of_a_post_in_every_role_does_what_the_table_says(garden, state):
    post = a_post_in(garden, state)
    wall = (timezone.now() + timedelta(days=3)).strftime("%Y-%m-%dT12:00")
    assert post["state"] == state
    for event, role in product(PostEvent, ROLES_HERE):
        with transaction.atomic():
            status = do(garden, role, event, post, wall)
            now = Post.objects.get(pk=post["id"]).state
            case = (state, event, role, status)
            if role not in MAY_DO[event]:
                assert status == 403 and now == state, case
            elif event is PostEvent.MEET and state is PostState.BACK and role != "approver":
                # It isn't asked of anyone until it is put up again; only who sent it back may think better of it.
                assert status == 409 and now == state, case
            elif (state, event) in POST_TRANSITIONS:
                assert status == 200 and now == POST_TRANSITIONS[state, event], case
            else:
                assert status in (409, 422) and now == state, case
            transaction.set_rollback(True)


ROUTES = {
    "unschedule": Event.UNPLAN,
    "call-off": Event.CALL_OFF,
    "move": Event.MOVE,
    "published": Event.DONE,
    "retry": Event.RETRY,
    "take-down": Event.TAKE_DOWN,
}


@pytest.mark.parametrize("state", list(DeliveryState))
def test_what_can_be_done_to_a_delivery_is_what_the_table_says_and_nothing_else(world, standin, state):
    delivery = sent(due(world, "Moss"))
    later = timezone.now() + timedelta(days=2)
    lease = later if state is DeliveryState.SENDING else None
    if state is DeliveryState.HELD:
        # What is held is held for something.
        Pause.objects.create(brand=world.garden, starts_at=timezone.now())
    Delivery.objects.update(state=state, due_at=later, lease_until=lease)
    wall = (timezone.now() + timedelta(days=3)).strftime("%Y-%m-%dT12:00")
    for part, event in ROUTES.items():
        with transaction.atomic():
            body = json.dumps({"move": {"wall_time": wall}, "published": {}}.get(part))
            path = f"/api/brands/garden/deliveries/{delivery.pk}/{part}"
            headers = {"If-Match": f'"{delivery.revision}"'}
            status = world.api().client.generic("POST", path, body, "application/json", headers=headers).status_code
            now, case = Delivery.objects.get().state, (state, event, status)
            if (state, event) in TRANSITIONS:
                assert status == 200 and now == TRANSITIONS[state, event], case
            else:
                assert status == 409 and now == state, case
            transaction.set_rollback(True)


MOVES = st.lists(
    st.tuples(
        st.sampled_from(
            ["write", "approve", "back", "put_up", "withdraw", "plan", "move", "tray", "undo", "send", "retry", "rules"]
        ),
        st.integers(0, 2),
    ),
    min_size=4,
    max_size=14,
)


class Story:
    """A post in the hands of people who do anything in any order; `agreed` is what somebody agreed to, by the test's own
    book-keeping."""

    def __init__(self, standin) -> None:
        self.tag = uuid.uuid4().hex[:8]
        self.brand = Brand.objects.create(slug=self.tag, name="B", zone="Europe/Madrid", needs_signoff=True)
        _, (self.profile,) = connected(standin, self.brand, "fernhollow")
        self.clients = {}
        for role in ("coordinator", "approver"):
            user = User.objects.create_user(f"{role}-{self.tag}@example.org", None, role)
            Membership.objects.create(brand=self.brand, user=user, role=role, capabilities=sorted(ROLES[role]))
            self.clients[role] = Client()
            self.clients[role].force_login(user, backend="allauth.account.auth_backends.AuthenticationBackend")
        self.standin, self.texts, self.agreed, self.undo = standin, 0, set(), None
        self.needed = True
        self.post = self.ask("coordinator", "POST", "posts", self.body())

    def body(self) -> dict:
        return post_in(f"{self.tag} {self.texts}", profiles=[self.profile.pk])

    def ask(self, who: str, method: str, path: str, body=None, revision: int | None = None):
        headers = {"If-Match": f'"{revision}"'} if revision is not None else {}
        answer = self.clients[who].generic(
            method,
            f"/api/brands/{self.tag}/{path}",
            json.dumps(body or {}),
            "application/json",
            headers=headers,
        )
        assert answer.status_code < 500, answer.content
        return answer.json() if answer.status_code < 300 and answer.content else None

    def act(self, what: str, n: int) -> None:
        now = self.ask("coordinator", "GET", f"posts/{self.post['id']}")
        path, revision = f"posts/{self.post['id']}", now["revision"]
        delivery = now["deliveries"][0]
        wall = (datetime.now(UTC) + timedelta(days=2 + n)).strftime("%Y-%m-%dT12:00")
        if what == "write":
            self.texts = n
            self.ask("coordinator", "PUT", path, self.body(), revision)
        elif what == "approve":
            if self.ask("approver", "POST", f"{path}/approve", {}, revision):
                self.agreed.add(now["master"]["text"])
        elif what == "back":
            if self.ask("approver", "POST", f"{path}/send-back", {"words": "No"}, revision):
                self.agreed.discard(now["master"]["text"])
        elif what == "put_up":
            self.ask(
                "coordinator", "POST", "signoff-requests", {"posts": [{"id": self.post["id"], "revision": revision}]}
            )
        elif what == "withdraw":
            self.ask("coordinator", "POST", f"{path}/withdraw", None, revision)
        elif what == "plan":
            done = self.ask(
                "coordinator", "POST", f"{path}/plan", {"when": {"kind": "at", "wall_time": wall}}, revision
            )
            self.undo = done and done["undo"]
        elif what == "move":
            done = self.ask(
                "coordinator", "POST", f"deliveries/{delivery['id']}/move", {"wall_time": wall}, delivery["revision"]
            )
            self.undo = (done and done["undo"]) or self.undo
        elif what == "tray":
            done = self.ask(
                "coordinator", "POST", f"deliveries/{delivery['id']}/unschedule", None, delivery["revision"]
            )
            self.undo = (done and done["undo"]) or self.undo
        elif what == "undo" and self.undo:
            self.ask("coordinator", "POST", f"undo/{self.undo}")
        elif what == "retry":
            self.ask("coordinator", "POST", f"deliveries/{delivery['id']}/retry", None, delivery["revision"])
        elif what == "rules" and n == 2:
            self.ask(
                "coordinator", "PUT", "sign-rules", {"needed": True, "signoff_on_move": not self.texts, "rules": []}
            )
        elif what == "send":
            # Its time comes, and comes twice.
            Delivery.objects.filter(pk=delivery["id"]).exclude(due_at=None).update(
                due_at=timezone.now() - timedelta(seconds=1)
            )
            send_due()
            send_due()
            miss_overdue()


@settings(max_examples=15, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(MOVES)
def test_no_sequence_of_actions_publishes_what_nobody_signed_or_publishes_twice(world, standin, moves):
    story = Story(standin)
    for what, n in [*moves, ("approve", 0), ("send", 0)]:
        story.act(what, n)
        there = [p["body"]["text"] for p in standin.posts() if p["body"]["text"].startswith(story.tag)]
        assert len(there) <= 1 and set(there) <= story.agreed, (what, there, story.agreed)
