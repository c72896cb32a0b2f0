"""Sign-off at the server: rules, answers, links; remarks, tasks, notices; and that nothing unsigned goes out."""

from datetime import timedelta
from zoneinfo import ZoneInfo

import pytest
from django.utils import timezone

from menudo.delivery.actions.send import send_due
from menudo.delivery.actions.sweep import miss_overdue
from menudo.notices.models import Notice
from menudo.people.models import User
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.signoff.actions.recheck_held import recheck_held
from menudo.signoff.actions.send_reminders import send_reminders
from tests.server.conftest import post_in

MADRID = ZoneInfo("Europe/Madrid")


@pytest.fixture
def garden(world):
    """A brand that signs off, with a second profile on another network."""
    world.garden.needs_signoff = True
    world.garden.save()
    world.plaza = Profile.objects.create(
        brand=world.garden,
        network="plaza",
        remote_id="page",
        handle="Garden page",
        name="Garden",
        kind="page",
        connection=world.connection,
    )
    return world


def ids(world) -> dict[str, int]:
    return {u.email.split("@")[0]: u.pk for u in User.objects.all()}


def rules(world, *said: dict, status: int = 200, **more):
    body = {"needed": True, "signoff_on_move": False, "rules": [{"name": "Rule", **one} for one in said], **more}
    return world.api()("PUT", "sign-rules", body, status=status)


def planned(world, days: float = 3, **said) -> dict:
    post = world.api("teo")("POST", "posts", post_in(profiles=[world.profile.pk, world.plaza.pk], **said), status=201)
    at = (timezone.now() + timedelta(days=days)).astimezone(MADRID)
    wall = at.strftime("%Y-%m-%dT12:00" if days >= 1 else "%Y-%m-%dT%H:%M")
    return world.api()(
        "POST", f"posts/{post['id']}/plan", {"when": {"kind": "at", "wall_time": wall}}, post["revision"], 200
    )["post"]


def states(post: dict) -> dict[str, str]:
    by_id = dict(Profile.objects.values_list("pk", "network"))
    return {by_id[d["profile"]]: d["state"] for d in post["deliveries"]}


def told(who: str, kind: str) -> list[str]:
    return list(
        Notice.objects.filter(user__email=f"{who}@example.org", kind=kind)
        .order_by("pk")
        .values_list("summary", flat=True)
    )


def test_an_author_puts_up_an_approver_sends_back_the_author_mends_and_it_is_agreed(garden):
    post = garden.api("teo")("POST", "posts", post_in("Forty mosses", profiles=[garden.profile.pk]), status=201)
    teo, maud = garden.api("teo"), garden.api("maud")
    done = teo("POST", "signoff-requests", {"posts": [{"id": post["id"], "revision": post["revision"]}]}, status=200)
    assert done == {"done": 1, "left": []}
    assert told("maud", "sign") == ["“Forty mosses” waits for you to sign off"]
    seen = maud("GET", "signoffs", status=200)["posts"][0]
    assert (seen["mine"], [c["column"]["proof"]["visible_text"] for c in seen["columns"]]) == (True, ["Forty mosses"])
    back = {"words": "Is it forty? The label says 38.", "network": "brisk", "field": "text"}
    sent_back = maud("POST", f"posts/{post['id']}/send-back", back, seen["revision"], 200)
    assert sent_back["state"] == "sent_back"
    (remark,) = teo("GET", f"posts/{post['id']}/talk", status=200)["remarks"]
    assert (remark["name"], remark["network"], remark["field"]) == ("Maud", "brisk", "text")
    assert "Is it forty?" in told("teo", "back")[0]
    mended = teo(
        "PUT",
        f"posts/{post['id']}",
        post_in("Thirty-eight mosses", profiles=[garden.profile.pk]),
        sent_back["revision"],
        200,
    )
    assert mended["state"] == "sent_back"
    teo("POST", "signoff-requests", {"posts": [{"id": post["id"], "revision": mended["revision"]}]}, status=200)
    now = maud("GET", "signoffs", status=200)["posts"][0]
    agreed = maud("POST", f"posts/{post['id']}/approve", {}, now["revision"], 200)
    assert agreed["state"] == "signed_off"
    assert told("teo", "agreed") == ["Maud agreed to “Thirty-eight mosses”; it is signed off"]
    answers = maud("GET", f"posts/{post['id']}/signoff", status=200)["deliveries"][0]["answers"]
    assert [(a["verdict"], a["counts"]) for a in answers] == [("change", False), ("agreed", True)]


