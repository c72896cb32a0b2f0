"""Rotas: filled, laid out, changed, and made posts of; nothing twice, nothing unsigned. All numbers are invented."""

from datetime import datetime, time, timedelta

import pytest
from django.utils import timezone

from menudo.delivery.actions.send import send_due
from menudo.notices.models import Notice
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile, Slot
from menudo.rotas.actions.fill_rota import fill_all_rotas, fill_rota
from menudo.rotas.models import Placement, Rota
from tests.server.conftest import picture, post_in
from tests.server.test_posts import pointers
from tests.server.test_two_at_once import at_once


@pytest.fixture
def api(world):
    return world.api()


def rota_in(world, **more):
    return {"name": "Evergreens", "ink": "moss", "profiles": [world.profile.pk], "ahead_hours": 24, **more}


def keep_slots(api, rota: Rota, at: str = "09:00") -> None:
    """A slot each day, kept for the rota."""
    Slot.objects.filter(profile__in=rota.profiles.all()).delete()
    api("PUT", f"rotas/{rota.pk}/slots", {"weekdays": list(range(7)), "at": at}, status=204)


def filled(world, api, count: int = 3, **more) -> Rota:
    """A rota with turns A, B, C ... and a slot a day."""
    rota_id = api("POST", "rotas", rota_in(world, **more), status=201)["rota"]["id"]
    posts = [api("POST", "posts", post_in(f"Turn {chr(65 + n)}"), status=201)["id"] for n in range(count)]
    if posts:
        api("POST", f"rotas/{rota_id}/turns", {"posts": posts}, status=201)
    rota = Rota.objects.get(pk=rota_id)
    keep_slots(api, rota)
    Rota.objects.filter(pk=rota_id).update(active=True)
    return rota


def heads(api, rota: Rota, count: int = 99) -> list[str]:
    return [c["headline"] or c["empty_reason"] for c in api("GET", f"rotas/{rota.pk}", status=200)["upcoming"]][:count]


def test_a_rota_is_made_filled_and_its_coming_weeks_are_seen(world, api):
    rota = filled(world, api)
    assert heads(api, rota, 4) == ["Turn A", "Turn B", "Turn C", "Turn A"]
    page = api("GET", f"rotas/{rota.pk}", status=200)
    assert (page["rota"]["slots"], page["rota"]["turns"], page["rota"]["exhaustion"]) == (7, 3, [])
    assert len(page["upcoming"]) == 56 and page["upcoming"][0]["time"] == "09:00"
    # Its turns are no drafts any more, and can't be planned or binned themselves.
    assert api("GET", "tray", status=200)["drafts"] == []
    turn = page["turns"][0]["wordings"][0]["post"]
    revision = Post.objects.get(pk=turn).revision
    assert pointers(api("POST", f"posts/{turn}/plan", {"when": {"kind": "now"}}, revision, 422)) == {"/when"}
    api("DELETE", f"posts/{turn}", status=409)
    # The calendar has them faint, and only of rotas that are on.
    assert [c["headline"] for c in api("GET", "upcoming?days=3", status=200)][:1] == ["Turn A"]
    Rota.objects.update(active=False)
    assert api("GET", "upcoming?days=14", status=200) == []


def test_one_slot_is_changed_left_empty_swapped_and_given_back_and_the_rest_is_laid_out_anew(world, api):
    rota = filled(world, api)
    page = api("GET", f"rotas/{rota.pk}", status=200)
    coming, turns = page["upcoming"], {t["wordings"][0]["headline"]: t["id"] for t in page["turns"]}
    spots = [{"profile": c["profile"], "at": c["at"]} for c in coming]
    api("PUT", f"rotas/{rota.pk}/placements", {**spots[0], "turn": turns["Turn C"]}, status=204)
    api("PUT", f"rotas/{rota.pk}/placements", {**spots[2], "turn": None}, status=204)
    assert heads(api, rota, 5) == ["Turn C", "Turn A", "left empty by hand", "Turn B", "Turn A"]
    api("POST", f"rotas/{rota.pk}/placements/swap", {"one": spots[0], "other": spots[1]}, status=204)
    assert heads(api, rota, 2) == ["Turn A", "Turn C"]
    # A turn more lays out only what isn't fixed.
    more = api("POST", "posts", post_in("Turn D"), status=201)["id"]
    api("POST", f"rotas/{rota.pk}/turns", {"posts": [more]}, status=201)
    assert heads(api, rota, 5) == ["Turn A", "Turn C", "left empty by hand", "Turn B", "Turn D"]
    for spot in spots[:3]:
        api("PUT", f"rotas/{rota.pk}/placements", {**spot, "free": True}, status=204)
    assert heads(api, rota, 4) == ["Turn A", "Turn B", "Turn C", "Turn D"]
    nowhere = {"profile": world.profile.pk, "at": (timezone.now() + timedelta(days=1, minutes=7)).isoformat()}
    assert pointers(api("PUT", f"rotas/{rota.pk}/placements", {**nowhere, "turn": None}, status=422)) == {"/at"}
    assert pointers(api("PUT", f"rotas/{rota.pk}/placements", {**spots[0], "turn": 0 + 999_999}, status=422)) == {
        "/turn"
    }


