"""What breaks over one thing stops no other: each step a task, each row within a boundary; a person and /health are told."""

import asyncio
from datetime import timedelta

import pytest
from django.core import mail
from django.core.cache import cache
from django.test import Client
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from menudo.delivery import tasks as delivering
from menudo.delivery.actions import sweep as sweeping
from menudo.delivery.actions.sweep import miss_overdue
from menudo.delivery.management.commands.work import Command
from menudo.feeds.actions import check_articles as checking
from menudo.feeds.models import Article, Feed
from menudo.feeds.tasks import check_article, poll_feed
from menudo.insight.actions.read_results import enqueue_readings
from menudo.insight.models import Reading
from menudo.insight.tasks import read_results
from menudo.notices.actions.mail import send_digests
from menudo.notices.failures import delete_old_failures, failure_boundary
from menudo.notices.models import JobFailure, Notice, NotificationPreferences
from menudo.people.models import Brand, User
from menudo.posts.change.kernel import System
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Connection, Profile
from menudo.relays.actions.poll_sources import poll_sources
from menudo.relays.actions.run_relay import relays_with_items, run_relay_safely
from menudo.relays.models import Relay
from menudo.relays.tasks import run_due_relays
from menudo.signoff.actions import recheck_held as looking
from tests.server.conftest import connected
from tests.server.relaying import published, relay, verdicts
from tests.server.test_delivery import due, sent
from tests.server.test_feeds import item, put


def breaks_over(one, real):
    """A function that breaks over one thing and works for every other."""

    def act(given, *more, **named):
        if given == one:
            raise ValueError("a bad\0 row")
        return real(given, *more, **named)

    return act


def test_one_that_cant_be_missed_keeps_no_other_from_being(world, monkeypatch):
    late = {"state": "held", "held_for": "signoff", "due_at": timezone.now() - timedelta(minutes=1)}
    bad, good = due(world, "Bad", headline="Bad", **late), due(world, "Good", **late)
    monkeypatch.setattr(sweeping, "notify_missed", breaks_over(bad, sweeping.notify_missed))
    manager = User.objects.create_user("wilma@example.org", None, "Wilma")
    User.objects.filter(pk=manager.pk).update(manages_installation=True)
    for _ in range(2):
        miss_overdue()
    bad.refresh_from_db(), good.refresh_from_db()
    assert (bad.state, good.state) == ("held", "missed")
    mishap = JobFailure.objects.get()
    assert (mishap.step, mishap.subject, mishap.count) == ("miss", f"delivery {bad.pk}", 2)
    assert mishap.error == "ValueError: a bad row" and mishap.brand_id == world.garden.pk
    # Told once a day, to who manages the installation and to who publishes in the brand.
    told = Notice.objects.filter(key__startswith="mishap:")
    assert {n.user.name for n in told} == {"Wilma", "Ines"} and "Bad" in told[0].summary
    broke = Client().get("/health").json()["broke"]
    assert [(b["step"], b["subjects"], b["times"]) for b in broke] == [("miss", 1, 2)]
    assert delete_old_failures(timezone.now()) == 0 and delete_old_failures(timezone.now() + timedelta(days=15)) == 1


def test_each_minutes_steps_are_tasks_of_their_own():
    assert set(delivering.STEPS) <= set(app.tasks)
    assert all(app.tasks[name].lock == name for name in delivering.STEPS)


def test_a_step_that_breaks_ends_no_other_and_keeps_no_worker_from_starting(world, monkeypatch):
    taken: list[str] = []

    def step(name: str):
        def act() -> None:
            taken.append(name)
            if name == "miss":
                raise KeyError("no such state")

        return act

    monkeypatch.setattr(
        "menudo.delivery.management.commands.work.STEPS", {name: step(name) for name in delivering.STEPS}
    )
    monkeypatch.setattr(asyncio, "run", lambda work: work.close())
    Command().handle()
    assert taken == list(delivering.STEPS) and JobFailure.objects.get().step == "miss"