def test_a_change_asks_again_for_that_network_only_and_shows_what_is_different(garden):
    post = planned(garden)
    maud = garden.api("maud")
    agreed = maud("POST", f"posts/{post['id']}/approve", {}, post["revision"], 200)
    assert states(agreed) == {"brisk": "planned", "plaza": "planned"}
    own = [{"network": "brisk", "overrides": {"text": "Forty-one kinds of moss"}}]
    body = post_in(profiles=[garden.profile.pk, garden.plaza.pk], versions=own)
    changed = garden.api("teo")("PUT", f"posts/{post['id']}", body, agreed["revision"], 200)
    assert (changed["state"], states(changed)) == ("up_for_signoff", {"brisk": "held", "plaza": "planned"})
    (column,) = maud("GET", "signoffs", status=200)["posts"][0]["columns"]
    assert column["network"] == "brisk"
    assert [s for s in column["differs"] if s["change"] != "same"] == [
        {"change": "gone", "text": "Forty"},
        {"change": "new", "text": "Forty-one"},
    ]
    # Back to what was agreed to, it is agreed to.
    body = post_in(profiles=[garden.profile.pk, garden.plaza.pk])
    again = garden.api("teo")("PUT", f"posts/{post['id']}", body, changed["revision"], 200)
    assert (again["state"], states(again)) == ("signed_off", {"brisk": "planned", "plaza": "planned"})


@pytest.mark.parametrize("asks", [False, True])
def test_moving_asks_again_only_where_the_brand_says_so(garden, asks):
    rules(garden, signoff_on_move=asks)
    post = planned(garden)
    garden.api("maud")("POST", f"posts/{post['id']}/approve", {}, post["revision"], 200)
    delivery = Delivery.objects.get(post=post["id"], profile=garden.profile)
    wall = (timezone.now() + timedelta(days=5)).strftime("%Y-%m-%dT15:00")
    moved = garden.api()("POST", f"deliveries/{delivery.pk}/move", {"wall_time": wall}, delivery.revision, 200)
    assert moved["delivery"]["state"] == ("held" if asks else "planned")
    back = garden.api()("POST", f"undo/{moved['undo']}", status=200)
    assert back and Delivery.objects.get(pk=delivery.pk).state == "planned"


def test_in_order_the_second_is_asked_when_the_first_has_agreed(garden):
    who = ids(garden)
    rules(garden, {"signers": [f"u{who['maud']}", f"u{who['ines']}"], "mode": "in_order"})
    post = planned(garden)
    url = f"posts/{post['id']}/approve"
    assert "others" in garden.api()("POST", url, {}, post["revision"], 409)["detail"]
    first = garden.api("maud")("POST", url, {}, post["revision"], 200)
    assert first["state"] == "up_for_signoff" and told("ines", "sign")
    second = garden.api()("POST", url, {}, first["revision"], 200)
    assert second["state"] == "signed_off"


def test_rules_ask_by_profile_kind_author_and_label_and_what_no_rule_asks_for_goes(garden):
    rules(garden, {"profiles": [garden.plaza.pk]})
    post = planned(garden)
    assert states(post) == {"brisk": "planned", "plaza": "held"}
    rules(garden, {"authors": [ids(garden)["ines"]]})
    assert states(garden.api()("GET", f"posts/{post['id']}")) == {"brisk": "planned", "plaza": "planned"}
    label = garden.api()("POST", "labels", {"name": "Talks", "ink": "moss"}, status=201)["id"]
    rules(garden, {"labels": [label]})
    garden.api()("POST", "marks", {"posts": [post["id"]], "add": [label]}, status=200)
    assert states(garden.api()("GET", f"posts/{post['id']}")) == {"brisk": "held", "plaza": "held"}
    rules(garden, needed=False)
    assert states(garden.api()("GET", f"posts/{post['id']}")) == {"brisk": "planned", "plaza": "planned"}


