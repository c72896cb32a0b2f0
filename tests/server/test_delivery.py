"""One delivery through the wire, against the real stand-in: each answer and what follows."""

import uuid
from datetime import timedelta

import httpx2
import pytest
from django.db import IntegrityError, transaction
from django.utils import timezone

from menudo.base.engine import waiting_jobs
from menudo.delivery.actions.claim import claim_due
from menudo.delivery.actions.send import send_due
from menudo.delivery.actions.sweep import enqueue_ahead, miss_overdue, sweep_overdue
from menudo.networks.client import read_response
from menudo.posts.actions.enqueue_delivery import enqueue_delivery
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo_core.sending.decision import Outcome
from tests.server.conftest import picture


@pytest.fixture(autouse=True)
def quick(settings):
    settings.WIRE_TIMEOUT = 2
    settings.BACKOFF_BASE = timedelta(seconds=60)


def due(world, text="Forty kinds of moss", media=(), **more) -> Delivery:
    post = Post.objects.create(brand=world.garden, master={"text": text, "media": list(media)}, state="signed_off")
    of = {
        "profile": world.profile,
        "brand": world.garden,
        "state": "planned",
        "due_at": timezone.now() - timedelta(seconds=1),
    }
    return Delivery.objects.create(post=post, key=uuid.uuid4(), **{**of, **more})


def sent(delivery: Delivery) -> Delivery:
    send_due()
    delivery.refresh_from_db()
    return delivery


def test_text_pictures_and_alt_text_arrive_as_they_are(world, standin):
    api = world.api()
    assets = [api.upload(picture(size)).json()["id"] for size in ((640, 480), (480, 640))]
    api("PATCH", f"assets/{assets[0]}", {"alt": "Moss on a wall"})
    delivery = sent(due(world, "Moss 🌿\nhttps://example.org/moss\nنص", assets))
    (post,) = standin.posts()
    assert delivery.state == "published" and delivery.remote_url.endswith(f"/brisk/p/{post['id']}")
    assert post["body"]["text"] == "Moss 🌿\nhttps://example.org/moss\nنص"
    assert [(m["width"], m["alt"]) for m in post["body"]["media"]] == [(640, "Moss on a wall"), (480, "")]
    page = httpx2.get(delivery.remote_url).text
    assert "Moss 🌿" in page and 'alt="Moss on a wall"' in page
    kept = {"text": delivery.post.master["text"], "media": assets, "link": "", "fields": {}, "form": "post"}
    assert {name: delivery.sent_content[name] for name in kept} == kept


def test_a_version_of_its_own_is_what_is_sent(world, standin):
    delivery = due(world, "The master")
    delivery.post.versions.create(network="brisk", overrides={"text": "Brisk's own"})
    sent(delivery)
    assert standin.posts()[0]["body"]["text"] == "Brisk's own"


def test_sending_twice_sends_once(world, standin):
    delivery = sent(due(world))
    sent(delivery)
    Delivery.objects.update(state="planned")
    assert sent(delivery).state == "published"
    assert len(standin.posts()) == 1


@pytest.mark.parametrize("state", ["unplanned", "held", "called_off", "published", "missed"])
def test_a_stale_job_does_nothing(world, standin, state):
    assert sent(due(world, state=state)).state == state
    assert standin.posts() == []


def test_what_is_not_due_yet_or_put_off_is_left(world, standin):
    later = timezone.now() + timedelta(minutes=5)
    assert sent(due(world, due_at=later)).state == "planned"
    assert sent(due(world, not_before=later)).state == "planned"
    assert standin.posts() == []


def test_a_refusal_is_final_and_in_plain_words(world, standin):
    standin.fault("refusing", words="No moss on Tuesdays.")
    delivery = sent(due(world))
    assert (delivery.state, delivery.reason) == ("in_trouble", "Brisk refused it: No moss on Tuesdays.")


def test_what_the_rules_stop_is_not_even_sent(world, standin):
    delivery = sent(due(world, "x" * 301))
    assert delivery.state == "in_trouble" and "this has 301" in delivery.reason
    assert standin.posts() == []


@pytest.mark.parametrize(
    ("kind", "code", "least"),
    [("down", "down", 29), ("rate_limiting", "too_many", 88), ("slow", "down", 29), ("answer_lost", "down", 29)],
)
def test_a_network_in_trouble_is_tried_again_later(world, standin, kind, code, least):
    standin.fault(kind, seconds=90)
    delivery = sent(due(world))
    assert (delivery.state, delivery.reason_code) == ("planned", code)
    assert delivery.not_before > timezone.now() + timedelta(seconds=least)
    assert delivery.tries == (0 if code == "too_many" else 1)
    standin.behave()
    Delivery.objects.update(not_before=None)
    assert sent(delivery).state == "published"
    assert len(standin.posts()) == 1


def test_a_lost_answer_is_found_to_be_there_already(world, standin):
    standin.fault("answer_lost", at="create")
    delivery = sent(due(world))
    (post,) = standin.posts()
    standin.behave()
    Delivery.objects.update(not_before=None)
    assert sent(delivery).remote_url.endswith(f"/p/{post['id']}")