def test_what_comes_next_becomes_posts_once_and_goes_out(world, api, standin, settings):
    rota = filled(world, api, ahead_hours=72)
    assert fill_rota(rota.pk) == 3
    assert fill_rota(rota.pk) == fill_all_rotas() == 0
    made = list(Delivery.objects.filter(post__rota_placements__rota=rota).order_by("due_at"))
    assert [d.headline for d in made] == ["Turn A", "Turn B", "Turn C"] and {d.state for d in made} == {"planned"}
    assert all(rota.label in d.post.labels.all() and not d.post.evergreen for d in made)
    page = api("GET", f"rotas/{rota.pk}", status=200)
    assert [c["delivery"] for c in page["upcoming"][:4]] == [*(d.pk for d in made), None]
    assert [t["used"] for t in page["turns"]] == [1, 1, 1]
    # What was made isn't laid out again, whatever becomes of it; and what is laid out goes on from there.
    first = {"profile": world.profile.pk, "at": page["upcoming"][0]["at"], "turn": None}
    api("PUT", f"rotas/{rota.pk}/placements", first, status=409)
    api("POST", f"deliveries/{made[0].pk}/call-off", None, made[0].revision, 200)
    assert fill_rota(rota.pk) == 0 and heads(api, rota, 4)[3] == "Turn A"
    # Not even when its turn is taken out.
    api("DELETE", f"rotas/{rota.pk}/turns/{page['turns'][0]['id']}", status=204)
    assert fill_rota(rota.pk) == 0 and heads(api, rota, 4)[1:] == ["Turn B", "Turn C", "Turn B"]
    settings.CLOCK_OFFSET = timedelta(days=3)
    send_due()
    assert {p["body"]["text"] for p in standin.posts()} >= {"Turn B"}


def test_slots_are_kept_for_it_in_every_timetable_and_given_back(world, api):
    rota = filled(world, api)
    Slot.objects.create(profile=world.profile, weekday=0, at=time(18))
    api("PUT", f"rotas/{rota.pk}/slots", {"weekdays": [0, 3], "at": "18:00"}, status=204)
    weekly = api("GET", f"rotas/{rota.pk}", status=200)["weekly"]
    assert [(w["weekday"], w["at"], w["profiles"]) for w in weekly if w["at"] != "09:00:00"] == [
        (0, "18:00:00", 1),
        (3, "18:00:00", 1),
    ]
    api("PUT", f"rotas/{rota.pk}/slots", {"weekdays": [0, 3], "at": "18:00", "keep": False}, status=204)
    assert Slot.objects.filter(profile=world.profile).count() == 7
    # Others' slots at the same times stay as they are.
    Slot.objects.filter(profile=world.profile, weekday=1).update(label=None)
    api("PUT", f"rotas/{rota.pk}/slots", {"weekdays": [1], "at": "09:00", "keep": False}, status=204)
    assert Slot.objects.filter(profile=world.profile, weekday=1, label=None).count() == 1
    assert pointers(api("PUT", f"rotas/{rota.pk}/slots", {"weekdays": [7], "at": "9"}, status=422)) >= {"/weekdays/0"}
    Profile.objects.update(state="disconnected")
    assert api("GET", f"rotas/{rota.pk}", status=200)["upcoming"] == []


