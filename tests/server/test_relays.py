"""Relays: what appears is carried once, never round, never old; asked about, sampled, logged. All numbers are invented."""

from datetime import timedelta

import pytest
from django.core.cache import cache
from django.utils import timezone

from menudo.delivery.actions.send import send_due
from menudo.feeds.actions.poll_feed import poll_feed
from menudo.notices.models import Notice
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.relays.actions.run_relay import run_due_relays
from menudo.relays.models import Firing, Relay, SeenItem, SourceItem
from tests.server.conftest import picture
from tests.server.relaying import cell, published, relay, verdicts
from tests.server.test_feeds import item, put
from tests.server.test_posts import pointers


@pytest.fixture
def api(world):
    cache.clear()
    return world.api()


def test_what_appears_on_a_profile_goes_on_once_and_out(world, api, nursery, standin):
    published(world, "Old moss")
    one = relay(api, f"p{world.profile.pk}", nursery)
    assert run_due_relays() == 0
    published(world, "Forty kinds of moss")
    assert run_due_relays() == 1 and run_due_relays() == 0
    made = Delivery.objects.get(post__firing__relay=one)
    assert (made.profile, made.state, made.headline) == (nursery, "planned", "Forty kinds of moss")
    assert verdicts(one) == ["old", "fires"]
    send_due()
    assert standin.posts("nursery")[0]["body"]["text"] == "Forty kinds of moss"
    log = api("GET", "relays/log", status=200)["firings"]
    assert (log[0]["title"], log[0]["verdict"], log[0]["state"]) == ("Forty kinds of moss", "fires", "published")


def test_a_ring_of_relays_returns_nothing_to_where_it_has_been_and_is_seen_beforehand(world, api, nursery):
    there = relay(api, f"p{world.profile.pk}", nursery)
    back = relay(api, f"p{nursery.pk}", world.profile)
    board = api("GET", "relays", status=200)
    assert board["cycles"] == [sorted([world.profile.pk, nursery.pk])]
    published(world, "Round and round")
    assert run_due_relays() == 1
    send_due()
    assert run_due_relays() == 0 == run_due_relays()
    assert verdicts(there) == ["fires"] and verdicts(back)[-1] == "been_there"


def test_the_same_thing_never_comes_twice_to_a_profile_whatever_the_path(world, api, nursery, standin):
    a = put(standin, [], "a.json")
    b = put(standin, [], "b.json")
    feeds = [api("POST", "feeds", {"address": one}, status=201)["id"] for one in (a, b)]
    relays = [relay(api, f"f{feed_id}", nursery) for feed_id in feeds]
    for path, feed_id in (("a.json", feeds[0]), ("b.json", feeds[1])):
        put(standin, [item(1, "Both tell it")], path)
        poll_feed(feed_id)
    assert run_due_relays() == 1
    assert sorted(v for one in relays for v in verdicts(one)) == ["fires", "twice"]
    assert SeenItem.objects.filter(profile=nursery).exclude(origin__startswith="link:").count() == 1
    # What goes to both by itself isn't carried from one to the other.
    both = published(world, "On both already")
    Delivery.objects.create(
        post=both.post, profile=nursery, brand=world.garden, key=f"{9:032x}", state="planned", due_at=timezone.now()
    )
    across = relay(api, f"p{world.profile.pk}", nursery, take=1)
    assert verdicts(across) == ["been_there"]


def test_conditions_say_why_not_and_a_sample_shows_what_would_go(world, api, nursery):
    asset = api.upload(picture()).json()["id"]
    published(world, "No picture here")
    published(world, "Moss close up #moss", media=[asset])
    settings = {"conditions": {"has": ["picture"], "tags": ["Moss"]}, "messages": [{"text": "{text}\n{day}"}]}
    found = api("POST", "relays/sample", cell(f"p{world.profile.pk}", nursery, **settings), status=200)
    assert [(one["title"], one["fires"]) for one in found] == [
        ("Moss close up #moss", True),
        ("No picture here", False),
    ]
    assert found[0]["text"].startswith("Moss close up #moss\n") and found[0]["media"] == [
        {"asset": asset, "address": ""}
    ]
    assert "picture" in found[1]["reason"] and not SourceItem.objects.exists() and not Relay.objects.exists()
    one = relay(api, f"p{world.profile.pk}", nursery, take=2, **settings)
    assert sorted(verdicts(one)) == ["fires", "no_has"]
    carried = Post.objects.get(firing__relay=one)
    assert carried.master["media"] == [asset]


