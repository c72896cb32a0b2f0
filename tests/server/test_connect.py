"""Connecting profiles: the real trip to the real stand-in, and every way it can be tampered with."""

import re
from urllib.parse import parse_qs, urlencode, urlsplit

import httpx
import pytest
from django.utils import timezone

from menudo.base.sealed import unseal
from menudo.profiles.actions.token import working_token
from menudo.profiles.models import Connection, PendingConnection, Profile
from menudo.profiles.wire import sign_in


def set_out(world) -> str:
    return world.api()("POST", "connections", {"network": "brisk"}, status=200)["go_to"]


def at_the_network(go_to: str, answer: str = "agree", profiles: tuple[str, ...] = ("fernhollow", "talks")) -> str:
    """Sign in at the stand-in as a person would, choose and answer; where it sends one back to."""
    with httpx.Client(follow_redirects=True) as browser:
        browser.get(go_to)
        assert "Which profiles" in browser.post(go_to, data={"login": "desk", "password": "moss"}).text
        ended = browser.post(go_to, data={"profile": profiles, "answer": answer}, follow_redirects=False)
    return ended.headers["Location"]


def back(world, location: str, who: str = "ines") -> dict[str, list[str]]:
    parts = urlsplit(location)
    answer = world.api(who).client.get(f"{parts.path}?{parts.query}")
    return parse_qs(urlsplit(answer["Location"]).query)


def test_two_of_three_profiles_are_chosen_at_the_network_and_come_back_connected(world):
    Profile.objects.all().delete()
    said = back(world, at_the_network(set_out(world)))
    found = {p.remote_id: p.state for p in Profile.objects.filter(brand=world.garden)}
    assert found == {"fernhollow": "connected", "talks": "connected"}
    assert said["connected"][0].count(",") == 1
    assert all(p.slots.count() == 8 for p in Profile.objects.all())
    assert 89 <= (Connection.objects.get().ends - timezone.now()).days <= 90


def test_choosing_fewer_later_drops_the_others(world):
    back(world, at_the_network(set_out(world)))
    back(world, at_the_network(set_out(world), profiles=("talks",)))
    states = dict(Profile.objects.filter(brand=world.garden).values_list("remote_id", "state"))
    assert states == {"fernhollow": "disconnected", "talks": "connected"}


def test_refusing_at_the_network_comes_back_with_plain_words(world):
    said = back(world, at_the_network(set_out(world), answer="refuse"))
    assert said["refused"] == ["You said no at Brisk, so nothing was connected. You can try again any time."]


def test_tokens_are_sealed_at_rest_and_in_no_answer(world):
    back(world, at_the_network(set_out(world)))
    connection = Connection.objects.get()
    token = unseal(connection.access_token)
    assert token not in connection.access_token and len(token) > 30
    seen = world.api().client.get("/api/brands/garden/profiles").content.decode()
    assert token not in seen and connection.access_token not in seen


@pytest.mark.parametrize("tamper", ["state", "code", "iss", "replay", "other person", "too late", "verifier"])
def test_a_tampered_way_back_connects_nothing(world, tamper):
    location = at_the_network(set_out(world), profiles=("talks",))
    parts = urlsplit(location)
    query = {k: v[0] for k, v in parse_qs(parts.query).items()}
    who = "ines"
    if tamper in ("state", "code"):
        query[tamper] = "x" * 40
    elif tamper == "iss":
        query["iss"] = "http://127.0.0.1:1/elsewhere"
    elif tamper == "replay":
        back(world, location)
        Profile.objects.filter(remote_id="talks").delete()
    elif tamper == "other person":
        who = "maud"
    elif tamper == "too late":
        PendingConnection.objects.update(ends=timezone.now())
    else:
        from menudo.base.sealed import seal

        PendingConnection.objects.update(verifier=seal("y" * 60))
    said = back(world, f"{parts.path}?{urlencode(query)}", who)
    assert "refused" in said
    assert not Profile.objects.filter(remote_id="talks").exists()


def test_the_network_refuses_no_pkce_plain_pkce_and_a_foreign_way_back(world):
    go_to = set_out(world)
    for change in (r"&code_challenge=[^&]+", r"code_challenge_method=S256", r"redirect_uri=[^&]+"):
        put = {
            "code_challenge_method=S256": "code_challenge_method=plain",
            r"redirect_uri=[^&]+": "redirect_uri=http%3A%2F%2Fevil.example",
        }
        assert httpx.get(re.sub(change, put.get(change, ""), go_to)).status_code == 400


def test_a_token_that_ran_out_is_refreshed_and_the_old_refresh_token_is_spent(world, standin):
    old = unseal(world.connection.refresh_token)
    Connection.objects.update(access_ends=timezone.now())
    world.connection.refresh_from_db()
    token = working_token(world.connection)
    world.connection.refresh_from_db()
    assert unseal(world.connection.access_token) == token
    with pytest.raises(sign_in.Ended):
        sign_in.refresh(world.connection.endpoints, old)


def test_a_network_that_is_not_there_says_so_before_the_trip(world, settings):
    settings.STANDIN_URL = "http://127.0.0.1:9"
    problem = world.api()("POST", "connections", {"network": "brisk"}, status=409)
    assert "not answering" in problem["detail"]


def test_only_networks_that_can_be_connected_are(world):
    assert world.api()("POST", "connections", {"network": "nowhere"}, status=422)["errors"][0]["pointer"] == "/network"
