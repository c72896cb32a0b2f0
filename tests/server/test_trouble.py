"""Quotas, trouble by cause, what is out already, listings, and the history of a brand."""

import csv
import io
from datetime import timedelta

import httpx2
import pytest
from django.utils import timezone

from menudo.delivery.actions.send import send_due
from menudo.history.models import HistoryEvent
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from tests.server.conftest import picture, read_whole
from tests.server.test_delivery import due, sent


@pytest.fixture(autouse=True)
def quick(standin, settings):
    settings.WIRE_TIMEOUT = 2
    settings.BACKOFF_BASE = timedelta(seconds=60)
    settings.PACE = True


def test_the_networks_pace_is_kept_and_said_and_costs_no_try(world, standin):
    first, second = sent(due(world, "One")), due(world, "Two")
    sent(second)
    assert first.state == "published" and (second.state, second.reason_code, second.tries) == ("planned", "pace", 0)
    assert second.not_before > timezone.now() and "5 seconds between" in second.reason
    Delivery.objects.filter(pk=first.pk).update(published_at=timezone.now() - timedelta(seconds=6))
    Delivery.objects.filter(pk=second.pk).update(not_before=None)
    assert sent(second).state == "published"


def test_a_used_up_day_waits_for_the_next_window(world, standin, settings):
    old = [
        due(world, f"No. {n}", state="published", published_at=timezone.now() - timedelta(hours=20)) for n in range(100)
    ]
    assert len(old) == 100
    waits = sent(due(world))
    assert (waits.state, waits.reason_code) == ("planned", "quota")
    assert timedelta(hours=3) < waits.not_before - timezone.now() < timedelta(hours=5)
    assert standin.posts() == []


def refused(world, standin, text: str) -> Delivery:
    standin.fault("refusing", words="This breaks the house rules.")
    found = sent(due(world, text))
    standin.behave()
    return found


def test_trouble_is_grouped_by_cause_with_what_to_do_and_sent_again_all_at_once(world, standin, settings):
    settings.PACE = False
    one, two = refused(world, standin, "One"), refused(world, standin, "Two")
    due(world, "Late", state="missed", held_for="signoff", reason_code="missed", reason="Not signed.")
    told = world.api()("GET", "troubles", status=200)
    by_cause = {g["cause"]: g for g in told["groups"]}
    assert by_cause["refused"]["title"] == "Brisk refused it" and by_cause["refused"]["remedy"] == "write"
    assert {i["delivery"] for i in by_cause["refused"]["items"]} == {one.pk, two.pk}
    assert by_cause["missed:signoff"]["remedy"] == "sign"
    assert [(c["sent"], c["failed"]) for c in told["counts"]] == [(0, 3)]
    wanted = [{"id": i["delivery"], "revision": i["revision"]} for i in by_cause["refused"]["items"]]
    stale = {"id": by_cause["missed:signoff"]["items"][0]["delivery"], "revision": 1}
    done = world.api()("POST", "troubles/retry", {"deliveries": [*wanted, stale]}, status=200)
    assert (done["done"], len(done["left"])) == (2, 1)
    world.api()("POST", "troubles/retry", {"deliveries": wanted}, status=422)
    send_due()
    assert {p["body"]["text"] for p in standin.posts()} == {"One", "Two"}
    assert world.api()("GET", f"troubles?profile={world.profile.pk}&days=7", status=200)["counts"][0]["sent"] == 2


def test_what_is_out_is_taken_down_once_and_what_was_sent_is_kept(world, standin):
    asset = world.api().upload(picture()).json()["id"]
    delivery = sent(due(world, "Down with it", [asset]))
    assert len(next(iter(delivery.sent_content["hashes"].values()))) == 64
    assert httpx2.get(delivery.remote_url).status_code == 200
    world.api("teo")("POST", f"deliveries/{delivery.pk}/take-down", None, delivery.revision, 403)
    world.api()("POST", f"deliveries/{delivery.pk}/take-down", None, delivery.revision - 1, 412)
    standin.fault("down")
    told = world.api()("POST", f"deliveries/{delivery.pk}/take-down", None, delivery.revision, 409)
    assert "did not do it" in told["detail"]
    standin.behave()
    down = world.api()("POST", f"deliveries/{delivery.pk}/take-down", None, delivery.revision, 200)["delivery"]
    assert down["state"] == "taken_down" and down["sent_content"]["text"] == "Down with it"
    assert httpx2.get(delivery.remote_url).status_code == 410
    world.api()("POST", f"deliveries/{delivery.pk}/take-down", None, down["revision"], 409)
    # And it is never sent again.
    Delivery.objects.filter(pk=delivery.pk).update(state="planned", due_at=timezone.now())
    assert sent(delivery).remote_url == down["remote_url"] and len(standin.posts()) == 1