def test_long_words_are_shortened_to_the_targets_rules_and_what_cannot_be_posted_stops_and_pauses(world, api, nursery):
    one = relay(api, f"p{world.profile.pk}", nursery)
    published(world, "A long sentence about moss. " * 30)
    assert run_due_relays() == 1
    assert len(Post.objects.get(firing__relay=one).master["text"]) <= 300
    strict = relay(api, f"p{world.profile.pk}", other(world), adaptation={"adapts": False})
    for n in range(6):
        published(world, f"{n} " + "x" * 400)
    run_due_relays()
    strict.refresh_from_db()
    assert verdicts(strict).count("stopped") == 5 and strict.paused_reason
    assert Notice.objects.filter(kind="trouble", summary__contains="paused itself").exists()
    # Switched on again it begins anew.
    api("POST", f"relays/{strict.pk}/switch", {"active": True}, status=200)
    assert Relay.objects.get(pk=strict.pk).paused_reason == ""


def other(world) -> Profile:
    return Profile.objects.create(
        brand=world.garden,
        network="brisk",
        remote_id="third",
        handle="@third",
        name="Third",
        kind="account",
        connection=world.connection,
    )


def test_more_than_its_ceiling_within_an_hour_pauses_it_and_tells(world, api, nursery):
    one = relay(api, f"p{world.profile.pk}", nursery, hourly_limit=2)
    for n in range(4):
        published(world, f"Post {n}")
    assert run_due_relays() == 2
    one.refresh_from_db()
    assert "ceiling" in one.paused_reason and verdicts(one) == ["fires", "fires", "too_many"]
    assert Notice.objects.filter(summary__contains="ceiling").count() == 1


def test_so_many_a_day_and_only_in_its_hours_the_rest_waits(world, api, nursery, settings):
    one = relay(api, f"p{world.profile.pk}", nursery, daily_limit=1)
    for n in range(3):
        published(world, f"Post {n}")
    assert run_due_relays() == 1 and run_due_relays() == 0
    settings.CLOCK_OFFSET = timedelta(days=1)
    assert run_due_relays() == 1
    # What waited a week isn't news any more.
    settings.CLOCK_OFFSET = timedelta(days=9)
    Firing.objects.filter(relay=one).update(fired_at=timezone.now() - timedelta(days=1))
    Relay.objects.update(hours_from="00:00", hours_until="00:01")
    run_due_relays()
    assert verdicts(one) == ["fires", "fires", "old"]


def test_messages_take_turns_each_so_often_and_then_it_says_so(world, api, nursery):
    messages = [{"text": "One: {text}", "times": 1}, {"text": "Two: {text}", "times": 2}]
    one = relay(api, f"p{world.profile.pk}", nursery, messages=messages)
    for n in range(4):
        published(world, f"{n}")
    assert run_due_relays() == 3
    texts = [leg.post.master["text"] for leg in one.firings.order_by("pk") if leg.post]
    assert texts == ["One: 0", "Two: 1", "Two: 2"]
    one.refresh_from_db()
    assert "used up" in one.paused_reason


def test_what_asks_first_waits_for_an_answer(world, api, nursery):
    one = relay(api, f"p{world.profile.pk}", nursery, confirmation="asks", timing="after", delay_minutes=90)
    published(world, "Shall it?")
    published(world, "Shall it not?")
    assert run_due_relays() == 2
    first, second = api("GET", "relays/questions", status=200)
    assert first["text"] == "Shall it?" and Notice.objects.filter(kind="ask").count() == 2
    assert Delivery.objects.filter(post=first["firing"]["post"], state="unplanned").exists()
    # It may be changed meanwhile: what goes out is what stands.
    Post.objects.filter(pk=first["firing"]["post"]).update(master={"text": "It shall."})
    api("POST", f"firings/{first['firing']['id']}/answer", {"yes": True}, status=200)
    out = Delivery.objects.get(post=first["firing"]["post"])
    assert out.state == "planned" and timedelta(minutes=80) < out.due_at - timezone.now() < timedelta(minutes=91)
    api("POST", f"firings/{second['firing']['id']}/answer", {"yes": False}, status=200)
    assert Post.objects.get(pk=second["firing"]["post"]).deleted_at
    api("POST", f"firings/{second['firing']['id']}/answer", {"yes": True}, status=409)
    assert api("GET", "relays/questions", status=200) == [] and verdicts(one) == ["fires", "declined"]