def test_what_is_told_to_stop_and_a_database_that_is_gone_go_through(world):
    from django.db import OperationalError

    for error in (KeyboardInterrupt, OperationalError):
        with pytest.raises(error), failure_boundary("sweep"):
            raise error
    assert not JobFailure.objects.exists()


def test_one_persons_digest_that_cant_be_sent_keeps_no_others_back(world, settings, monkeypatch):
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    people = {name: User.objects.get(email=f"{name}@example.org") for name in ("ines", "maud")}
    for user in people.values():
        Notice.objects.create(user=user, kind="trouble", key="k", summary="Something", path="/", channel="digest")
        NotificationPreferences.objects.create(user=user, digest_at="00:00", zone="UTC")
    people["ines"].email = "a\nb@example.org"  # no mail can have it: BadHeaderError
    people["ines"].save()
    assert send_digests() == 1 and mail.outbox[-1].to == ["maud@example.org"]
    assert JobFailure.objects.get().subject == f"person {people['ines'].pk}"


def test_each_profiles_results_are_asked_for_in_a_job_of_its_own(world, standin, nursery, monkeypatch):
    for profile in (world.profile, nursery):
        sent(due(world, profile.handle, profile=profile))
    assert enqueue_readings() == 2
    jobs = list(ProcrastinateJob.objects.filter(task_name="read_results"))
    assert {job.args["profile"] for job in jobs} == {world.profile.pk, nursery.pk}
    assert {job.queue_name for job in jobs} == {"outward"}
    earned = "menudo.insight.actions.read_results.working_token"
    real = __import__("menudo.profiles.actions.refresh_token", fromlist=["x"]).working_token
    monkeypatch.setattr(earned, breaks_over(world.connection, real))
    for job in jobs:
        read_results(**job.args)
    assert list(Reading.objects.values_list("profile", flat=True)) == [nursery.pk]
    assert JobFailure.objects.get().subject == f"profile {world.profile.pk}"


def test_an_article_nobody_can_read_holds_up_no_brands_shelf(world, standin, monkeypatch):
    feeds = [
        Feed.objects.create(brand=brand, address=f"{standin.url}/{brand.slug}.xml", title="F", next_at=timezone.now())
        for brand in (world.garden, world.bakery)
    ]
    articles = [
        Article.objects.create(
            feed=feed, entry_key="a", title="A", link=f"{standin.url}/site/fernhollow/", seen_at=timezone.now()
        )
        for feed in feeds
    ]
    monkeypatch.setattr(checking, "is_reachable", breaks_over("http://bad.example/", checking.is_reachable))
    Article.objects.filter(pk=articles[0].pk).update(link="http://bad.example/")
    assert checking.enqueue_checks() == 2
    jobs = ProcrastinateJob.objects.filter(task_name="check_article")
    assert {job.lock for job in jobs} == {"outward:bad.example", f"outward:{standin.url.removeprefix('http://')}"}
    for job in jobs:
        check_article(**job.args)
    assert dict(Article.objects.values_list("feed__brand__slug", "link_ok")) == {"garden": False, "bakery": True}
    # It was looked at: it isn't read again and again.
    assert checking.enqueue_checks() == 0 and JobFailure.objects.count() == 1


def test_a_feed_menudo_breaks_over_is_asked_ever_more_seldom(world, api, standin, monkeypatch):
    feed = Feed.objects.get(pk=api("POST", "feeds", {"address": put(standin, [item(1)])}, status=201)["id"])
    monkeypatch.setattr("menudo.feeds.actions.poll_feed.parse_feed", breaks_over(None, lambda *_: 1 / 0))
    before = feed.next_at
    put(standin, [item(2), item(1)])
    poll_feed(feed.pk)
    feed.refresh_from_db()
    assert feed.failure_count == 1 and feed.next_at > before and "Menudo broke over" in feed.last_error
    assert JobFailure.objects.get().error.startswith("ZeroDivisionError")


