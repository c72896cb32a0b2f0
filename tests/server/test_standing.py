"""Pauses, ended connections, by hand, and what becomes of what was missed."""

from datetime import timedelta

import pytest
from django.db.models import F
from django.utils import timezone

from menudo.delivery.actions.end_connection import end_expired_connections
from menudo.delivery.actions.pause import end_expired_pauses
from menudo.delivery.actions.send import send_due
from menudo.delivery.actions.send_expiry_warnings import send_expiry_warnings
from menudo.delivery.actions.sweep import miss_overdue
from menudo.notices.models import Notice
from menudo.notices.tasks import mail_notice
from menudo.posts.change.recompute_holds import recheck_holds
from menudo.posts.models import Delivery
from menudo.profiles.models import Connection, Pause, Profile
from tests.server.conftest import connected, picture
from tests.server.test_delivery import due, sent

HOUR = timedelta(hours=1)


def planned(world, hours: float = 2, profile: Profile | None = None, **more) -> Delivery:
    more = {"due_at": timezone.now() + hours * HOUR, **more}
    delivery = due(world, **more)
    if profile:
        Delivery.objects.filter(pk=delivery.pk).update(profile=profile)
    return delivery


def state(delivery: Delivery) -> tuple[str, str]:
    delivery.refresh_from_db()
    return delivery.state, delivery.held_for


def pause(world, **body) -> int:
    return world.api()("POST", "pauses", body, status=201)["id"]


def five_hours_pass() -> None:
    """As if the clock had gone on: everything that was is five hours longer ago."""
    Delivery.objects.filter(due_at__isnull=False).update(due_at=F("due_at") - 5 * HOUR)
    Pause.objects.update(starts_at=F("starts_at") - 5 * HOUR)


def test_a_paused_profile_holds_what_is_planned_and_releases_it_on_resuming(world):
    delivery = planned(world)
    pause_id = pause(world, profile=world.profile.pk, reason="Storm")
    assert state(delivery) == ("held", "paused")
    row = world.api()("GET", "profiles")[0]
    assert (row["paused"]["reason"], row["paused"]["created_by"]) == ("Storm", "Ines")
    assert send_due() is None and state(delivery) == ("held", "paused")
    world.api()("POST", f"pauses/{pause_id}/end", status=200)
    assert state(delivery) == ("planned", "")


def test_a_pause_until_a_time_leaves_what_is_due_later_alone(world):
    soon, later = planned(world, 2), planned(world, 50)
    until = (timezone.now().astimezone(timezone.get_fixed_timezone(60)) + timedelta(days=1)).strftime("%Y-%m-%dT%H:%M")
    pause(world, ends_at=until)
    assert (state(soon), state(later)) == (("held", "paused"), ("planned", ""))


def test_planning_and_moving_into_a_pause_holds_and_out_of_it_releases(world):
    pause_id = pause(world)
    api = world.api()
    post = api("POST", "posts", {"master": {"text": "Moss"}, "profiles": [world.profile.pk]}, status=201)
    api("POST", f"posts/{post['id']}/plan", {"when": {"kind": "next_slot"}}, post["revision"], 200)
    delivery = Delivery.objects.get(post_id=post["id"])
    assert state(delivery) == ("held", "paused")
    Pause.objects.filter(pk=pause_id).update(ends_at=timezone.now() + HOUR)
    wall = (timezone.now() + timedelta(days=9)).strftime("%Y-%m-%dT12:00")
    api("POST", f"deliveries/{delivery.pk}/move", {"wall_time": wall}, delivery.revision, 200)
    assert state(delivery) == ("planned", "")


def test_a_second_pause_of_the_same_is_refused_and_an_until_in_the_past_too(world):
    pause(world)
    assert "paused already" in world.api()("POST", "pauses", {}, status=409)["detail"]
    world.api()("POST", "pauses", {"profile": world.profile.pk, "ends_at": "2020-01-01T10:00"}, status=422)
    world.api()("POST", "pauses", {"profile": world.foreign.pk}, status=404)


