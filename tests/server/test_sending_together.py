"""Many deliveries sent together: what one meets is no other's trouble, and nobody who asks is forgotten."""

import time
from datetime import timedelta

import pytest
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from menudo.base.sealing import seal
from menudo.delivery import attempt
from menudo.delivery.actions import send as sending
from menudo.delivery.actions.claim import claim_due
from menudo.delivery.actions.send import send_due
from menudo.delivery.actions.settle import SendResult, settle_results
from menudo.history.models import HistoryEvent
from menudo.networks.sign_in import discover
from menudo.notices.models import JobFailure
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Connection, Pause, Profile
from menudo_core.networks.content import Content
from menudo_core.sending.decision import NetworkResponse, Outcome
from tests.server.conftest import connected, in_thread, picture
from tests.server.test_delivery import due, quick, sent

__all__ = ["quick"]


def test_many_are_looked_at_together_and_each_goes_its_own_way(world, standin, settings):
    """Of two brands at once: one has a picture, one is another brand's, one can't be sent as it is, one is held by a pause."""
    _, (bread,) = connected(standin, world.bakery, "nursery")
    long, paused = (
        Profile.objects.create(
            brand=world.garden,
            network="brisk",
            connection=world.connection,
            remote_id=n,
            handle=f"@{n}",
            name=n,
            kind="account",
        )
        for n in ("long", "paused")
    )
    asset = world.api().upload(picture()).json()["id"]
    pictured = due(world, "Pictured", [asset])
    rye = due(world, "Rye", brand=world.bakery, profile=bread)
    Post.objects.filter(pk=rye.post_id).update(brand=world.bakery)
    two, three = due(world, "x" * 5000, profile=long), due(world, "Later", profile=paused)
    Pause.objects.create(
        brand=world.garden, profile=paused, starts_at=timezone.now() - timedelta(minutes=1), created_by=None
    )
    send_due()
    for delivery in (pictured, rye, two, three):
        delivery.refresh_from_db()
    assert [d.state for d in (pictured, rye, two, three)] == ["published", "published", "in_trouble", "held"]
    assert "Menudo did not send it" in two.reason and three.held_for == "paused"
    assert {p["body"]["text"] for p in standin.posts()} == {"Pictured", "Rye"}
    assert [d.sent_content["text"] for d in (pictured, rye)] == ["Pictured", "Rye"]
    assert set(HistoryEvent.objects.filter(verb="publish").values_list("object_id", flat=True)) == {pictured.pk, rye.pk}
    assert not Delivery.objects.exclude(lease_holder="").exists()


@pytest.mark.parametrize("where", ["reading", "settling"])
def test_one_that_breaks_everything_spoils_none_of_the_others(world, standin, monkeypatch, where):
    from menudo.delivery.actions import settle as settling

    _, (bread,) = connected(standin, world.bakery, "nursery")
    bad = due(world, "Bad", due_at=timezone.now() - timedelta(minutes=2))
    good = due(world, "Good", brand=world.bakery, profile=bread)
    render_delivery, has_comment = attempt.render_delivery, settling.has_comment

    def breaks(given, *, at):
        if at == where and given.pk == bad.pk:
            raise RuntimeError("no such thing")

    def said(renderer, delivery, *more):
        breaks(delivery, at="reading")
        return render_delivery(renderer, delivery, *more)

    def commented(content, delivery):
        breaks(delivery, at="settling")
        return has_comment(content, delivery)

    monkeypatch.setattr(attempt, "render_delivery", said)
    monkeypatch.setattr(settling, "has_comment", commented)
    assert sent(good).state == "published"
    bad.refresh_from_db()
    # What could not be read is tried again later; what could not be written down when its lease has run out.
    assert (bad.state, bad.reason_code) == (("planned", "broken") if where == "reading" else ("sending", ""))
    assert JobFailure.objects.get().subject == f"delivery {bad.pk}"
    # It is looked at again: what is there already is found by its key.
    monkeypatch.undo()
    over = timezone.now() - timedelta(seconds=1)
    Delivery.objects.filter(pk=bad.pk).update(lease_until=over if bad.lease_until else None, not_before=None)
    assert sent(bad).state == "published"
    assert sorted(p["body"]["text"] for p in standin.posts()) == ["Bad", "Good"]


def test_what_is_left_after_many_claims_gets_a_job_of_its_own(world, standin, settings, monkeypatch):
    monkeypatch.setattr(sending, "SENDER_LOCK_SHARE", 0)
    first, second = due(world, "First"), due(world, "Second")
    assert sent(first).state == "published"
    [job] = ProcrastinateJob.objects.filter(task_name="send", status="todo")
    assert job.args == {"delivery": second.pk}
    send_due(second.pk)
    second.refresh_from_db()
    assert second.state == "published"
    send_due(first.pk)
    assert len(standin.posts()) == 2