def test_a_brand_whose_signoff_breaks_holds_up_no_other(world, standin, monkeypatch):
    Brand.objects.update(needs_signoff=True)
    later = timezone.now() + timedelta(days=1)
    held = {"state": "held", "held_for": "signoff", "signoff_state": "waits", "due_at": later}
    _, (bread,) = connected(standin, world.bakery, "nursery")
    due(world, "Bad", **held)
    good = due(world, "Good", brand=world.bakery, profile=bread, **held)
    Post.objects.filter(pk=good.post_id).update(brand=world.bakery)
    Brand.objects.filter(pk=world.bakery.pk).update(needs_signoff=False)
    monkeypatch.setattr(looking, "recheck_signoff", breaks_over(System(world.garden), looking.recheck_signoff))
    # Nothing is asked of the bakery's any more: it is released, though the garden before it breaks.
    Brand.objects.filter(pk=world.garden.pk).update(needs_signoff=True)
    looking.recheck_held()
    good.refresh_from_db()
    assert good.state == "planned" and JobFailure.objects.get().subject == f"brand {world.garden.pk}"


@pytest.fixture
def api(world):
    cache.clear()
    return world.api()


def test_a_network_that_hangs_delays_its_own_profiles_alone(world, api, standin, nursery):
    """What is known here is gathered without asking any network; each network is asked in a job of its own, in its own lane."""
    relay(api, f"p{world.profile.pk}", nursery)
    _, (bread, rye) = connected(standin, world.bakery, "fernhollow", "talks")
    theirs = relay(world.api("bruno", "bakery"), f"p{bread.pk}", rye)
    hangs = Connection.objects.get(pk=world.connection.pk)
    hangs.endpoints |= {"micropub": "http://hangs.example/micropub"}
    hangs.save()
    cache.clear()
    other = published(world, "Rye", bread)
    Delivery.objects.filter(pk=other.pk).update(brand=world.bakery)
    Post.objects.filter(pk=other.post_id).update(brand=world.bakery)
    run_due_relays()
    jobs = {job.args.get("profile"): job for job in ProcrastinateJob.objects.filter(task_name="look_outside")}
    assert set(jobs) == {world.profile.pk, bread.pk} and {job.queue_name for job in jobs.values()} == {"outward"}
    assert jobs[world.profile.pk].lock == "outward:hangs.example" != jobs[bread.pk].lock
    # The bakery's was gathered and is carried, whatever the garden's network does.
    (carries,) = ProcrastinateJob.objects.filter(task_name="carry_relay")
    assert carries.args == {"relay": theirs.pk} and run_relay_safely(theirs.pk) == 1
    run_due_relays()
    assert ProcrastinateJob.objects.filter(task_name="look_outside").count() == 2, "not put in line twice"


def test_a_relay_switched_on_in_mid_round_carries_what_comes_in_that_round(world, standin, api, nursery, monkeypatch):
    """While an earlier source is read, a relay is switched on at a later one, and something comes there."""
    from menudo.relays.actions import poll_sources as gathering

    talks = connected(standin, world.bakery, "talks")[1][0]
    Profile.objects.filter(pk=talks.pk).update(brand=world.garden)
    first = relay(api, f"p{nursery.pk}", world.profile)
    before = relay(api, f"p{world.profile.pk}", nursery)
    late = relay(api, f"p{world.profile.pk}", talks, on=False)
    latest, come = gathering.latest_items, []

    def slowly(source, *more):
        if source == first.source and not come:
            api("POST", f"relays/{late.pk}/switch", {"active": True}, status=200)
            come.append(published(world, "Came in mid-round"))
        return latest(source, *more)

    monkeypatch.setattr(gathering, "latest_items", slowly)
    poll_sources()
    assert come and set(relays_with_items()) >= {before.pk, late.pk}
    assert run_relay_safely(late.pk) == 1 and verdicts(late) == ["fires"]


def test_what_was_there_before_a_relay_was_switched_on_stays_none_of_its_business(world, api, nursery):
    published(world, "Old")
    one = relay(api, f"p{world.profile.pk}", nursery)
    poll_sources()
    assert run_relay_safely(one.pk) == 0 and Relay.objects.get(pk=one.pk).firings.filter(verdict="fires").count() == 0