def test_a_draft_that_was_given_another_profile_goes_out_to_both_when_it_is_answered(world, api, nursery):
    one = relay(api, f"p{world.profile.pk}", nursery, confirmation="asks", timing="after", delay_minutes=90)
    published(world, "Shall it?")
    assert run_due_relays() == 1
    (question,) = api("GET", "relays/questions", status=200)
    draft = api("GET", f"posts/{question['firing']['post']}", status=200)
    wider = {"master": draft["master"], "profiles": [nursery.pk, world.profile.pk]}
    api("PUT", f"posts/{draft['id']}", wider, draft["revision"], 200)
    api("POST", f"firings/{question['firing']['id']}/answer", {"yes": True}, status=200)
    out = dict(Delivery.objects.filter(post=draft["id"]).values_list("profile_id", "state"))
    assert out == {nursery.pk: "planned", world.profile.pk: "planned"} and verdicts(one) == ["fires"]


def test_a_draft_that_cant_go_to_a_profile_it_was_given_stays_a_question(world, api, nursery):
    relay(api, f"p{world.profile.pk}", nursery, confirmation="asks")
    published(world, "Shall it?")
    assert run_due_relays() == 1
    (question,) = api("GET", "relays/questions", status=200)
    draft = api("GET", f"posts/{question['firing']['post']}", status=200)
    wider = {"master": draft["master"], "profiles": [nursery.pk, world.profile.pk]}
    api("PUT", f"posts/{draft['id']}", wider, draft["revision"], 200)
    Profile.objects.filter(pk=world.profile.pk).update(state="must_be_reconnected")
    refused = api("POST", f"firings/{question['firing']['id']}/answer", {"yes": True}, status=409)
    assert world.profile.handle in refused["detail"] and len(api("GET", "relays/questions", status=200)) == 1
    assert not Delivery.objects.filter(post=draft["id"]).exclude(state="unplanned").exists()


def test_a_question_is_answered_by_planning_its_draft_and_its_draft_is_never_lost(world, api, nursery):
    one = relay(api, f"p{world.profile.pk}", nursery, confirmation="asks")
    for n in range(3):
        published(world, f"Question {n}")
    assert run_due_relays() == 3 and api("GET", "tray", status=200)["drafts"] == []
    planned, binned, _ = (leg.post for leg in one.firings.order_by("pk"))
    api("POST", f"posts/{planned.pk}/plan", {"when": {"kind": "next_slot"}}, planned.revision, 200)
    api("DELETE", f"posts/{binned.pk}", status=204)
    assert [q["text"] for q in api("GET", "relays/questions", status=200)] == ["Question 2"]
    assert api("GET", "relays", status=200)["asked"] == 1
    # Out of the bin, and with its relay gone, each is a draft in the tray as any other.
    api("POST", f"posts/{binned.pk}/restore", {}, status=200)
    api("DELETE", f"relays/{one.pk}", status=204)
    assert sorted(d["headline"] for d in api("GET", "tray", status=200)["drafts"]) == ["Question 1", "Question 2"]


def test_what_only_tells_makes_a_draft_when_asked_and_not_twice(world, api, nursery):
    one = relay(api, f"p{world.profile.pk}", nursery, confirmation="tells")
    published(world, "Only told")
    assert run_due_relays() == 0 and verdicts(one) == ["told"]
    leg = one.firings.get()
    post = api("POST", f"firings/{leg.pk}/draft", {}, status=200)["post"]
    assert api("POST", f"firings/{leg.pk}/draft", {}, status=200)["post"] == post
    assert Delivery.objects.get(post=post).profile == nursery


