"""Clients who sign off by link: what they see, what they may do, and when the link leads nowhere."""

from datetime import timedelta

from django.test import Client
from django.utils import timezone

from menudo.history.models import HistoryEvent
from menudo.people.models import Membership, User
from menudo.posts.models import Version
from menudo.signoff.models import SignOff
from menudo.talk.models import Remark
from tests.server.conftest import picture
from tests.server.test_signoff import garden, ids, planned, states, told

__all__ = ["garden"]


def link(world, **more) -> str:
    made = world.api()("POST", "sign-links", {"display_name": "The director", **more}, status=201)
    return made["address"].rsplit("/", 1)[1]


def test_a_client_signs_off_by_link_and_sees_nothing_else(garden):
    asset = garden.api().upload(picture()).json()["id"]
    other = garden.api().upload(picture((500, 500))).json()["id"]
    post = planned(garden, media=[asset])
    token = link(garden, profiles=[garden.profile.pk])
    client = Client()
    page = client.get(f"/api/sign/{token}").json()
    assert [c["network"] for c in page["posts"][0]["columns"]] == ["brisk"]
    assert page["posts"][0]["title"] == "" and page["posts"][0]["asked"] == []
    for words, shared in (("Don't tell them yet", False), ("For you", True)):
        garden.api()("POST", f"posts/{post['id']}/remarks", {"text": words, "shared": shared}, status=201)
    assert [r["text"] for r in client.get(f"/api/sign/{token}").json()["posts"][0]["remarks"]] == ["For you"]
    assert client.get(f"/media/sign/{token}/{asset}/thumb").status_code == 200
    assert client.get(f"/media/sign/{token}/{other}/thumb").status_code == 404
    body = {
        "revision": page["posts"][0]["revision"],
        "name": "Amaro",
        "changes": [{"network": "brisk", "text": "Mine"}],
    }
    url = f"/api/sign/{token}/posts/{post['id']}"
    assert client.post(f"{url}/approve", body, "application/json").status_code == 403
    after = client.post(f"{url}/approve", {**body, "changes": []}, "application/json").json()
    assert after["posts"] == []
    answer = SignOff.objects.get()
    assert (answer.name, answer.signer[0], answer.verdict) == ("The director (says: Amaro)", "l", "agreed")
    assert states(garden.api()("GET", f"posts/{post['id']}")) == {"brisk": "planned", "plaza": "held"}
    # What isn't waiting for the link isn't there for it.
    assert client.post(f"{url}/send-back", {"revision": 1, "words": "No"}, "application/json").status_code == 404
    assert client.get(f"/api/sign/{token[:-1]}x").status_code == 404


def test_a_link_that_ended_was_taken_back_or_answers_for_one_who_may_no_more_leads_nowhere(garden):
    planned(garden)
    maud = User.objects.get(email="maud@example.org")
    token = link(garden, user=maud.pk, may_edit=True)
    assert Client().get(f"/api/sign/{token}").json()["may_edit"] is True
    Membership.objects.filter(user=maud, brand=garden.garden).update(capabilities=["see"])
    assert Client().get(f"/api/sign/{token}").status_code == 404
    plain = link(garden)
    link_id = next(one["id"] for one in garden.api()("GET", "sign-links", status=200) if one["answers_for"] == "")
    garden.api()("DELETE", f"sign-links/{link_id}", status=204)
    assert Client().get(f"/api/sign/{plain}").status_code == 404
    over = link(garden)
    garden.garden.sign_links.update(expires_at=timezone.now() - timedelta(seconds=1))
    assert Client().get(f"/api/sign/{over}").status_code == 404
    bad = garden.api()(
        "POST",
        "sign-links",
        {"display_name": " ", "user": ids(garden)["bruno"], "profiles": [garden.foreign.pk]},
        status=422,
    )
    assert {f["pointer"] for f in bad["errors"]} == {"/display_name", "/user", "/profiles/0"}


def test_a_client_asks_for_a_change_and_a_week_is_agreed_to_at_once(garden):
    posts = [planned(garden, days) for days in (1, 2, 3)]
    token, client = link(garden), Client()
    page = client.get(f"/api/sign/{token}").json()
    assert [p["post"] for p in page["posts"]] == [p["id"] for p in posts]
    first = page["posts"][0]
    url = f"/api/sign/{token}/posts/{first['post']}/send-back"
    assert client.post(url, {"revision": first["revision"], "words": " "}, "application/json").status_code == 422
    back = client.post(
        url, {"revision": first["revision"], "words": "Not on Monday", "name": "Amaro"}, "application/json"
    ).json()
    assert [p["state"] for p in back["posts"]] == ["sent_back", "up_for_signoff", "up_for_signoff"]
    rest = [{"id": p["post"], "revision": p["revision"]} for p in back["posts"][1:]]
    assert client.post(f"/api/sign/{token}/approve", {"posts": rest}, "application/json").json()["done"] == 2
    assert told("teo", "back") == ["The director (says: Amaro) sent “Forty kinds of moss” back: Not on Monday"]


def test_a_link_changes_only_what_it_shows(garden, nursery):
    garden.plaza = nursery
    post = planned(garden)
    token, client = link(garden, profiles=[garden.profile.pk], may_edit=True), Client()
    revision = client.get(f"/api/sign/{token}").json()["posts"][0]["revision"]
    body = {"revision": revision, "changes": [{"network": "brisk", "text": "Mine"}]}
    url = f"/api/sign/{token}/posts/{post['id']}/approve"
    other = {**body, "changes": [{"network": "brisk", "profile": nursery.pk, "text": "Yours"}]}
    assert client.post(url, other, "application/json").status_code == 404
    assert client.post(url, body, "application/json").status_code == 200
    versions = Version.objects.filter(post=post["id"]).values_list("network", "profile_id", "overrides__text")
    assert set(versions) == {("brisk", garden.profile.pk, "Mine")}


def test_whoever_has_a_link_is_named_by_it_whatever_they_type(garden):
    planned(garden)
    token, client = link(garden), Client()
    page = client.get(f"/api/sign/{token}").json()["posts"][0]
    url = f"/api/sign/{token}/posts/{page['post']}"
    body = {"revision": page["revision"], "words": "Ask @Ines", "name": " Maud\u202e\n(Fernhollow) "}
    assert client.post(f"{url}/send-back", body, "application/json").status_code == 200
    said = "The director (says: Maud (Fernhollow))"
    assert Remark.objects.get().name == said
    assert [words.startswith(said) for words in told("ines", "mention")] == [True]
    assert HistoryEvent.objects.filter(verb="send_back").values_list("actor_id", "actor_name").get() == (
        None,
        "The director (by link, says: Maud (Fernhollow))",
    )