def test_a_pause_that_came_a_moment_before_sending_still_counts(world, standin):
    delivery = due(world)
    Pause.objects.create(brand=world.garden, starts_at=timezone.now())
    assert state(sent(delivery)) == ("held", "paused")
    assert standin.posts() == []


@pytest.mark.parametrize("choice", ["send_now", "next_slots", "drafts"])
def test_what_was_missed_while_paused_waits_for_a_choice_and_no_flood_comes(world, standin, choice):
    late = [planned(world, 3.5 - n) for n in range(3)]
    pause_id = pause(world)
    five_hours_pass()
    assert miss_overdue() == 3 and {state(d) for d in late} == {("missed", "paused")}
    api = world.api()
    assert api("GET", "obstacles")["missed"] == [], "nothing is offered while it is paused still"
    api("POST", f"pauses/{pause_id}/end", status=200)
    offered = api("GET", "obstacles")["missed"]
    assert [m["delivery"] for m in offered] == [d.pk for d in reversed(late)]
    assert standin.posts() == []
    done = api("POST", "catch-up", {"choice": choice}, status=200)
    assert done["count"] == 3
    for delivery in late:
        delivery.refresh_from_db()
    if choice == "drafts":
        assert {d.state for d in late} == {"unplanned"} and {d.due_at for d in late} == {None}
    else:
        times = sorted(d.due_at for d in late)
        assert {d.state for d in late} == {"planned"} and len(set(times)) == 3
        if choice == "send_now":
            assert times[1] - times[0] >= timedelta(seconds=60), "one after another"
        else:
            assert all(t > timezone.now() for t in times)
    api("POST", "catch-up", {"choice": choice}, status=409)
    api("POST", f"undo/{done['undo']}", status=200)
    assert {state(d) for d in late} == {("missed", "paused")}


def test_what_nobody_signed_is_not_caught_up_with(world):
    world.garden.needs_signoff = True
    world.garden.save()
    delivery = planned(world, -1)
    Delivery.objects.update(signoff_state="waits")
    pause_id = pause(world)
    assert state(delivery) == ("held", "signoff")
    miss_overdue()
    world.api()("POST", f"pauses/{pause_id}/end", status=200)
    assert world.api()("GET", "obstacles")["missed"] == []
    assert "not signed off" in Delivery.objects.get().reason


def test_a_missed_post_nobody_signed_is_held_again_when_it_is_moved(world):
    world.garden.needs_signoff = True
    world.garden.save()
    delivery = planned(world, -1, state="missed", held_for="signoff")
    Delivery.objects.update(signoff_state="waits")
    wall = (timezone.now() + timedelta(days=9)).strftime("%Y-%m-%dT12:00")
    world.api()("POST", f"deliveries/{delivery.pk}/move", {"wall_time": wall}, delivery.revision, 200)
    assert state(delivery) == ("held", "signoff")


def test_a_pause_that_runs_out_is_over_by_itself_and_told(world):
    late, ahead = planned(world, 2), planned(world, 9)
    pause_id = pause(world)
    five_hours_pass()
    miss_overdue()
    Pause.objects.filter(pk=pause_id).update(ends_at=timezone.now() - timedelta(seconds=1))
    assert end_expired_pauses() == 1 and end_expired_pauses() == 0
    assert state(ahead) == ("planned", "") and state(late) == ("missed", "paused")
    assert "pause of Fernhollow is over" in Notice.objects.get(user__email="ines@example.org", kind="pause").summary
    assert len(world.api()("GET", "obstacles")["missed"]) == 1


def test_all_ones_brands_are_paused_and_resumed_at_once_and_only_ones_own(world):
    client = world.api().client
    assert client.post("/api/pauses", {"reason": "Bad news day"}, "application/json").json() == {"count": 1}
    assert Pause.objects.filter(brand=world.bakery).count() == 0
    assert client.post("/api/pauses/end", {}, "application/json").json() == {"count": 1}


