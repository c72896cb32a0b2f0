"""What people say at a post and ask of each other, what waits on one, and how each is told."""

from datetime import timedelta

from django.core import mail
from django.utils import timezone

from menudo.notices.actions.mail import mail_notice, send_digests
from menudo.notices.models import Notice, SentMail
from tests.server.conftest import post_in
from tests.server.test_signoff import garden, ids, planned, told

__all__ = ["garden"]


def test_a_mention_a_task_and_what_waits_on_one_lead_to_the_spot_once(garden):
    post = planned(garden)
    where = f"posts/{post['id']}"
    garden.api()(
        "POST", f"{where}/remarks", {"text": "@teo and @Lucia, is this the right wall? Not @Luciana."}, status=201
    )
    assert len(told("teo", "mention")) == len(told("lucia", "mention")) == 1 and not told("teo", "remark")
    wall = (timezone.now() + timedelta(days=1)).strftime("%Y-%m-%dT10:00")
    garden.api()(
        "POST",
        f"{where}/tasks",
        {"user": ids(garden)["teo"], "summary": "A wider picture", "due_wall_time": wall},
        status=200,
    )
    waits = garden.api("teo").client.get("/api/assigned").json()
    assert [(i["kind"], i["late"]) for i in waits["items"]] == [("task", False), ("mention", False)]
    assert waits["items"][0]["path"] == f"/garden/bench/{post['id']}?part=talk"
    assert [i["kind"] for i in garden.api("maud").client.get("/api/assigned").json()["items"]] == ["sign"]
    talk = garden.api("teo")("GET", f"{where}/talk", status=200)
    remark, task = talk["remarks"][0], talk["tasks"][0]
    garden.api("teo")("PUT", f"{where}/remarks/{remark['id']}", {"text": "Mine?"}, status=403)
    garden.api("teo")("POST", f"{where}/remarks/{remark['id']}/resolved", {"resolved": True}, status=200)
    garden.api("teo")("POST", f"{where}/remarks/{remark['id']}/resolved", {"resolved": True}, status=409)
    garden.api("teo")("POST", f"{where}/tasks/{task['id']}/done", status=200)
    assert garden.api("teo").client.get("/api/assigned").json() == {"count": 0, "items": []}
    for bad, pointer in (
        ({"text": " "}, "/text"),
        ({"text": "x", "network": "cinta"}, "/network"),
        ({"text": "x", "field": "y"}, "/field"),
    ):
        assert garden.api()("POST", f"{where}/remarks", bad, status=422)["errors"][0]["pointer"] == pointer
    garden.api()("POST", f"{where}/tasks", {"user": ids(garden)["bruno"]}, status=422)


def test_who_watches_is_told_of_changes_once_a_day_and_not_of_ones_own(garden):
    post = planned(garden)
    garden.api("lucia")("PUT", f"posts/{post['id']}/watch", {"on": True}, status=200)
    for n in range(3):
        body = post_in(f"Moss {n}", profiles=[garden.profile.pk, garden.plaza.pk])
        post = garden.api("teo")("PUT", f"posts/{post['id']}", body, post["revision"], 200)
    assert told("lucia", "changed") == ["Teo changed “Moss 0”"] and not told("teo", "changed")
    garden.api("lucia")("PUT", f"posts/{post['id']}/watch", {"on": False}, status=200)


def wish(world, who: str, status: int = 200, **more):
    body = {"channels": {}, "zone": "Europe/Madrid", "digest_at": "08:00", **more}
    return world.api(who).client.put("/api/notices/preferences", body, "application/json")


def test_each_is_told_as_they_wish_and_never_by_two_mails_for_one_thing(garden, settings):
    settings.DEMO = True
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    assert wish(garden, "maud", channels={"sign": "text"}).status_code == 422
    assert wish(garden, "maud", channels={"sign": "text"}, phone="+34 600 000 111").status_code == 200
    assert (
        wish(garden, "teo", channels={"agreed": "digest"}, quiet_from="22:00").json()["errors"][0]["pointer"]
        == "/quiet_to"
    )
    post = planned(garden)
    for notice in Notice.objects.all():
        mail_notice(notice.pk)
        mail_notice(notice.pk)
    (text,) = SentMail.objects.filter(channel="text")
    assert (text.to, "waits for you" in text.body) == ("+34 600 000 111", True)
    garden.api("maud")("POST", f"posts/{post['id']}/approve", {}, post["revision"], 200)
    mail.outbox.clear()
    assert send_digests() == 1 and send_digests() == 0
    (digest,) = mail.outbox
    assert digest.to == ["teo@example.org"] and "1 thing since" in digest.subject and "signed off" in digest.body