def test_rules_are_tried_before_they_are_kept_and_trying_changes_nothing(garden):
    rules(garden, {"profiles": [garden.plaza.pk]})
    post = planned(garden)
    assert states(post) == {"brisk": "planned", "plaza": "held"}
    api = garden.api()
    before = api("GET", "sign-rules", status=200)

    def tried(*said: dict, **more) -> dict:
        body = {"needed": True, "signoff_on_move": False, "rules": [{"name": "Rule", **one} for one in said], **more}
        return api("POST", "sign-rules/preview", body, status=200)

    assert tried({"profiles": [garden.profile.pk]}) == {"held": 1, "free": 1, "posts": None}
    assert tried({})["held"] == 1 and tried(needed=False) == {"held": 0, "free": 1, "posts": None}
    assert tried({"profiles": [garden.plaza.pk]}) == {"held": 0, "free": 0, "posts": None}
    assert api("GET", "sign-rules", status=200) == before
    assert states(api("GET", f"posts/{post['id']}")) == {"brisk": "planned", "plaza": "held"}
    api("POST", "sign-rules/preview", {"needed": True, "signoff_on_move": False, "rules": [{"name": ""}]}, status=422)


def test_bad_rules_are_faults_at_their_places_and_nothing_is_kept(garden):
    bad = {"name": "", "signers": ["u999999", "l1"], "profiles": [garden.foreign.pk], "kinds": ["poem"], "mode": "all"}
    problem = rules(garden, bad, status=422)
    assert {f["pointer"] for f in problem["errors"]} == {
        "/rules/0/name",
        "/rules/0/signers/0",
        "/rules/0/signers/1",
        "/rules/0/profiles/0",
        "/rules/0/kinds/0",
    }
    assert rules(garden, {"mode": "in_order"}, status=422)["errors"][0]["pointer"] == "/rules/0/signers"
    assert garden.api()("GET", "sign-rules", status=200)["rules"] == []


def test_agreeing_with_a_small_change_asks_those_again_who_had_agreed(garden):
    who = ids(garden)
    rules(garden, {"signers": [f"u{who['ines']}", f"u{who['maud']}"], "mode": "all"})
    post = planned(garden)
    first = garden.api()("POST", f"posts/{post['id']}/approve", {}, post["revision"], 200)
    change = {"changes": [{"network": "brisk", "text": "Thirty-eight kinds of moss"}]}
    second = garden.api("maud")("POST", f"posts/{post['id']}/approve", change, first["revision"], 200)
    assert (second["state"], states(second)) == ("up_for_signoff", {"brisk": "held", "plaza": "planned"})
    waits = garden.api()("GET", f"posts/{post['id']}/signoff", status=200)["deliveries"]
    assert [d["asked"] for d in waits if d["network"] == "brisk"] == [["Ines"]]


def test_withdrawn_it_is_a_draft_held_and_what_was_agreed_is_known_again(garden):
    post = planned(garden)
    agreed = garden.api("maud")("POST", f"posts/{post['id']}/approve", {}, post["revision"], 200)
    draft = garden.api("teo")("POST", f"posts/{post['id']}/withdraw", None, agreed["revision"], 200)
    assert (draft["state"], states(draft)) == ("draft", {"brisk": "held", "plaza": "held"})
    garden.api("lucia")("POST", f"posts/{post['id']}/withdraw", None, draft["revision"], 403)
    garden.api("teo")(
        "POST", "signoff-requests", {"posts": [{"id": post["id"], "revision": draft["revision"]}]}, status=200
    )
    again = garden.api()("GET", f"posts/{post['id']}")
    assert (again["state"], states(again)) == ("signed_off", {"brisk": "planned", "plaza": "planned"})


def test_what_is_held_for_no_reason_any_more_is_found(garden):
    label = garden.api()("POST", "labels", {"name": "Talks", "ink": "moss"}, status=201)["id"]
    rules(garden, {"labels": [label]})
    post = planned(garden, labels=[label])
    assert states(post) == {"brisk": "held", "plaza": "held"}
    garden.api()("DELETE", f"labels/{label}", status=204)
    assert recheck_held() == 2 and recheck_held() == 0
    assert states(garden.api()("GET", f"posts/{post['id']}")) == {"brisk": "planned", "plaza": "planned"}