def test_a_revoked_sign_in_holds_everything_and_reconnecting_lets_one_choose(world, standin):
    first, ahead = due(world), planned(world, 4)
    standin.control("revoke", {"network": "brisk", "login": "desk"})
    sent(first)
    assert (state(first), state(ahead)) == (("held", "reconnect"), ("held", "reconnect"))
    miss_overdue()
    assert state(first) == ("missed", "reconnect")
    assert Delivery.objects.filter(state="in_trouble").count() == 0
    notice = Notice.objects.get(user__email="ines@example.org")
    assert "must be reconnected" in notice.summary and notice.path == "/garden/profiles"
    assert world.api()("GET", "obstacles")["expiring"][0]["ended"]
    from tests.server.test_connect import at_the_network, back, set_out

    back(world, at_the_network(set_out(world), profiles=("fernhollow",)))
    assert state(ahead) == ("planned", "")
    assert [m["delivery"] for m in world.api()("GET", "obstacles")["missed"]] == [first.pk]


@pytest.mark.parametrize(("days", "told"), [(13.5, 14), (2.5, 3), (0.5, 1), (20, None)])
def test_a_connection_is_warned_of_once_for_each_step_in_the_product_and_by_mail(
    world, days, told, mailoutbox, settings
):
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    Connection.objects.update(expires_at=timezone.now() + timedelta(days=days))
    assert send_expiry_warnings() == (1 if told else 0) and send_expiry_warnings() == 0
    row = world.api()("GET", "profiles")[0]
    assert row["warning"] == (told is not None)
    assert [len(world.api()("GET", "obstacles")["expiring"])] == [1 if told else 0]
    for notice in Notice.objects.all():
        mail_notice(notice.pk)
        mail_notice(notice.pk)
    assert [m.to for m in mailoutbox] == ([["ines@example.org"]] if told else [])
    if told:
        assert f"ends in {-(-days // 1):.0f} day" in mailoutbox[0].subject and "/garden/profiles" in mailoutbox[0].body


def test_a_connection_whose_time_is_over_is_ended_before_anything_is_sent(world):
    delivery = planned(world)
    Connection.objects.update(expires_at=timezone.now() - HOUR)
    assert end_expired_connections() == 1 and end_expired_connections() == 0
    assert state(delivery) == ("held", "reconnect")
    assert Profile.objects.get(pk=world.profile.pk).state == "must_be_reconnected"


def test_what_a_program_that_died_left_held_is_looked_at_again(world):
    delivery = planned(world, state="held", held_for="paused")
    assert recheck_holds() == 1 and state(delivery) == ("planned", "")


# By hand.
@pytest.fixture
def by_hand(world):
    profile_id = world.api()(
        "POST", "profiles/by-hand", {"name": "Maud at Plaza", "network": "plaza", "kind": "personal"}, status=201
    )
    return Profile.objects.get(pk=profile_id)


def waiting(world, profile: Profile) -> Delivery:
    delivery = due(world, "A year of mornings", headline="A year of mornings")
    Delivery.objects.filter(pk=delivery.pk).update(profile=profile)
    delivery.refresh_from_db()
    return sent(delivery)


def test_what_is_due_by_hand_waits_for_a_person_who_is_told_once_with_a_link_to_it(world, standin, by_hand):
    delivery = waiting(world, by_hand)
    assert delivery.state == "waiting_for_hand" and standin.posts() == []
    send_due()
    notice = Notice.objects.get()
    assert (notice.user.email, notice.path) == ("ines@example.org", f"/garden/by-hand/{delivery.pk}")
    page = world.api()("GET", f"deliveries/{delivery.pk}", status=200)
    assert page["by_hand"] and page["text"] == "A year of mornings" and "done" in page["delivery"]["allowed_actions"]


def test_done_with_its_link_counts_as_published(world, by_hand):
    delivery = waiting(world, by_hand)
    api = world.api()
    bad = api("POST", f"deliveries/{delivery.pk}/published", {"url": "there"}, delivery.revision, 422)
    assert bad["errors"][0]["pointer"] == "/url"
    api("POST", f"deliveries/{delivery.pk}/published", {"url": "https://plaza.example.org/p/1"}, delivery.revision, 200)
    delivery.refresh_from_db()
    assert (delivery.state, delivery.remote_url) == ("published", "https://plaza.example.org/p/1")
    assert delivery.sent_content["text"] == "A year of mornings" and delivery.published_at
    api("POST", f"deliveries/{delivery.pk}/published", {"url": ""}, delivery.revision, 409)