def test_bad_settings_are_told_at_their_fields(world, api, nursery):
    mine = f"p{world.profile.pk}"
    bad = cell(
        mine,
        nursery,
        messages=[{"text": "{price}"}, {"text": " "}],
        adaptation={"fields": {"nosuch": "x"}},
        hours_from="09:00",
    )
    assert pointers(api("POST", "relays", bad, status=422)) == {
        "/messages/0/text",
        "/messages/1/text",
        "/adaptation/fields/nosuch",
        "/hours_until",
    }
    assert pointers(api("POST", "relays", cell(mine, world.profile), status=422)) == {"/target"}
    assert pointers(api("POST", "relays", cell("f999999", world.foreign), status=422)) == {"/target", "/source/key"}
    relay(api, mine, nursery, on=False)
    assert pointers(api("POST", "relays", cell(mine, nursery), status=422)) == {"/target"}
    one = Relay.objects.get()
    api("PUT", f"relays/{one.pk}", {"timing": "slot"}, 0, 412)
    assert api("PUT", f"relays/{one.pk}", {"timing": "slot"}, one.revision, 200)["summary"].endswith(
        "goes out at the next free slot."
    )
    api("DELETE", f"relays/{one.pk}", status=204)


def test_the_board_says_what_is_usual_for_each_source(world, api, nursery, standin):
    feed = api("POST", "feeds", {"address": put(standin, [item(1)])}, status=201)["id"]
    board = api("GET", "relays", status=200)
    starts = {row["key"]: board["starts"][row["start"]] for row in board["rows"]}
    ours, theirs = starts[f"p{nursery.pk}"], starts[f"f{feed}"]
    assert len(board["starts"]) < len(board["rows"])
    assert (ours["defaults"]["confirmation"], ours["defaults"]["timing"], ours["defaults"]["messages"][0]["text"]) == (
        "goes",
        "at_once",
        "{text}",
    )
    assert (theirs["defaults"]["confirmation"], theirs["defaults"]["timing"]) == (
        "asks",
        "slot",
    ) and "{summary}" in theirs["placeholders"]
    kept = relay(api, f"f{feed}", nursery, on=False)
    assert kept.messages[0]["text"] == theirs["defaults"]["messages"][0]["text"]
    same = cell(f"p{world.profile.pk}", nursery, conditions={"hours": ["09:00", "09:00"]})
    assert pointers(api("POST", "relays", same, status=422)) == {"/conditions/hours"}


def test_starting_points_say_in_full_what_they_fill_and_fill_it_switched_off(world, api, nursery, standin):
    feed = api("POST", "feeds", {"address": put(standin, [item(1)])}, status=201)["id"]
    (start,) = [one for one in api("GET", "relays/starting-points", status=200) if one["key"] == f"feed{feed}"]
    assert len(start["cells"]) == len(start["summary"]) == 2 and "asking first" in start["summary"][0]
    made = api("POST", "relays/starting-points", {"cells": start["cells"]}, status=201)
    assert [one["active"] for one in made] == [False, False]
    assert pointers(api("POST", "relays/starting-points", {"cells": start["cells"]}, status=422)) == {"/cells"}


def test_it_carries_in_the_name_of_who_switched_it_on_and_stops_when_they_may_not_any_more(world, api, nursery):
    one = relay(api, f"p{world.profile.pk}", nursery)
    one.run_as.memberships.update(capabilities=["see"])
    published(world, "In whose name?")
    assert run_due_relays() == 0
    one.refresh_from_db()
    assert "may not publish" in one.paused_reason


def test_what_is_carried_is_held_until_it_is_signed_off_where_the_brand_asks(world, api, nursery):
    api("PUT", "sign-rules", {"needed": True, "signoff_on_move": False, "rules": []}, status=200)
    one = relay(api, f"p{world.profile.pk}", nursery)
    published(world, "Sign me")
    assert run_due_relays() == 1
    made = Delivery.objects.get(post__firing__relay=one)
    assert made.state == "held"
