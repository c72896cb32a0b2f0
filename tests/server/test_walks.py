"""Random walks over the whole server: writing, signing by people and by link, rules in order, pauses, reconnecting, workers that
die, publishing by hand. Whatever happens in whatever order, nothing unsigned is published, or shown as to be published, and
nothing twice. What was agreed to is kept by the test's own book; each failure says its seed and its steps."""

import json
import random
import uuid
from datetime import UTC, datetime, timedelta

import pytest
from django.core.cache import cache
from django.db import transaction
from django.test import Client
from django.utils import timezone

from menudo.delivery.actions.claim import claim_due
from menudo.delivery.actions.end_connection import end_connection
from menudo.delivery.actions.send import send_due
from menudo.delivery.actions.sweep import miss_overdue, sweep_overdue
from menudo.people.capabilities import ROLES
from menudo.people.models import Brand, Membership, User
from menudo.posts.change.recompute_holds import recheck_holds, recompute_holds
from menudo.posts.models import Delivery
from menudo.profiles.models import Connection, Profile
from tests.server.conftest import connected, post_in

# How often each is chosen, beside the others.
STEPS = {
    "write": 2,
    "approve": 5,
    "link": 5,
    "back": 1,
    "link_back": 1,
    "put_up": 2,
    "withdraw": 1,
    "plan": 5,
    "move": 1,
    "tray": 1,
    "call_off": 1,
    "undo": 1,
    "due": 5,
    "die": 2,
    "rules": 1,
    "pause": 1,
    "resume": 3,
    "end": 1,
    "reconnect": 3,
    "done": 4,
    "later": 1,
    "retry": 1,
}