def test_where_the_network_cant_tell_a_person_decides(world, standin):
    standin.fault("answer_lost", at="create")
    delivery = sent(due(world))
    standin.behave()
    standin.fault("forgetful")
    Delivery.objects.update(not_before=None)
    delivery = sent(delivery)
    assert (delivery.state, delivery.reason_code) == ("in_trouble", "unsure")
    api = world.api()
    page = api("GET", f"deliveries/{delivery.pk}", status=200)
    assert page["delivery"]["allowed_actions"] == ["settle"]
    api("POST", f"deliveries/{delivery.pk}/retry", None, delivery.revision, 409)
    bad = api("POST", f"deliveries/{delivery.pk}/settle", {"is_there": True, "url": "there"}, delivery.revision, 422)
    assert bad["errors"][0]["pointer"] == "/url"
    api("POST", f"deliveries/{delivery.pk}/settle", {"is_there": True, "url": ""}, delivery.revision, 200)
    delivery.refresh_from_db()
    assert delivery.state == "published"
    assert len(standin.posts()) == 1


def test_a_revoked_sign_in_is_noticed_and_the_profile_must_be_reconnected(world, standin):
    standin.control("revoke", {"network": "brisk", "login": "desk"})
    delivery = sent(due(world))
    assert (delivery.state, delivery.held_for) == ("held", "reconnect")
    assert Profile.objects.get(pk=world.profile.pk).state == "must_be_reconnected"


def test_an_access_token_ended_early_is_refreshed_once_and_the_post_goes_out(world, standin):
    standin.control("revoke", {"network": "brisk", "login": "desk", "access_only": True})
    assert sent(due(world)).state == "published"


def test_trouble_can_be_sent_again_once_mended(world, standin):
    standin.fault("refusing")
    delivery = sent(due(world))
    standin.behave()
    world.api()("POST", f"deliveries/{delivery.pk}/retry", None, delivery.revision, 200)
    assert sent(delivery).state == "published"


def test_one_profile_sends_one_at_a_time_and_its_worker_takes_the_next(world, standin):
    first, second = due(world, "first"), due(world, "second")
    assert [d.pk for d in claim_due(limit=9)] == [first.pk]
    assert claim_due(limit=9) == [] and claim_due(second.pk) == []
    with pytest.raises(IntegrityError), transaction.atomic():
        Delivery.objects.filter(pk=second.pk).update(state="sending", lease_until=timezone.now())
    Delivery.objects.filter(pk=first.pk).update(state="planned", lease_until=None)
    sent(first)
    second.refresh_from_db()
    assert second.state == "published"
    assert [p["body"]["text"] for p in standin.posts()] == ["first", "second"]


def test_a_lease_that_ran_out_is_taken_over_and_the_first_worker_writes_nothing(world, standin, settings):
    delivery = due(world)
    [mine] = claim_due()
    assert claim_due() == []
    Delivery.objects.filter(pk=delivery.pk).update(lease_until=timezone.now() - timedelta(seconds=1))
    assert sent(delivery).state == "published"
    from menudo.delivery.actions.settle import SendResult, settle_results
    from menudo_core.networks.content import Content
    from menudo_core.sending.decision import NetworkResponse

    settle_results([SendResult(mine, NetworkResponse(Outcome.REFUSED, "late"), Content())])
    delivery.refresh_from_db()
    assert delivery.state == "published"


def test_a_clock_that_is_set_back_sends_nothing_twice_and_frees_what_a_dead_worker_held(world, standin, settings):
    sent(due(world, "Out"))
    held, ahead = due(world, "Held"), due(world, "Ahead", due_at=timezone.now() + timedelta(minutes=30))
    [lost] = claim_due()
    assert lost.pk == held.pk
    settings.CLOCK_OFFSET = timedelta(hours=-1)
    [again] = claim_due(limit=9)
    assert (again.pk, again.tries) == (held.pk, 2)
    Delivery.objects.filter(pk=held.pk).update(lease_until=timezone.now() - timedelta(hours=2))
    send_due()
    assert [p["body"]["text"] for p in standin.posts()] == ["Out", "Held"]
    settings.CLOCK_OFFSET = timedelta(hours=1)
    send_due()
    send_due()
    assert [p["body"]["text"] for p in standin.posts()] == ["Out", "Held", "Ahead"]
    ahead.refresh_from_db()
    assert ahead.state == "published"


def test_a_network_that_is_down_for_an_hour_and_back_gets_it_once(world, standin, settings):
    """With the back-off as it comes: no person is asked before the hour is over."""
    settings.BACKOFF_BASE, began = timedelta(seconds=20), timezone.now()
    standin.fault("down")
    delivery, waited = due(world), []
    while not waited or waited[-1] < timedelta(hours=1):
        delivery = sent(delivery)
        assert (delivery.state, delivery.reason_code) == ("planned", "down")
        waited.append(delivery.not_before - began)
        settings.CLOCK_OFFSET = delivery.not_before - timezone.now() + timedelta(seconds=1)
    assert waited == sorted(waited) and standin.posts() == []
    standin.behave()
    assert sent(delivery).state == "published"
    assert len(standin.posts()) == 1


