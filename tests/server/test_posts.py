"""Writing, planning, moving, undoing: through the API, as the web does it."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from django.db import IntegrityError, connection, transaction
from django.utils import timezone

from menudo.base.problems import NotFoundError
from menudo.delivery.actions.claim import claim_due
from menudo.delivery.actions.hold_back import hold_back
from menudo.delivery.actions.send import send_due
from menudo.history.models import HistoryEvent
from menudo.people.capabilities import Capability
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Slot
from menudo.profiles.pauses import pauses_of
from menudo_core.signoff.agreement import SignoffState
from tests.server.conftest import picture, post_in

MADRID = ZoneInfo("Europe/Madrid")


def tomorrow(hour: int = 12) -> str:
    return (datetime.now(MADRID) + timedelta(days=1)).strftime(f"%Y-%m-%dT{hour:02d}:00")


def made(world, text="Forty kinds of moss", who="ines", **more):
    return world.api(who)("POST", "posts", post_in(text, profiles=[world.profile.pk], **more), status=201)


def planned(world, wall=None, **more):
    post = made(world, **more)
    when = {"kind": "at", "wall_time": wall or tomorrow()}
    return world.api()("POST", f"posts/{post['id']}/plan", {"when": when}, post["revision"], 200)


def pointers(problem) -> set[str]:
    return {e["pointer"] for e in problem["errors"]}


def test_a_post_is_kept_with_its_versions_and_comes_back_the_same(world):
    asset = world.api().upload(picture()).json()["id"]
    own = {"text": "Short", "media": None, "link": None, "fields": {"title": "Moss"}}
    versions = [{"network": "brisk", "overrides": own}]
    post = made(world, media=[asset], versions=versions)
    again = world.api()("GET", f"posts/{post['id']}", status=200)
    assert again == post
    (kept,) = again["versions"]
    assert kept["network"] == "brisk" and kept["profile"] is None
    said = {name: value for name, value in kept["overrides"].items() if value}
    assert said == {"text": "Short", "fields": {"title": "Moss"}}
    assert again["assets"][0]["width"] == 640


def test_a_write_from_an_older_revision_changes_nothing_and_shows_what_stands(world):
    api, post = world.api(), made(world)
    api("PUT", f"posts/{post['id']}", post_in("Newer"), post["revision"], 200)
    stale = api("PUT", f"posts/{post['id']}", post_in("Mine"), post["revision"], 412)
    assert stale["present"]["master"]["text"] == "Newer"
    api("PUT", f"posts/{post['id']}", post_in("Mine"), None, 428)
    assert Post.objects.get().master["text"] == "Newer"


@pytest.mark.parametrize(("text", "words"), [("a\0b", "NUL"), ("a\ud83cb", "lone surrogate"), ("bell \x07", "control")])
def test_text_that_cant_be_kept_is_refused_at_its_field(world, text, words):
    problem = world.api()("POST", "posts", post_in(text), status=422)
    assert pointers(problem) == {"/master/text"}
    assert words in problem["detail"]
    version = [{"network": "brisk", "overrides": {"text": text}}]
    assert pointers(world.api()("POST", "posts", post_in(versions=version), status=422)) == {
        "/versions/0/overrides/text"
    }


def test_another_brands_profile_and_picture_are_refused_at_their_fields(world):
    foreign_asset = world.api("bruno", "bakery").upload(picture(colour="#b57a06")).json()["id"]
    problem = world.api()(
        "POST", "posts", post_in(media=[foreign_asset], profiles=[world.profile.pk, world.foreign.pk]), status=422
    )
    assert pointers(problem) == {"/master/media/0", "/profiles/1"}
    assert Post.objects.count() == 0


def test_planning_at_a_wall_time_gives_the_instant_in_the_brands_zone(world):
    plan = planned(world, tomorrow(15))
    delivery = Delivery.objects.get()
    assert delivery.due_at.astimezone(MADRID).strftime("%H:%M") == "15:00"
    assert (delivery.zone, delivery.state, plan["post"]["state"]) == ("Europe/Madrid", "planned", "signed_off")


@pytest.mark.parametrize(
    ("wall", "code"),
    [
        ("2020-01-01T12:00", "past"),
        ("2027-03-28T02:30", "skipped"),
        ("2066-01-01T12:00", "far"),
        ("", "time.unreadable"),
        ("noon", "time.unreadable"),
        ("2027-01-01T12:00+02:00", "time.offset"),
    ],
)
def test_a_time_that_cant_be_is_refused_at_its_field_and_nothing_is_planned(world, wall, code):
    post = made(world)
    problem = world.api()(
        "POST", f"posts/{post['id']}/plan", {"when": {"kind": "at", "wall_time": wall}}, post["revision"], 422
    )
    assert [(e["pointer"], e["code"]) for e in problem["errors"]] == [("/when/wall_time", code)]
    assert Delivery.objects.get().state == "unplanned"


def test_next_free_slot_passes_over_those_taken(world):
    Slot.objects.all().delete()
    Slot.objects.bulk_create(Slot(profile=world.profile, weekday=d, at="11:00") for d in range(7))
    walls = []
    for _ in range(3):
        post = made(world)
        plan = world.api()("POST", f"posts/{post['id']}/plan", {"when": {"kind": "next_slot"}}, post["revision"], 200)
        walls.append(datetime.fromisoformat(plan["post"]["deliveries"][0]["wall_time"]))
    assert [w.hour for w in walls] == [11, 11, 11]
    assert walls[1] - walls[0] == walls[2] - walls[1] == timedelta(days=1)


def test_what_a_network_would_refuse_is_left_with_its_reason(world):
    post = made(world, "x" * 301)
    problem = world.api()("POST", f"posts/{post['id']}/plan", {"when": {"kind": "now"}}, post["revision"], 422)
    assert pointers(problem) == {"/text"}
    empty = made(world, "")
    problem = world.api()("POST", f"posts/{empty['id']}/plan", {"when": {"kind": "now"}}, empty["revision"], 422)
    assert "nothing to post" in problem["detail"]


def test_a_profile_without_slots_says_so(world):
    Slot.objects.all().delete()
    post = made(world)
    problem = world.api()("POST", f"posts/{post['id']}/plan", {"when": {"kind": "next_slot"}}, post["revision"], 422)
    assert pointers(problem) == {"/when"}


def test_a_brand_with_sign_off_holds_what_is_planned(world):
    world.garden.needs_signoff = True
    world.garden.save()
    plan = planned(world)
    assert (plan["post"]["state"], plan["post"]["deliveries"][0]["state"]) == ("up_for_signoff", "held")


def test_signing_off_plans_what_was_held_and_only_as_it_was_seen(world):
    world.garden.needs_signoff = True
    world.garden.save()
    post = planned(world)["post"]
    world.api("maud")("POST", f"posts/{post['id']}/approve", None, post["revision"] - 1, 412)
    agreed = world.api("maud")("POST", f"posts/{post['id']}/approve", None, post["revision"], 200)
    assert (agreed["state"], agreed["deliveries"][0]["state"]) == ("signed_off", "planned")
    world.api("maud")("POST", f"posts/{post['id']}/approve", None, agreed["revision"], 409)


def test_changing_the_wording_after_sign_off_asks_again(world):
    world.garden.needs_signoff = True
    world.garden.save()
    post = planned(world)["post"]
    agreed = world.api("maud")("POST", f"posts/{post['id']}/approve", None, post["revision"], 200)
    same = world.api()(
        "PUT",
        f"posts/{post['id']}",
        post_in(profiles=[world.profile.pk], title="A title is for the team"),
        agreed["revision"],
        200,
    )
    assert (same["state"], same["deliveries"][0]["state"]) == ("signed_off", "planned")
    changed = world.api()(
        "PUT", f"posts/{post['id']}", post_in("Changed", profiles=[world.profile.pk]), same["revision"], 200
    )
    assert (changed["state"], changed["deliveries"][0]["state"]) == ("up_for_signoff", "held")


def test_move_and_undo_put_the_delivery_back_exactly(world):
    delivery = planned(world)["post"]["deliveries"][0]
    moved = world.api()(
        "POST", f"deliveries/{delivery['id']}/move", {"wall_time": tomorrow(18)}, delivery["revision"], 200
    )
    assert moved["delivery"]["wall_time"] == tomorrow(18)
    world.api()("POST", f"undo/{moved['undo']}", status=200)
    back = world.api()("GET", f"posts/{Post.objects.get().pk}", status=200)["deliveries"][0]
    assert {k: back[k] for k in ("wall_time", "due_at", "state", "zone")} == {
        k: delivery[k] for k in ("wall_time", "due_at", "state", "zone")
    }
    world.api()("POST", f"undo/{moved['undo']}", status=409)


def test_undo_of_planning_makes_it_a_draft_again_and_its_job_does_nothing(world):
    plan = planned(world)
    world.api()("POST", f"undo/{plan['undo']}", status=200)
    delivery = Delivery.objects.get()
    assert (delivery.state, delivery.due_at, delivery.post.state) == ("unplanned", None, "draft")


def test_undo_is_refused_once_something_else_happened_and_to_others(world):
    plan = planned(world)
    delivery = plan["post"]["deliveries"][0]
    HistoryEvent.objects.filter(pk=plan["undo"]).update(actor_id=0)
    world.api()("POST", f"undo/{plan['undo']}", status=409)
    moved = world.api()(
        "POST", f"deliveries/{delivery['id']}/move", {"wall_time": tomorrow(18)}, delivery["revision"], 200
    )
    world.api()("POST", f"deliveries/{delivery['id']}/unschedule", None, moved["delivery"]["revision"], 200)
    assert "changed or sent since" in world.api()("POST", f"undo/{moved['undo']}", status=409)["detail"]


def test_two_people_who_move_one_ticket_the_second_is_told(world):
    delivery = planned(world)["post"]["deliveries"][0]
    world.api()("POST", f"deliveries/{delivery['id']}/move", {"wall_time": tomorrow(9)}, delivery["revision"], 200)
    stale = world.api()(
        "POST", f"deliveries/{delivery['id']}/move", {"wall_time": tomorrow(18)}, delivery["revision"], 412
    )
    assert stale["present"]["wall_time"] == tomorrow(9)


def test_what_is_published_cant_be_moved_or_planned_again(world):
    delivery = planned(world)["post"]["deliveries"][0]
    Delivery.objects.update(state="published")
    problem = world.api()(
        "POST", f"deliveries/{delivery['id']}/move", {"wall_time": tomorrow(9)}, delivery["revision"], 409
    )
    assert "published already" in problem["detail"]
    post = world.api()("GET", f"posts/{Post.objects.get().pk}")
    assert post["deliveries"][0]["allowed_actions"] == []
    world.api()("POST", f"posts/{post['id']}/plan", {"when": {"kind": "now"}}, post["revision"], 422)


def test_a_planned_profile_cant_be_dropped_from_its_post_in_passing(world):
    plan = planned(world)
    problem = world.api()("PUT", f"posts/{plan['post']['id']}", post_in("Changed"), plan["post"]["revision"], 409)
    assert "Take it off the calendar first" in problem["detail"]
    assert Post.objects.get().master["text"] == "Forty kinds of moss"


def test_a_draft_goes_to_the_bin_and_back_but_not_what_is_planned(world):
    post = made(world)
    world.api()("DELETE", f"posts/{post['id']}", status=204)
    world.api()("GET", f"posts/{post['id']}", status=404)
    assert world.api()("POST", f"posts/{post['id']}/restore", status=200)["master"] == post["master"]
    plan = planned(world)
    world.api()("DELETE", f"posts/{plan['post']['id']}", status=409)


def test_what_is_in_the_bin_is_not_planned_by_undoing(world):
    plan, api = planned(world), world.api()
    (delivery,) = plan["post"]["deliveries"]
    off = api("POST", f"deliveries/{delivery['id']}/unschedule", None, delivery["revision"], 200)
    api("DELETE", f"posts/{plan['post']['id']}", status=204)
    refused = api("POST", f"undo/{off['undo']}", status=409)
    assert "in the bin" in refused["detail"] and Delivery.objects.get().state == "unplanned"
    api("POST", f"posts/{plan['post']['id']}/restore", status=200)
    api("POST", f"undo/{off['undo']}", status=200)
    assert Delivery.objects.get().state == "planned"


def test_what_is_in_the_bin_never_goes_out_whoever_planned_it(world, standin):
    """The database has the last word; and without it nothing that is in the bin is claimed, or sent once it is."""
    planned(world)
    with pytest.raises(IntegrityError, match="can't go to the bin"), transaction.atomic():
        Post.objects.update(deleted_at=timezone.now())
    Delivery.objects.update(state="unplanned")
    Post.objects.update(deleted_at=timezone.now())
    due = {"due_at": timezone.now() - timedelta(seconds=1)}
    for state in ("planned", "held", "waiting_for_hand"):
        with pytest.raises(IntegrityError, match="in the bin"), transaction.atomic():
            Delivery.objects.update(state=state, **due)
    with connection.cursor() as cursor:
        cursor.execute("ALTER TABLE posts_delivery DISABLE TRIGGER menudo_delivery_in_bin")
        try:
            Delivery.objects.update(state="planned", **due)
            send_due()
            assert Delivery.objects.get().state == "planned"
            # Binned between its claim and the look at it.
            Post.objects.update(deleted_at=None)
            (claimed,) = claim_due()
            claimed.post.deleted_at = timezone.now()
            assert hold_back(claimed, SignoffState.NONE, pauses_of([world.garden.pk]), 0)
        finally:
            cursor.execute("ALTER TABLE posts_delivery ENABLE TRIGGER menudo_delivery_in_bin")
    assert Delivery.objects.get().state == "unplanned" and standin.posts() == []


def test_a_post_that_goes_to_the_bin_while_it_is_being_planned_is_not_there(world):
    from menudo.people.context import BrandContext
    from menudo.people.models import User
    from menudo.posts.actions.plan_post import plan_post
    from menudo.posts.schemas import WhenIn

    found = Post.objects.get(pk=made(world)["id"])
    world.api()("DELETE", f"posts/{found.pk}", status=204)
    place = BrandContext(User.objects.get(email="ines@example.org"), world.garden, frozenset(Capability))
    with pytest.raises(NotFoundError):
        plan_post(place, found, WhenIn(kind="at", wall_time=tomorrow()), None, found.revision)


def test_everything_that_happened_is_in_the_posts_history(world):
    plan = planned(world)
    delivery = plan["post"]["deliveries"][0]
    world.api()("POST", f"deliveries/{delivery['id']}/call-off", None, delivery["revision"], 200)
    words = [e["summary"] for e in world.api()("GET", f"posts/{plan['post']['id']}/history", status=200)]
    assert words == ["called @fernhollow off", "planned 1 delivery", "began “Forty kinds of moss”"]


def test_the_calendar_and_the_strip_show_it_in_a_fixed_number_of_statements(world, django_assert_num_queries):
    from menudo.calendar.strip import next_day_strip
    from menudo.calendar.tray import unplanned_posts
    from menudo.calendar.window import NO_FILTER, calendar_window
    from menudo.people.context import BrandContext
    from menudo.people.models import User
    from menudo.profiles.queries import profile_list

    place = BrandContext(User.objects.get(email="ines@example.org"), world.garden, frozenset())
    for hour in range(10, 16):
        planned(world, tomorrow(hour))
    made(world, "A draft")
    now = datetime.now(UTC)
    with django_assert_num_queries(10):
        seen = calendar_window(place, now.astimezone(MADRID).date(), 14, now)
    assert [t["time"] for t in seen["tickets"]] == [f"{h}:00" for h in range(10, 16)]
    assert {t["day"] for t in seen["tickets"]} == {1}
    with django_assert_num_queries(5):
        assert [t.headline for t in unplanned_posts(place, NO_FILTER).drafts] == ["A draft"]
    with django_assert_num_queries(6):
        (profile,) = profile_list(place, now)
    assert (profile.planned, profile.trouble, profile.last_published) == (6, 0, None)
    with django_assert_num_queries(2):
        ticks = next_day_strip(place, now).ticks
    inside = Delivery.objects.filter(due_at__lt=now + timedelta(hours=24))
    assert len(ticks) == len(inside)


def test_the_calendars_answer_is_what_its_schema_says(world):
    from menudo.calendar.schemas import AllOut, WindowOut

    planned(world)
    made(world, "A draft")
    answer = world.api()("GET", "calendar", status=200)
    assert set(answer) == set(WindowOut.model_fields)
    assert WindowOut.model_validate(answer).tickets[0].headline == "Forty kinds of moss"
    everywhere = world.api().client.get("/api/calendar").json()
    assert set(everywhere) == set(AllOut.model_fields)
    assert AllOut.model_validate(everywhere).brands[0].tickets[0].headline == "Forty kinds of moss"


def test_the_strip_stacks_what_shares_a_quarter_of_an_hour(world):
    for _ in range(3):
        planned(world)
    at = datetime.now(UTC) + timedelta(hours=2)
    Delivery.objects.update(due_at=at.replace(second=0))
    assert [t["stack"] for t in world.api()("GET", "strip", status=200)["ticks"]] == [0, 1, 2]


def test_check_answers_for_all_networks_in_one_call(world):
    body = {
        "master": {"text": "x" * 301, "media": []},
        "columns": [{"network": "brisk"}, {"network": "guildhall"}],
        "versions": [{"network": "guildhall", "overrides": {"text": "Short"}}],
    }
    brisk, guildhall = world.api()("POST", "check", body, status=200)
    assert (brisk["fits"], brisk["length"], guildhall["fits"], guildhall["length"]) == (False, 301, True, 5)
    assert pointers(world.api()("POST", "check", {**body, "columns": [{"network": "nowhere"}]}, status=422)) == {
        "/columns/0/network"
    }


def test_what_was_marked_elsewhere_is_not_taken_off_by_who_has_the_post_open(world):
    """A Bench sends the labels it knows: one that was put on meanwhile from the calendar is news to it."""
    api = world.api()
    label = api("POST", "labels", {"name": "Talks", "ink": "plum"}, status=201)["id"]
    post = api("POST", "posts", post_in("Moss"), status=201)
    api("POST", "marks", {"posts": [post["id"]], "add": [label]}, status=200)
    present = api("PUT", f"posts/{post['id']}", post_in("Moss and fern"), post["revision"], 412)["present"]
    assert present["labels"] == [label]
