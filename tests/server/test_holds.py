"""What is held for pauses, connections and rules of sign-off: found by the database, decided by the core, and done in pieces."""

import itertools
import uuid

import pytest
from django.utils import timezone

from menudo.base import clock
from menudo.base.engine import waiting_jobs
from menudo.delivery.actions.send import send_due
from menudo.posts.change import recompute_holds as recomputing
from menudo.posts.change.holds import refresh_holds
from menudo.posts.change.recompute_holds import RECHECK, recheck_holds
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Pause, Profile
from menudo.profiles.pauses import pauses_of
from menudo.signoff.actions import recheck_held as rechecking_held
from menudo.signoff.actions import recheck_rules as rechecking
from menudo.signoff.actions import save_rules as saving
from menudo.signoff.actions import simulate_rules as simulating
from menudo.signoff.actions.recheck_held import recheck_held
from menudo.signoff.actions.recheck_rules import recheck_rules
from menudo.signoff.models import RulesRecheck
from tests.server.test_signoff import garden, rules
from tests.server.test_standing import HOUR, five_hours_pass, pause, planned, state

__all__ = ["garden"]

STANDS = [
    {"state": "planned"},
    {"state": "waiting_for_hand", "step": "hand"},
    {"state": "held", "held_for": "paused"},
    {"state": "held", "held_for": "paused", "step": "hand"},
    {"state": "held", "held_for": "reconnect"},
    {"state": "held", "held_for": "signoff", "signoff_state": "waits"},
    {"state": "planned", "signoff_state": "waits"},
    {"state": "held", "held_for": "signoff"},
    {"state": "published", "published_at": timezone.now()},
]
# A profile's state, and for how many hours it is paused (0: it isn't, None: until somebody ends it).
PROFILES = [
    (profile, hours)
    for profile in ("connected", "by_hand", "must_be_reconnected", "disconnected")
    for hours in (0, 2, None)
]


@pytest.mark.parametrize("brand_paused", [False, True])
def test_the_database_finds_exactly_what_the_core_would_change(world, brand_paused):
    now = timezone.now()
    for n, (profile_state, hours) in enumerate(PROFILES):
        profile = Profile.objects.create(
            brand=world.garden, network="brisk", remote_id=f"b{n}", handle=f"b{n}", state=profile_state
        )
        if hours != 0:
            Pause.objects.create(
                brand=world.garden, profile=profile, starts_at=now, ends_at=now + hours * HOUR if hours else None
            )
    if brand_paused:
        Pause.objects.create(brand=world.garden, starts_at=now, ends_at=now + 3 * HOUR)
    for profile, stands, due in itertools.product(Profile.objects.filter(brand=world.garden), STANDS, (-1, 1, 2.5, 9)):
        post = Post.objects.create(brand=world.garden, master={"text": "Moss"})
        of = {"post": post, "profile": profile, "brand": world.garden, "key": uuid.uuid4(), "signoff_state": "agreed"}
        Delivery.objects.create(**{**of, **stands, "due_at": now + due * HOUR})
    rows, pauses = Delivery.objects.select_related("profile"), pauses_of([world.garden.pk])
    changes = {row.pk for row in refresh_holds(rows, pauses, clock.now())}
    found = set(recomputing._misheld(clock.now()).values_list("pk", flat=True))
    assert found == changes and 0 < len(found) < len(rows)
    assert recheck_holds() == len(changes) and recheck_holds() == 0
    assert not refresh_holds(Delivery.objects.all(), pauses, clock.now())


@pytest.fixture
def pieces(monkeypatch):
    """Four at once, where it is five hundred elsewhere."""
    monkeypatch.setattr(recomputing, "_AT_ONCE", 4)


def test_a_large_office_is_held_in_pieces_what_is_due_first_at_once(world, pieces):
    rows = [planned(world, hours) for hours in (9, 3, 5, 7, 2, 2, 4, 8, 6, 10)]
    pause_id = pause(world)
    assert [r.due_at for r in rows if state(r)[0] == "held"] == [rows[n].due_at for n in (1, 4, 5, 6)]
    assert waiting_jobs(RECHECK) == [(None, {})]
    assert recheck_holds() == 6 and {state(r) for r in rows} == {("held", "paused")}
    assert {row.revision for row in rows} == {2}
    world.api()("POST", f"pauses/{pause_id}/end", status=200)
    assert recheck_holds() == 6 and {state(r) for r in rows} == {("planned", "")}
    # A few need no job: one waits still, of before.
    assert len(waiting_jobs(RECHECK)) == 1