def test_the_sweep_gives_jobs_to_what_is_overdue_and_to_what_a_dead_worker_left(world):
    due(world, due_at=timezone.now() - timedelta(minutes=5))
    due(world, due_at=timezone.now() + timedelta(minutes=5))
    due(world, state="sending", lease_until=timezone.now())
    assert sweep_overdue() == 2


def test_what_is_due_later_gets_its_job_once_when_its_time_comes_near(world):
    soon, far = timezone.now() + timedelta(minutes=50), timezone.now() + timedelta(days=9)
    delivery = due(world, due_at=far)
    enqueue_delivery(delivery)
    due(world, due_at=soon, state="held")
    assert (enqueue_ahead(), waiting_jobs("send")) == (0, [])
    Delivery.objects.filter(pk=delivery.pk).update(due_at=soon)
    assert (enqueue_ahead(), enqueue_ahead()) == (1, 0)
    assert waiting_jobs("send") == [(soon, {"delivery": delivery.pk})]
    # Put off by its network, it is looked at anew then.
    later = soon + timedelta(minutes=20)
    Delivery.objects.filter(pk=delivery.pk).update(due_at=soon - timedelta(hours=3), not_before=later)
    assert (enqueue_ahead(), enqueue_ahead()) == (1, 0)
    assert (later, {"delivery": delivery.pk}) in waiting_jobs("send")
    # What is planned for soon has its job at once.
    near = due(world, due_at=soon)
    enqueue_delivery(near)
    assert (soon, {"delivery": near.pk}) in waiting_jobs("send") and enqueue_ahead() == 0


def test_a_claim_takes_what_is_due_and_what_a_dead_worker_left_the_oldest_first(world):
    other = Profile.objects.create(
        brand=world.garden,
        network="brisk",
        connection=world.connection,
        remote_id="other",
        handle="@other",
        name="Other",
    )
    left = due(world, state="sending", lease_until=timezone.now() - timedelta(seconds=1))
    waits = due(world, due_at=timezone.now() - timedelta(hours=1))
    newer = due(world, profile=other, due_at=timezone.now() - timedelta(minutes=1))
    assert [one.pk for one in claim_due(limit=9)] == [newer.pk, left.pk], "nothing beside what its profile is sending"
    assert claim_due(only=waits.pk) == []


def test_what_was_held_past_its_time_is_missed_and_says_so(world, standin):
    late = due(world, state="held")
    waiting = due(world, state="held", due_at=timezone.now() + timedelta(hours=1))
    assert miss_overdue() == 1
    late.refresh_from_db()
    waiting.refresh_from_db()
    assert (late.state, waiting.state) == ("missed", "held")
    assert "not signed off" in late.reason
    assert sent(late).state == "missed"
    assert standin.posts() == []


@pytest.mark.parametrize(
    ("status", "headers", "outcome"),
    [
        (201, {"Location": "https://example.org/1"}, Outcome.DONE),
        (202, {"Location": "https://example.org/1"}, Outcome.DONE),
        (400, {}, Outcome.REFUSED),
        (401, {}, Outcome.NOT_AUTHORISED),
        (403, {}, Outcome.REFUSED),
        (408, {}, Outcome.DOWN),
        (422, {}, Outcome.REFUSED),
        (429, {"Retry-After": "30"}, Outcome.TOO_MANY),
        (500, {}, Outcome.DOWN),
        (503, {}, Outcome.DOWN),
        (503, {"Retry-After": "Tue, 24 Nov 2026 13:00:00 GMT"}, Outcome.TOO_MANY),
    ],
)
def test_what_an_http_answer_means(status, headers, outcome):
    # RFC 9110 (status codes, Retry-After in both forms); RFC 6585, 4 (429).
    answer = read_response(httpx2.Response(status, headers=headers, json={"detail": "because"}))
    assert answer.outcome is outcome
    assert (answer.retry_at is not None) == (outcome is Outcome.TOO_MANY)


def test_what_may_be_out_is_asked_about_before_it_is_held_and_kept_as_it_was_sent(world, standin):
    delivery = due(world, "As it was sent")
    standin.fault("answer_lost", at="create")
    assert sent(delivery).state == "planned" and len(standin.posts()) == 1
    standin.behave()
    # Meanwhile the wording changes, and nobody has agreed to that.
    Post.objects.update(master={"text": "As it is now", "media": []})
    world.garden.needs_signoff = True
    world.garden.save()
    Delivery.objects.update(not_before=None)
    found = sent(delivery)
    assert (found.state, found.sent_content["text"], found.attempted_content) == ("published", "As it was sent", None)
    assert len(standin.posts()) == 1


def test_what_was_begun_and_is_not_there_is_looked_at_as_anything_else(world, standin):
    delivery = due(world, step="create", attempted_content={"text": "Never came"})
    world.garden.needs_signoff = True
    world.garden.save()
    assert (sent(delivery).state, delivery.held_for, standin.posts()) == ("held", "signoff", [])