def test_a_slot_that_somebody_took_is_left_to_them(world, api):
    rota = filled(world, api)
    taken = api("GET", f"rotas/{rota.pk}", status=200)["upcoming"][1]
    post = Post.objects.create(brand=world.garden, master={"text": "Mine"})
    Delivery.objects.create(
        post=post,
        profile=world.profile,
        brand=world.garden,
        key="00000000-0000-4000-8000-000000000001",
        state="planned",
        due_at=datetime.fromisoformat(taken["at"]),
    )
    coming = api("GET", f"rotas/{rota.pk}", status=200)["upcoming"]
    assert taken["at"] not in [c["at"] for c in coming] and len(coming) == 55


def test_several_wordings_take_turns_and_a_picture_becomes_a_turn(world, api):
    rota = filled(world, api, count=1, gap_days=0)
    turn = api("GET", f"rotas/{rota.pk}", status=200)["turns"][0]
    copy = api("POST", f"rotas/{rota.pk}/turns/{turn['id']}/wordings", {}, status=201)
    Post.objects.filter(pk=copy["post"]).update(master={"text": "Otherwise"})
    assert heads(api, rota, 3) == ["Turn A", "Otherwise", "Turn A"]
    asset = api.upload(picture()).json()["id"]
    api("POST", f"rotas/{rota.pk}/turns", {"assets": [asset]}, status=201)
    page = api("GET", f"rotas/{rota.pk}", status=200)
    assert [t["wordings"][0]["pictures"] for t in page["turns"]] == [0, 1]
    api("PUT", f"rotas/{rota.pk}/turns", {"turns": [page["turns"][1]["id"]]}, status=204)
    assert [t["id"] for t in api("GET", f"rotas/{rota.pk}", status=200)["turns"]] == [
        page["turns"][1]["id"],
        turn["id"],
    ]
    path = f"rotas/{rota.pk}/turns/{turn['id']}"
    api("PUT", path, {"times": 2, "seasons": [{"first": [11, 1], "last": [2, 29]}]}, status=204)
    bad = api("PUT", path, {"seasons": [{"first": [2, 30], "last": [3, 1]}]}, status=422)
    assert pointers(bad) == {"/seasons/0/first"}
    api("DELETE", f"{path}/wordings/{copy['id']}", status=204)
    assert not Post.objects.get(pk=copy["post"]).evergreen
    api("DELETE", path, status=204)
    assert len(api("GET", f"rotas/{rota.pk}", status=200)["turns"]) == 1


def test_a_published_post_is_copied_into_a_rota_and_stays_what_it_was(world, api):
    rota = filled(world, api, count=0)
    out = Post.objects.create(brand=world.garden, master={"text": "It did well"})
    Delivery.objects.create(
        post=out,
        profile=world.profile,
        brand=world.garden,
        key="00000000-0000-4000-8000-000000000002",
        state="published",
        due_at=timezone.now(),
        published_at=timezone.now(),
    )
    api("POST", f"rotas/{rota.pk}/turns", {"posts": [out.pk]}, status=201)
    out.refresh_from_db()
    wording = api("GET", f"rotas/{rota.pk}", status=200)["turns"][0]["wordings"][0]
    assert not out.evergreen and wording["post"] != out.pk and wording["headline"] == "It did well"
    again = api("POST", f"rotas/{rota.pk}/turns", {"posts": [wording["post"]]}, status=422)
    assert pointers(again) == {"/posts/0"}


def test_a_turn_that_does_not_fit_is_told_and_tried_again_once_mended(world, api):
    rota = filled(world, api, count=1)
    post = Post.objects.get(wording__turn__rota=rota)
    Post.objects.filter(pk=post.pk).update(master={"text": "x" * 5000})
    assert fill_rota(rota.pk) == fill_rota(rota.pk) == 0
    [place] = Placement.objects.filter(rota=rota)
    assert not place.filled and "takes 300 characters" in place.last_error
    assert (
        Post.objects.count() == 1 and Notice.objects.filter(kind="trouble", user__email="ines@example.org").count() == 1
    )
    Post.objects.filter(pk=post.pk).update(master={"text": "Short again"})
    assert fill_rota(rota.pk) == 1