def test_what_was_passed_over_while_somebody_held_its_profile_gets_a_job(world, standin, monkeypatch):
    delivery = due(world)
    monkeypatch.setattr(sending, "claim_due", lambda limit, without: [])
    assert sent(delivery).state == "planned"
    [job] = ProcrastinateJob.objects.filter(task_name="send", status="todo")
    assert job.args == {"delivery": delivery.pk}


@pytest.mark.parametrize("first_stands", [True, False])
def test_who_asks_while_another_is_at_it_is_heard(world, standin, monkeypatch, first_stands):
    """A job that comes while its worker's other thread sends, or looks whether it has anything to send."""
    asked, looked = [due(world, "First"), due(world, "Second")], []
    stands = sending.is_still_due

    def comes_meanwhile():
        if not looked:
            other = in_thread(send_due, asked[1].pk)
            other.join(10)
            assert not other.is_alive()

    def look(ids):
        comes_meanwhile()
        looked.append(ids)
        return stands(ids) and (first_stands or asked[0].pk not in ids)

    sends = []
    monkeypatch.setattr(sending, "is_still_due", look)
    monkeypatch.setattr(sending.Sender, "send_due", lambda self: sends.append(len(looked)) or 1)
    send_due(asked[0].pk)
    assert looked == [{asked[0].pk}, {asked[1].pk}]
    assert sends == ([1, 2] if first_stands else [2])


def test_an_old_answer_never_settles_what_was_taken_again_with_others(world, standin):
    """Its batch holds another delivery under the very name that the first is held by now."""
    _, (bread,) = connected(standin, world.bakery, "nursery")
    delivery = due(world, "First")
    [old] = claim_due(limit=9)
    other = due(world, "Other", brand=world.bakery, profile=bread)
    Post.objects.filter(pk=other.post_id).update(brand=world.bakery)
    Delivery.objects.filter(pk=delivery.pk).update(lease_until=timezone.now() - timedelta(seconds=1))
    taken = {d.pk: d for d in claim_due(limit=9)}
    assert set(taken) == {delivery.pk, other.pk}
    refused = NetworkResponse(Outcome.REFUSED, "late")
    settle_results([SendResult(old, refused, Content()), SendResult(taken[other.pk], refused, Content())])
    states = dict(Delivery.objects.filter(pk__in=taken).values_list("pk", "state"))
    assert states == {delivery.pk: "sending", other.pk: "in_trouble"}


def test_what_takes_long_holds_up_nothing_that_comes_due_after_the_senders_turn(world, standin, settings, monkeypatch):
    settings.LINES = 2
    monkeypatch.setattr(sending, "SENDER_LOCK_SHARE", 0.01)
    settings.LEASE = timedelta(seconds=60)
    _, (bread,) = connected(standin, world.bakery, "nursery")
    due(world, "Takes long")
    standin.fault("hold_before", at="create", profile=world.profile.remote_id)
    sender = in_thread(send_due)
    try:
        wait_for(lambda: standin.control("state")["held"])
        other = due(world, "Due later", brand=world.bakery, profile=bread)
        Post.objects.filter(pk=other.post_id).update(brand=world.bakery)
        wait_for(lambda: timezone.now() - other.due_at > timedelta(seconds=2))
        send_due(other.pk)
        wait_for(standin.posts)
        assert [p["body"]["text"] for p in standin.posts()] == ["Due later"]
    finally:
        standin.behave()
        sender.join(60)


def wait_for(true) -> None:
    until = time.monotonic() + 30
    while not true() and time.monotonic() < until:
        pass
    assert true()


def test_a_network_that_hangs_holds_up_only_itself_however_many_of_its_profiles_are_due(world, standin, settings):
    """More of them than are claimed at once, and than there are lines; another network's goes out meanwhile."""
    settings.LINES, settings.TOGETHER = 2, 4
    for n in range(9):
        slow = Profile.objects.create(
            brand=world.garden,
            network="brisk",
            connection=world.connection,
            remote_id=f"h{n}",
            handle=f"@h{n}",
            name="H",
            kind="account",
        )
        due(world, f"Hangs {n}", profile=slow, due_at=timezone.now() - timedelta(minutes=2))
    tokens = standin.control("grant", {"network": "plaza", "login": "desk", "profiles": ["page"]})
    connection = Connection.objects.create(
        brand=world.garden,
        network="plaza",
        account="desk",
        access_token=seal(tokens["access_token"]),
        refresh_token=seal(tokens["refresh_token"]),
        access_expires_at=timezone.now() + timedelta(hours=1),
        endpoints=discover("plaza"),
    )
    page = Profile.objects.create(
        brand=world.garden,
        network="plaza",
        connection=connection,
        remote_id="page",
        handle="Page",
        name="Page",
        kind="page",
    )
    other = due(world, "Another network's", profile=page)
    standin.fault("hold_before", at="create")
    sending_thread = in_thread(send_due)
    try:
        wait_for(lambda: [p for p in standin.posts() if p["network"] == "plaza"])
        assert [p["body"]["text"] for p in standin.posts()] == ["Another network's"]
    finally:
        standin.behave()
        sending_thread.join(60)
    other.refresh_from_db()
    assert other.state == "published"