def test_what_no_piece_has_reached_yet_is_not_sent(world, standin, pieces):
    rows = [planned(world, 4 + n / 60) for n in range(6)]
    pause(world)
    five_hours_pass()
    assert state(rows[5]) == ("planned", "")
    while send_due():
        pass
    assert state(rows[5]) == ("held", "paused") and not standin.posts()


def test_a_piece_that_breaks_is_told_and_stops_no_other_brand(world, pieces, monkeypatch):
    mine, other = planned(world), planned(world)
    Delivery.objects.filter(pk=other.pk).update(brand=world.bakery)
    Profile.objects.update(state="must_be_reconnected")
    first = min(world.garden.pk, world.bakery.pk)
    real = recomputing._recheck_brand

    def break_once(brand: int) -> int:
        if brand == first:
            raise ValueError("broken")
        return real(brand)

    monkeypatch.setattr(recomputing, "_recheck_brand", break_once)
    assert recheck_holds() == 1
    assert sorted([state(mine), state(other)]) == [("held", "reconnect"), ("planned", "")]


@pytest.fixture
def office(garden, monkeypatch):
    """Seven posts, in an order that isn't that of their times; two are looked at at once. Nothing is signed off yet."""
    for module in (saving, rechecking, rechecking_held):
        monkeypatch.setattr(module, "POSTS_AT_ONCE", 2)
    rules(garden, needed=False)
    return garden, [planned(garden, hours) for hours in (9, 3, 5, 7, 2, 4, 8)]


def test_after_new_rules_a_large_office_is_looked_at_in_pieces_what_is_due_first_at_once(office):
    world, rows = office
    world.api()("POST", "posts", {"master": {"text": "A draft"}, "profiles": [world.profile.pk]}, status=201)
    rules(world)
    assert [r.due_at for r in rows if state(r) == ("held", "signoff")] == [rows[1].due_at, rows[4].due_at]
    assert waiting_jobs(saving.RECHECK) == [(None, {})]
    assert recheck_rules() == 6 and {state(r) for r in rows} == {("held", "signoff")}
    assert (recheck_rules(), recheck_held(), RulesRecheck.objects.count()) == (0, 0, 0)
    assert Delivery.objects.get(state="unplanned").signoff_state == "waits"


def test_a_recheck_that_broke_goes_on_where_it_was_and_other_rules_begin_it_anew(office, monkeypatch):
    world, rows = office
    rules(world)
    real, count = rechecking.recheck_signoff, itertools.count()

    def break_at_the_third(*given) -> int:
        if next(count) == 2:
            raise ValueError("broken")
        return real(*given)

    monkeypatch.setattr(rechecking, "recheck_signoff", break_at_the_third)
    recheck_rules()
    left = RulesRecheck.objects.get()
    assert left.after == rows[3].post_id and state(rows[5]) == ("planned", "")
    rules(world, needed=False)
    assert RulesRecheck.objects.get().after == 0
    recheck_rules()
    assert {state(r) for r in rows} == {("planned", "")} and not RulesRecheck.objects.exists()


def test_what_new_rules_have_not_reached_yet_is_not_sent(office, standin):
    world, rows = office
    rules(world)
    five_hours_pass()
    assert state(rows[2]) == state(rows[5]) == ("planned", "")
    while send_due():
        pass
    assert state(rows[2]) == state(rows[5]) == ("held", "signoff") and not standin.posts()


def test_what_is_held_is_looked_at_again_in_pieces(office):
    _, rows = office
    Delivery.objects.update(state="held", held_for="signoff", signoff_state="waits")
    assert recheck_held() == len(rows) and {state(r) for r in rows} == {("planned", "")}


def test_of_a_large_office_rules_are_tried_on_what_is_due_first(office, monkeypatch):
    world, rows = office
    body = {"needed": True, "signoff_on_move": False, "rules": []}
    assert world.api()("POST", "sign-rules/preview", body, status=200) == {"held": 7, "free": 0, "posts": None}
    monkeypatch.setattr(simulating, "_MOST", 3)
    assert world.api()("POST", "sign-rules/preview", body, status=200) == {"held": 3, "free": 0, "posts": 3}
    assert {state(r) for r in rows} == {("planned", "")}