def test_many_are_put_up_and_agreed_to_at_once_and_each_that_cannot_says_why(garden):
    drafts = [
        garden.api("teo")("POST", "posts", post_in(f"No. {n}", profiles=[garden.profile.pk]), status=201)
        for n in range(7)
    ]
    bare = garden.api("teo")("POST", "posts", post_in("Nowhere"), status=201)
    wanted = [{"id": p["id"], "revision": p["revision"]} for p in [*drafts, bare]]
    done = garden.api("teo")("POST", "signoff-requests", {"posts": wanted}, status=200)
    assert (done["done"], done["left"][0]["reason"]) == (7, "“Nowhere”: choose at least one profile first.")
    assert told("maud", "sign") == ["7 posts of Fernhollow wait for you to sign off"]
    waits = garden.api("maud")("GET", "signoffs", status=200)["posts"]
    stale = [{"id": p["post"], "revision": p["revision"] - (n == 0)} for n, p in enumerate(waits)]
    agreed = garden.api("maud")("POST", "approve", {"posts": stale}, status=200)
    assert (agreed["done"], len(agreed["left"])) == (6, 1)


def test_what_should_have_been_answered_by_now_is_said_once(garden):
    rules(garden, {"before_hours": 24, "signers": [f"u{ids(garden)['maud']}"]})
    planned(garden, 0.5)
    planned(garden, 9)
    first = send_reminders()
    assert first == 2 and send_reminders() == 0
    assert "should have been signed off by now" in told("maud", "sign")[-1]
    assert "still waits for Maud" in told("ines", "missed")[0]


def test_what_was_not_signed_in_time_is_missed_loudly_and_planned_again(garden):
    post = planned(garden)
    Delivery.objects.filter(post=post["id"]).update(due_at=timezone.now() - timedelta(minutes=1))
    assert miss_overdue() == 2
    assert len(told("ines", "missed")) == 2 and told("teo", "missed")
    assert {i["state"] for i in garden.api()("GET", "today", status=200)["trouble"]} == {"missed"}
    fresh = garden.api()("GET", f"posts/{post['id']}")
    wall = (timezone.now() + timedelta(days=4)).strftime("%Y-%m-%dT12:00")
    again = garden.api()(
        "POST", f"posts/{post['id']}/plan", {"when": {"kind": "at", "wall_time": wall}}, fresh["revision"], 200
    )
    assert states(again["post"]) == {"brisk": "held", "plaza": "held"}


def test_the_worker_looks_at_the_very_wording_in_its_hand(garden, standin):
    post = planned(garden)
    garden.api("maud")("POST", f"posts/{post['id']}/approve", {}, post["revision"], 200)
    # Past every action, as no action would: the calendar still says that it may go.
    Post.objects.update(master={"text": "Never agreed to", "media": []})
    Delivery.objects.update(due_at=timezone.now() - timedelta(seconds=5))
    delivery = Delivery.objects.get(profile=garden.profile)
    send_due()
    delivery.refresh_from_db()
    assert (delivery.state, delivery.held_for, standin.posts()) == ("held", "signoff", [])
    assert Post.objects.get().state == "up_for_signoff"


def by_hand(garden) -> tuple[dict, Delivery]:
    """A post by hand that was agreed to, is due, and was handed to a person."""
    Profile.objects.filter(pk=garden.plaza.pk).update(state="by_hand", connection=None)
    post = planned(garden)
    post = garden.api("maud")("POST", f"posts/{post['id']}/approve", {}, post["revision"], 200)
    Delivery.objects.filter(profile=garden.plaza).update(due_at=timezone.now() - timedelta(seconds=5))
    send_due()
    delivery = Delivery.objects.get(profile=garden.plaza)
    assert (delivery.state, len(told("ines", "by_hand"))) == ("waiting_for_hand", 1)
    return post, delivery