@pytest.mark.parametrize(("each_time", "state"), [(True, "held"), (False, "planned")])
def test_sign_off_is_asked_each_time_or_once(world, api, each_time, state):
    world.garden.needs_signoff = True
    world.garden.save()
    rota = filled(world, api, count=1, gap_days=1, signoff_each_copy=each_time, ahead_hours=24)
    fill_rota(rota.pk)
    [first] = Delivery.objects.filter(post__rota_placements__rota=rota)
    assert first.state == "held"
    world.api("maud")("POST", f"posts/{first.post_id}/approve", {"deliveries": [first.pk]}, first.post.revision, 200)
    Rota.objects.update(ahead_hours=48)
    assert fill_rota(rota.pk) == 1
    second = Delivery.objects.filter(post__rota_placements__rota=rota).order_by("due_at").last()
    assert (second.headline, second.state) == ("Turn A", state)
    # Another wording was never agreed to.
    Post.objects.filter(wording__turn__rota=rota).update(master={"text": "Changed"})
    Rota.objects.update(ahead_hours=72)
    assert fill_rota(rota.pk) == 1
    assert Delivery.objects.filter(post__rota_placements__rota=rota).order_by("due_at").last().state == "held"


def test_a_rota_that_runs_dry_says_when_and_tells_those_who_plan(world, api):
    rota = filled(world, api, count=2, rest_days=30)
    [dry] = api("GET", "rotas", status=200)[0]["exhaustion"]
    assert dry["weeks"] == 0 and "all its turns rest" in dry["summary"]
    fill_rota(rota.pk)
    fill_rota(rota.pk)
    assert Notice.objects.filter(kind="dry", user__email="ines@example.org").count() == 1


def test_bad_input_is_told_at_its_field_and_nothing_is_kept(world, api):
    bad = rota_in(
        world, name=" ", ink="gold", profiles=[world.foreign.pk], seasons=[{"first": [4, 31], "last": [5, 1]}]
    )
    found = pointers(api("POST", "rotas", bad, status=422))
    assert found == {"/name", "/ink", "/profiles/0", "/seasons/0/first"}
    made = api("POST", "rotas", rota_in(world), status=201)["rota"]
    assert pointers(api("POST", "rotas", rota_in(world, name="EVERGREENS"), status=422)) == {"/name"}
    assert pointers(api("POST", f"rotas/{made['id']}/turns", {}, status=422)) == {"/posts"}
    api("PUT", f"rotas/{made['id']}", rota_in(world, rest_days=9), made["revision"] + 1, 412)
    assert (
        api("PUT", f"rotas/{made['id']}", rota_in(world, rest_days=9), made["revision"], 200)["rota"]["rest_days"] == 9
    )
    world.api("teo")("POST", "rotas", rota_in(world, name="Mine"), status=403)
    # Without its label it has no slots, and says so.
    api("DELETE", f"labels/{made['label']}", status=204)
    assert api("GET", "rotas", status=200)[0]["without_slots"] == ["@fernhollow"]


def test_a_rota_deleted_gives_its_turns_back_and_leaves_what_it_planned(world, api):
    rota = filled(world, api)
    fill_rota(rota.pk)
    api("DELETE", f"rotas/{rota.pk}", status=204)
    assert len(api("GET", "tray", status=200)["drafts"]) == 3
    assert Delivery.objects.filter(state="planned").count() == 1


def test_who_carries_a_rota_out_and_who_changes_it_wait_for_each_other(world, api):
    """The wordings lack the rota's profile, so that carrying it out takes them, too."""
    rota = filled(world, api, 6)
    for turn in rota.turns.all()[:5]:
        Delivery.objects.all().delete()
        Placement.objects.filter(rota=rota).delete()
        client, post = world.api().client, turn.wordings.get().post_id
        client.raise_request_exception = False

        def take_out(client=client, turn=turn) -> int:
            return client.delete(f"/api/brands/garden/rotas/{rota.pk}/turns/{turn.pk}").status_code

        _, status = at_once([lambda: fill_rota(rota.pk), take_out], ahead=0.01)
        assert status == 204 and not Post.objects.get(pk=post).evergreen
        assert Placement.objects.filter(rota=rota, filled=True).exists()
