"""Today, notices, and the mail that goes with them."""

from datetime import timedelta

import pytest
from django.core import mail
from django.db import connection
from django.utils import timezone

from menudo.base.sentences import say
from menudo.notices.actions.notify import notify
from menudo.notices.models import Notice
from menudo.notices.tasks import mail_notice
from menudo.people.models import User
from menudo.posts.models import Post
from menudo.profiles.models import Connection, Profile
from tests.server.test_standing import planned

JSON = "application/json"


def told(world, *names: str, key: str = "k") -> int:
    users = [User.objects.get(email=f"{name}@example.org").pk for name in names]
    return notify(users, world.garden.pk, "by_hand", key, say("pause.over", whose="Garden"), "/garden/today")


def test_a_thing_is_told_once_to_each_and_only_to_them(world):
    assert (
        told(world, "ines", "teo") == 2
        and told(world, "ines", "teo", "maud") == 1
        and told(world, "ines", key="other") == 1
    )
    mine = world.api().client.get("/api/notices").json()
    assert (mine["unread"], len(mine["notices"])) == (2, 2)
    assert world.api("bruno").client.get("/api/notices").json() == {"unread": 0, "notices": []}


def test_reading_marks_up_to_the_newest_seen_and_nobody_elses(world):
    told(world, "ines", "teo")
    client = world.api().client
    newest = client.get("/api/notices").json()["notices"][0]["id"]
    told(world, "ines", key="came meanwhile")
    assert client.post("/api/notices/read", {"up_to": newest}, JSON).status_code == 204
    assert client.get("/api/notices").json()["unread"] == 1
    assert world.api("teo").client.get("/api/notices").json()["unread"] == 1


def test_mail_that_could_not_be_sent_is_sent_when_it_can_and_then_never_again(world, settings):
    told(world, "ines")
    notice = Notice.objects.get()
    settings.EMAIL_BACKEND, settings.EMAIL_PORT = "django.core.mail.backends.smtp.EmailBackend", 9
    with pytest.raises(OSError):
        mail_notice(notice.pk)
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    mail_notice(notice.pk)
    mail_notice(notice.pk)
    assert [m.body.splitlines()[2] for m in mail.outbox] == [f"{settings.PUBLIC_URL}/garden/today"]


def test_nobody_who_is_no_longer_active_gets_mail(world):
    told(world, "teo")
    User.objects.filter(email="teo@example.org").update(is_active=False)
    mail_notice(Notice.objects.get().pk)
    assert mail.outbox == []


def test_the_morning_page_says_what_goes_out_what_waits_and_what_is_in_trouble(world, django_assert_num_queries):
    from menudo.calendar.today import today_page
    from menudo.people.context import BrandContext

    now = timezone.now().astimezone(timezone.get_fixed_timezone(60)).replace(hour=9, minute=0, second=0, microsecond=0)
    goes = planned(world, due_at=now + timedelta(hours=3), headline="Goes out")
    planned(world, due_at=now + timedelta(days=3), headline="Not today")
    trouble = planned(world, due_at=now - timedelta(hours=1), state="in_trouble", reason="Brisk refused it")
    hand = planned(world, due_at=now - timedelta(hours=2), state="waiting_for_hand")
    unsigned = planned(world, due_at=now + timedelta(days=2), state="held", held_for="signoff")
    Post.objects.filter(pk=unsigned.post_id).update(state="up_for_signoff")
    place = BrandContext(User.objects.get(email="ines@example.org"), world.garden, frozenset())
    with django_assert_num_queries(4):
        page = today_page(place, now)
    seen = {
        part: [item.delivery for item in getattr(page, part)]
        for part in ("going_out", "trouble", "by_hand", "pending_signoffs")
    }
    assert seen == {
        "going_out": [goes.pk],
        "trouble": [trouble.pk],
        "by_hand": [hand.pk],
        "pending_signoffs": [unsigned.pk],
    }
    assert page.trouble[0].reason == "Brisk refused it" and page.going_out[0].time.endswith("12:00")


def test_profiles_say_when_their_connection_ends_and_what_hangs_on_them(world):
    Connection.objects.update(expires_at=timezone.now() + timedelta(days=2.5))
    for hours, how in (
        (2, {}),
        (3, {"state": "held"}),
        (-1, {"state": "in_trouble"}),
        (-2, {"state": "waiting_for_hand"}),
    ):
        planned(world, hours, **how)
    row = world.api()("GET", "profiles", status=200)[0]
    assert (row["expires_in_days"], row["warning"], row["planned"], row["trouble"]) == (3, True, 3, 1)


def test_profiles_stand_in_their_order_however_the_database_groups_them(world):
    """A grouped query keeps no model's order by itself: where the database hashes, they would come as they fall."""
    for handle in ("@zeal", "@aster", "@moss"):
        Profile.objects.create(
            brand=world.garden, network="brisk", remote_id=handle, handle=handle, name=handle, kind="account"
        )
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL enable_sort = off")
        cursor.execute("SET LOCAL enable_indexscan = off")
    found = [p["handle"] for p in world.api().client.get("/api/brands/garden/profiles").json()]
    assert found == sorted(found) and len(found) == 4