class Walk:
    """One post for a profile by wire and one by hand. `book`: who has agreed to which text and not asked for a change since."""

    def __init__(self, standin, seed: int) -> None:
        self.rng, self.standin, self.tag = random.Random(seed), standin, uuid.uuid4().hex[:8]
        self.steps: list[str] = []
        self.brand = Brand.objects.create(slug=self.tag, name="B", zone="Europe/Madrid", needs_signoff=True)
        self.connection, (self.wire,) = connected(standin, self.brand, "fernhollow")
        self.hand = Profile.objects.create(
            brand=self.brand,
            network="plaza",
            remote_id="h",
            handle="Maud",
            name="Maud",
            kind="personal",
            state="by_hand",
        )
        self.people = {}
        for role in ("coordinator", "approver"):
            user = User.objects.create_user(f"{role}-{self.tag}@example.org", None, role)
            Membership.objects.create(brand=self.brand, user=user, role=role, capabilities=sorted(ROLES[role]))
            self.people[role] = Client()
            self.people[role].force_login(user, backend="allauth.account.auth_backends.AuthenticationBackend")
        self.approver = f"u{user.pk}"
        made = self.ask("coordinator", "POST", "sign-links", {"display_name": "The client"})
        self.token, self.link = made["address"].rsplit("/", 1)[1], f"l{made['link']['id']}"
        self.book: dict[str, set[str]] = {"approver": set(), "link": set(), "coordinator": set()}
        self.in_order, self.texts, self.undo, self.pause = False, 0, None, None
        self.sent: dict[int, str] = {}
        self.post = self.ask("coordinator", "POST", "posts", self.body())

    def body(self) -> dict:
        return post_in(f"{self.tag} {self.texts}", profiles=[self.wire.pk, self.hand.pk])

    def ask(self, who: str, method: str, path: str, body=None, revision: int | None = None):
        headers = {"If-Match": f'"{revision}"'} if revision is not None else {}
        whole = f"/api/brands/{self.tag}/{path}"
        answer = self.people[who].generic(method, whole, json.dumps(body or {}), "application/json", headers=headers)
        assert answer.status_code < 500, (self.steps, answer.content)
        return answer.json() if answer.status_code < 300 and answer.content else None

    def by_link(self, what: str, body: dict) -> bool:
        path = f"/api/sign/{self.token}/posts/{self.post['id']}/{what}"
        answer = Client().post(path, json.dumps(body), "application/json")
        assert answer.status_code < 500, (self.steps, answer.content)
        return answer.status_code < 300

    def may_go(self, text: str) -> bool:
        if self.in_order:
            return text in self.book["approver"] and text in self.book["link"]
        return any(text in said for said in self.book.values())

    def step(self) -> None:
        what = self.rng.choices([*STEPS], [*STEPS.values()])[0]
        self.steps.append(what)
        now = self.ask("coordinator", "GET", f"posts/{self.post['id']}")
        over = [d["state"] == "published" for d in now["deliveries"]]
        if all(over) or (any(over) and self.rng.random() < 0.3):
            self.texts = self.rng.randint(4, 1_000_000)
            now = self.post = self.ask("coordinator", "POST", "posts", self.body())
        path, revision, text = f"posts/{self.post['id']}", now["revision"], now["master"]["text"]
        delivery = self.rng.choice(now["deliveries"])
        one = f"deliveries/{delivery['id']}"
        wall = f"{datetime.now(UTC) + timedelta(days=self.rng.randint(2, 4)):%Y-%m-%dT12:00}"
        match what:
            case "write":
                self.texts = self.texts // 4 * 4 + self.rng.randint(0, 3)
                self.ask("coordinator", "PUT", path, self.body(), revision)
            case "approve":
                if self.ask("approver", "POST", f"{path}/approve", {}, revision):
                    self.book["approver"].add(text)
            case "back":
                if self.ask("approver", "POST", f"{path}/send-back", {"words": "No"}, revision):
                    self.book["approver"].discard(text)
            case "link":
                if self.by_link("approve", {"revision": revision, "name": "A", "changes": []}):
                    self.book["link"].add(text)
            case "link_back":
                if self.by_link("send-back", {"revision": revision, "name": "A", "words": "No"}):
                    self.book["link"].discard(text)
            case "put_up":
                self.ask(
                    "coordinator",
                    "POST",
                    "signoff-requests",
                    {"posts": [{"id": self.post["id"], "revision": revision}]},
                )
            case "withdraw":
                self.ask("coordinator", "POST", f"{path}/withdraw", None, revision)
            case "plan":
                self.remember(
                    self.ask(
                        "coordinator", "POST", f"{path}/plan", {"when": {"kind": "at", "wall_time": wall}}, revision
                    )
                )
            case "move":
                self.remember(self.ask("coordinator", "POST", f"{one}/move", {"wall_time": wall}, delivery["revision"]))
            case "tray":
                self.remember(self.ask("coordinator", "POST", f"{one}/unschedule", None, delivery["revision"]))
            case "call_off" | "retry":
                self.remember(
                    self.ask("coordinator", "POST", f"{one}/{what.replace('_', '-')}", None, delivery["revision"])
                )
            case "undo" if self.undo:
                self.ask("coordinator", "POST", f"undo/{self.undo}")
            case "rules":
                self.change_rules()
            case "pause":
                whose = self.rng.choice([None, self.wire.pk, self.hand.pk])
                made = self.ask(
                    "coordinator", "POST", "pauses", {"reason": "Storm", **({"profile": whose} if whose else {})}
                )
                self.pause = (made and made["id"]) or self.pause
            case "resume" if self.pause:
                self.ask("coordinator", "POST", f"pauses/{self.pause}/end")
            case "end":
                end_connection(Connection.objects.get(pk=self.connection.pk))
            case "reconnect":
                Connection.objects.filter(pk=self.connection.pk).update(state="connected")
                Profile.objects.filter(pk=self.wire.pk).update(state="connected")
                with transaction.atomic():
                    recompute_holds(self.brand.pk, [self.wire.pk])
            case "done":
                shown = self.ask("coordinator", "GET", one)
                if self.ask("coordinator", "POST", f"{one}/published", {"url": ""}, delivery["revision"]):
                    assert shown is not None and self.may_go(shown["text"]), (self.steps, shown["text"], self.book)
            case "later":
                self.ask("coordinator", "POST", f"{one}/postpone", {"wall_time": wall}, delivery["revision"])
            case "due" | "die":
                self.come_due(what == "die")

    def remember(self, done) -> None:
        self.undo = (done and done.get("undo")) or self.undo

    def change_rules(self) -> None:
        self.in_order = self.rng.random() < 0.5
        who = [{"name": "Both", "signers": [self.approver, self.link], "mode": "in_order"}] if self.in_order else []
        body = {
            "needed": True,
            "signoff_on_move": self.rng.random() < 0.3,
            "earlier_signoff_counts": self.rng.random() < 0.3,
            "rules": who,
        }
        assert self.ask("coordinator", "PUT", "sign-rules", body), self.steps

    def come_due(self, dies: bool) -> None:
        """Its time comes. With `dies`, a worker takes it and is gone, and its lease runs out."""
        mine = Delivery.objects.filter(brand=self.brand)
        mine.exclude(due_at=None).exclude(state="published").update(due_at=timezone.now() - timedelta(seconds=1))
        if dies:
            claim_due(limit=2)
            mine.filter(state="sending").update(lease_until=timezone.now() - timedelta(seconds=1))
        sweep_overdue()
        send_due()
        recheck_holds()
        miss_overdue()

    def look(self) -> None:
        """What stands at the network, what is kept as sent, and what the page for publishing by hand shows."""
        there = [p["body"]["text"] for p in self.standin.posts() if p["body"]["text"].startswith(self.tag)]
        assert len(there) == len(set(there)), (self.steps, there)
        for row in Delivery.objects.filter(brand=self.brand):
            if row.state == "published" and row.pk not in self.sent:
                self.sent[row.pk] = row.sent_content["text"]
                assert self.may_go(row.sent_content["text"]), (
                    self.steps,
                    row.sent_content["text"],
                    self.book,
                    self.in_order,
                )
            elif row.state == "waiting_for_hand":
                page = self.ask("coordinator", "GET", f"deliveries/{row.pk}")
                assert page["waits"] == "" and self.may_go(page["text"]), (self.steps, page["text"], self.book)
        assert {*there} <= {*self.sent.values()} | {t for t in there if self.may_go(t)}, (self.steps, there)


@pytest.mark.parametrize("seed", range(8))
def test_nothing_unsigned_is_published_or_shown_as_to_be_published(world, standin, seed):
    cache.clear()
    walk = Walk(standin, seed)
    for _ in range(45):
        walk.step()
        walk.look()