def test_not_done_needs_a_reason_and_keeps_it(world, by_hand):
    delivery = waiting(world, by_hand)
    api = world.api()
    assert (
        api("POST", f"deliveries/{delivery.pk}/not-published", {"reason": " "}, delivery.revision, 422)["errors"][0][
            "pointer"
        ]
        == "/reason"
    )
    api("POST", f"deliveries/{delivery.pk}/not-published", {"reason": "The picture is blurred"}, delivery.revision, 200)
    delivery.refresh_from_db()
    assert delivery.state == "called_off" and "blurred" in delivery.reason


def test_later_plans_it_again_and_tells_again_then(world, by_hand):
    delivery = waiting(world, by_hand)
    wall = (timezone.now() + timedelta(days=2)).strftime("%Y-%m-%dT18:00")
    world.api()("POST", f"deliveries/{delivery.pk}/postpone", {"wall_time": wall}, delivery.revision, 200)
    assert state(delivery) == ("planned", "")
    Delivery.objects.update(due_at=timezone.now())
    assert sent(delivery).state == "waiting_for_hand"
    assert Notice.objects.count() == 2


def test_the_keeper_may_say_it_is_done_without_planning_anything_else(world, by_hand):
    teo = world.api("teo").client.get("/api/me").json()["id"]
    world.api()("PATCH", f"profiles/{by_hand.pk}", {"display_name": "Teo's", "zone": "", "keeper": teo}, status=204)
    delivery = waiting(world, by_hand)
    assert Notice.objects.get().user.email == "teo@example.org"
    world.api("lucia")("POST", f"deliveries/{delivery.pk}/published", {"url": ""}, delivery.revision, 403)
    world.api("teo")("POST", f"deliveries/{delivery.pk}/published", {"url": ""}, delivery.revision, 200)


# Disconnecting.
@pytest.mark.parametrize(("then", "becomes"), [("drafts", "unplanned"), ("call_off", "called_off")])
def test_disconnecting_says_what_hangs_on_it_and_ends_the_sign_in_at_the_network(world, standin, then, becomes):
    waits, gone = planned(world), due(world, "Out already")
    sent(gone)
    assert world.api()("GET", "profiles")[0]["planned"] == 1
    done = world.api()("POST", f"profiles/{world.profile.pk}/disconnect", {"then": then}, status=200)
    assert done["count"] == 1 and state(waits)[0] == becomes and state(gone)[0] == "published"
    assert Profile.objects.get(pk=world.profile.pk).state == "disconnected" and not Connection.objects.exists()
    world.api()("POST", f"profiles/{world.profile.pk}/disconnect", {"then": then}, status=409)


def test_a_sign_in_that_another_profile_needs_is_kept(world, standin):
    Connection.objects.all().delete()
    connection, (one, other) = connected(standin, world.garden, "nursery", "talks")
    world.api()("POST", f"profiles/{one.pk}/disconnect", {"then": "drafts"}, status=200)
    assert (
        Connection.objects.filter(pk=connection.pk).exists() and Profile.objects.get(pk=other.pk).state == "connected"
    )


def test_nothing_is_disconnected_while_it_is_being_sent(world):
    due(world, state="sending", lease_until=timezone.now() + HOUR)
    world.api()("POST", f"profiles/{world.profile.pk}/disconnect", {"then": "drafts"}, status=409)
    assert Profile.objects.get(pk=world.profile.pk).state == "connected"


def test_a_stand_in_network_refuses_a_profile_whose_condition_is_not_met(world, standin):
    standin.control("facts", {"network": "brisk", "uid": "fernhollow", "facts": {"role": "editor"}})
    delivery = sent(due(world))
    assert delivery.state == "in_trouble" and "keepers" in delivery.reason


def test_media_of_a_post_by_hand_can_be_downloaded_whole(world, by_hand):
    asset = world.api().upload(picture()).json()["id"]
    answer = world.api().client.get(f"/media/garden/{asset}/whole")
    assert answer.status_code == 200 and answer["Content-Type"] == "image/jpeg"