def test_the_text_there_is_brought_up_to_date_and_only_as_it_was_agreed_to(world, standin):
    delivery = sent(due(world, "Forty mosses"))
    url = f"deliveries/{delivery.pk}/update-text"
    world.api()("POST", url, None, delivery.revision, 409)
    Post.objects.update(master={"text": "Thirty-eight mosses", "media": []})
    page = world.api()("GET", f"deliveries/{delivery.pk}", status=200)
    assert (page["text"], page["present"], "update_there" in page["delivery"]["allowed_actions"]) == (
        "Forty mosses",
        "Thirty-eight mosses",
        True,
    )
    world.garden.needs_signoff = True
    world.garden.save()
    assert "agreed" in world.api()("POST", url, None, delivery.revision, 409)["detail"]
    world.garden.needs_signoff = False
    world.garden.save()
    now = world.api()("POST", url, None, delivery.revision, 200)["delivery"]
    assert now["sent_content"]["text"] == "Thirty-eight mosses" == standin.posts()[0]["body"]["text"]
    Post.objects.update(master={"text": "x" * 301, "media": []})
    assert "300" in world.api()("POST", url, None, now["revision"], 409)["detail"]


def test_listings_say_how_fresh_they_are_and_a_post_that_ended_says_so(world):
    def location(name: str, *days: float) -> Profile:
        made = Profile.objects.create(
            brand=world.garden, network="waypost", remote_id=name, handle=name, name=name, kind="location"
        )
        for n in days:
            delivery = due(world, name, state="published", published_at=timezone.now() - timedelta(days=n))
            Delivery.objects.filter(pk=delivery.pk).update(profile=made)
        return made

    location("gate", 1)
    location("shop", 6, 5.5, 30)
    location("car park")
    ended = location("café", 8)
    told = {one["handle"]: one for one in world.api()("GET", "listings", status=200)}
    assert list(told) == ["car park", "café", "shop", "gate"] or list(told) == ["café", "car park", "shop", "gate"]
    assert [told[n]["state"] for n in ("gate", "shop", "car park", "café")] == ["fresh", "ending", "empty", "empty"]
    assert (told["shop"]["there"], told["shop"]["cap"]) == (2, 100)
    out = Delivery.objects.get(profile=ended)
    life = world.api()("GET", f"deliveries/{out.pk}", status=200)["delivery"]["ends_at"]
    assert life is not None and life < timezone.now().isoformat()


def test_the_history_is_narrowed_by_person_kind_words_and_days_and_taken_out(world, standin):
    api, teo = world.api(), world.api("teo")
    for n in range(3):
        teo("POST", "posts", {"master": {"text": f"=Moss {n}"}, "profiles": []}, status=201)
    api("POST", "labels", {"name": "Talks", "ink": "moss"}, status=201)
    sent(due(world))
    told = api("GET", "history", status=200)
    who = {p["name"]: p["id"] for p in told["people"]}
    assert who["Menudo"] == 0 and {"Ines", "Teo"} <= set(who)
    assert [e["summary"] for e in api("GET", f"history?who={who['Teo']}&words=moss 1", status=200)["events"]] == [
        "began “=Moss 1”"
    ]
    assert [e["actor"] for e in api("GET", "history?what=sent&who=0", status=200)["events"]] == ["Menudo"]
    assert api("GET", "history?first=2031-01-01", status=200)["events"] == []
    today = timezone.now().date()
    assert len(
        api("GET", f"history?first={today - timedelta(days=1)}&last={today + timedelta(days=1)}", status=200)["events"]
    ) == len(told["events"])
    api("GET", "history?first=never", status=422)
    file = world.api("lucia").client.get("/api/brands/garden/history.csv?what=written")
    rows = list(csv.DictReader(io.StringIO(read_whole(file).decode("utf-8-sig"))))
    assert [r["who"] for r in rows] == ["Teo"] * 3 and rows[0]["words"] == "began “=Moss 2”"


def test_a_long_history_is_read_a_page_at_a_time(world):
    HistoryEvent.objects.bulk_create(
        [
            HistoryEvent(
                brand_id=world.garden.pk, actor_name="Ines", verb="write", kind="post", object_id=1, summary=f"No. {n}"
            )
            for n in range(230)
        ]
    )
    seen, before = [], ""
    while True:
        page = world.api()("GET", f"history?what=written{before}", status=200)
        seen += [e["summary"] for e in page["events"]]
        if page["more"] is None:
            break
        before = f"&before={page['more']}"
    assert seen == [f"No. {n}" for n in reversed(range(230))]