def test_what_a_person_has_in_hand_is_held_while_nobody_agrees_to_it_and_is_theirs_again_afterwards(garden, standin):
    post, delivery = by_hand(garden)
    profiles = [garden.profile.pk, garden.plaza.pk]
    changed = garden.api("teo")(
        "PUT", f"posts/{post['id']}", post_in("Never agreed to", profiles=profiles), post["revision"], 200
    )
    assert states(changed) == {"brisk": "held", "plaza": "held"}
    page = garden.api()("GET", f"deliveries/{delivery.pk}", status=200)
    assert page["waits"].startswith("It waits for sign-off") and "done" not in page["delivery"]["allowed_actions"]
    refused = garden.api()(
        "POST", f"deliveries/{delivery.pk}/published", {"url": ""}, page["delivery"]["revision"], 409
    )
    assert "waits for sign-off" in refused["detail"]
    # Its time has passed, and it is missed by nobody: a person has it.
    assert (miss_overdue(), send_due()) == (0, None)
    maud = garden.api("maud")
    maud("POST", f"posts/{post['id']}/approve", {}, changed["revision"], 200)
    send_due()
    page = garden.api()("GET", f"deliveries/{delivery.pk}", status=200)
    assert (page["delivery"]["state"], page["waits"], page["text"]) == ("waiting_for_hand", "", "Never agreed to")
    assert len(told("ines", "by_hand")) == 2
    garden.api()("POST", f"deliveries/{delivery.pk}/published", {"url": ""}, page["delivery"]["revision"], 200)
    assert Delivery.objects.get(pk=delivery.pk).sent_content["text"] == "Never agreed to"


def test_what_a_person_has_in_hand_waits_while_its_profile_is_paused(garden, standin):
    _, delivery = by_hand(garden)
    pause_id = garden.api()("POST", "pauses", {"reason": "Storm"}, status=201)["id"]
    held = Delivery.objects.get(pk=delivery.pk)
    assert (held.state, held.held_for, miss_overdue()) == ("held", "paused", 0)
    garden.api()("POST", f"pauses/{pause_id}/end", status=200)
    send_due()
    assert Delivery.objects.get(pk=delivery.pk).state == "waiting_for_hand"


def test_done_with_words_that_no_action_took_back_is_refused(garden, standin):
    _, delivery = by_hand(garden)
    Post.objects.update(master={"text": "Never agreed to", "media": []})
    garden.api()("POST", f"deliveries/{delivery.pk}/published", {"url": ""}, delivery.revision, 409)
    assert Delivery.objects.get(pk=delivery.pk).state == "waiting_for_hand"


def test_the_page_for_publishing_by_hand_is_stale_when_the_words_have_changed(garden, standin):
    garden.garden.needs_signoff = False
    garden.garden.save()
    Profile.objects.filter(pk=garden.plaza.pk).update(state="by_hand", connection=None)
    post = planned(garden)
    Delivery.objects.filter(profile=garden.plaza).update(due_at=timezone.now() - timedelta(seconds=5))
    send_due()
    delivery = Delivery.objects.get(profile=garden.plaza)
    body = post_in("Other words", profiles=[garden.profile.pk, garden.plaza.pk])
    garden.api("teo")("PUT", f"posts/{post['id']}", body, post["revision"], 200)
    garden.api()("POST", f"deliveries/{delivery.pk}/published", {"url": ""}, delivery.revision, 412)


@pytest.mark.parametrize("stands", [False, True])
def test_back_to_an_earlier_wording_that_was_agreed_to_counts_where_the_brand_says_so(garden, stands):
    rules(garden, earlier_signoff_counts=stands)
    assert garden.api()("GET", "sign-rules", status=200)["earlier_signoff_counts"] is stands
    post = planned(garden)
    maud, teo, profiles = garden.api("maud"), garden.api("teo"), [garden.profile.pk, garden.plaza.pk]
    first = maud("POST", f"posts/{post['id']}/approve", {}, post["revision"], 200)
    other = teo("PUT", f"posts/{post['id']}", post_in("Forty-one mosses", profiles=profiles), first["revision"], 200)
    second = maud("POST", f"posts/{post['id']}/approve", {}, other["revision"], 200)
    back = teo("PUT", f"posts/{post['id']}", post_in(profiles=profiles), second["revision"], 200)
    assert set(states(back).values()) == {"planned" if stands else "held"}
    told = maud("GET", f"posts/{post['id']}/signoff", status=200)["deliveries"][0]["answers"]
    assert [a["counts"] for a in told] == [stands, False]
