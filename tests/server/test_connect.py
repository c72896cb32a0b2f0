"""Connecting profiles: the real trip to the real stand-in, and every way it can be tampered with."""

import re
from urllib.parse import parse_qs, urlencode, urlsplit

import httpx2
import pytest
from django.test import Client
from django.utils import timezone

from menudo.base.sealing import unseal
from menudo.delivery.actions.send import send_due
from menudo.history.models import HistoryEvent
from menudo.networks import sign_in
from menudo.networks.networks_file import Network
from menudo.posts.models import Delivery
from menudo.profiles.actions.refresh_token import working_token
from menudo.profiles.models import Connection, ConnectLink, PendingConnection, Profile
from menudo_core.timing.default_slots import default_slots
from tests.standins import SITE


def set_out(world, network: str = "brisk", address: str = "") -> str:
    return world.api()("POST", "connections", {"network": network, "address": address}, status=200)["go_to"]


def at_the_network(go_to: str, answer: str = "agree", profiles: tuple[str, ...] = ("fernhollow", "talks")) -> str:
    """Sign in at the stand-in as a person would, choose and answer; where it sends one back to."""
    with httpx2.Client(follow_redirects=True) as browser:
        browser.get(go_to)
        assert "may Menudo post to?" in browser.post(go_to, data={"login": "desk", "password": "moss"}).text
        ended = browser.post(go_to, data={"profile": profiles, "answer": answer}, follow_redirects=False)
    return ended.headers["Location"]


def back(world, location: str, who: str = "ines") -> dict[str, list[str]]:
    """What is told after the way back: by the address, and by what the browser's session keeps."""
    parts = urlsplit(location)
    return landed(world.api(who).client, f"{parts.path}?{parts.query}")


def landed(client: Client, way_back: str) -> dict[str, list[str]]:
    told = parse_qs(urlsplit(client.get(way_back)["Location"]).query)
    kept = client.get(f"/api/connect-outcomes/{told['outcome'][0]}").json() if "outcome" in told else {}
    return told | {"left": kept.get("left", [])} | ({"refused": [kept["refused"]]} if kept.get("refused") else {})


def test_two_of_three_profiles_are_chosen_at_the_network_and_come_back_connected(world):
    Profile.objects.all().delete()
    said = back(world, at_the_network(set_out(world)))
    found = {p.remote_id: p.state for p in Profile.objects.filter(brand=world.garden)}
    assert found == {"fernhollow": "connected", "talks": "connected"}
    assert said["connected"][0].count(",") == 1
    assert all(p.slots.count() == len(default_slots("short")) for p in Profile.objects.all())
    assert 89 <= (Connection.objects.get().expires_at - timezone.now()).days <= 90


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
        PendingConnection.objects.update(expires_at=timezone.now())
    else:
        from menudo.base.sealing import seal

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
        assert httpx2.get(re.sub(change, put.get(change, ""), go_to)).status_code == 400


def test_a_token_that_ran_out_is_refreshed_and_the_old_refresh_token_is_spent(world, standin):
    old = unseal(world.connection.refresh_token)
    Connection.objects.update(access_expires_at=timezone.now())
    world.connection.refresh_from_db()
    token = working_token(world.connection)
    world.connection.refresh_from_db()
    assert unseal(world.connection.access_token) == token
    with pytest.raises(sign_in.ConnectionEndedError):
        sign_in.refresh_tokens(world.connection.endpoints, old)


def test_a_network_that_is_not_there_says_so_before_the_trip(world, settings):
    settings.NETWORKS = {"brisk": Network("http://127.0.0.1:9")}
    problem = world.api()("POST", "connections", {"network": "brisk"}, status=409)
    assert "not answering" in problem["detail"]


def test_only_networks_that_can_be_connected_are(world):
    assert world.api()("POST", "connections", {"network": "nowhere"}, status=422)["errors"][0]["pointer"] == "/network"


# Every network, its kinds and their conditions; the remedy is made at the network, and checked again.
@pytest.mark.parametrize(
    ("network", "uid", "unmet", "remedy"),
    [
        ("plaza", "page", [], {}),
        ("plaza", "group", ["app"], {"app": "on"}),
        ("vitrine", "photos", ["tied_page"], {"tied_page": "administered"}),
        ("guildhall", "trust", ["super_administrator"], {"role": "super-administrator"}),
        ("guildhall", "amaro", [], {}),
        ("tackboard", "borders", [], {}),
        ("cinta", "films", ["manager"], {"role": "manager"}),
        ("vuelta", "short", [], {}),
        ("waypost", "gate", ["verified"], {"verified": "yes"}),
    ],
)
def test_each_kind_is_connected_or_says_which_condition_is_unmet_until_it_is_mended(
    world, standin, network, uid, unmet, remedy
):
    said = back(world, at_the_network(set_out(world, network), profiles=(uid,)))
    profile = Profile.objects.get(network=network, remote_id=uid)
    assert said["connected"] == [str(profile.pk)]
    seen = next(p for p in world.api()("GET", "profiles") if p["id"] == profile.pk)
    assert [c["id"] for c in seen["unmet"]] == unmet and all(c["remedy"] for c in seen["unmet"])
    assert seen["state"] == ("not_ready" if unmet else "connected") and seen["followers"] == 120
    if unmet:
        assert world.api()("POST", f"profiles/{profile.pk}/check", status=200) == "not_ready"
        standin.control("facts", {"network": network, "uid": uid, "facts": remedy})
        assert world.api()("POST", f"profiles/{profile.pk}/check", status=200) == "connected"


def test_a_personal_profile_of_a_page_network_is_not_given_to_a_program(world):
    go_to = set_out(world, "plaza")
    with httpx2.Client(follow_redirects=True) as browser:
        browser.get(go_to)
        shown = browser.post(go_to, data={"login": "desk", "password": "moss"}).text
        answer = browser.post(go_to, data={"profile": ["maud"], "answer": "agree"})
    assert "No app may post here" in shown
    assert "Choose at least one" in answer.text


def test_what_is_not_ready_is_not_planned_for_and_says_why(world, standin):
    back(world, at_the_network(set_out(world, "plaza"), profiles=("group",)))
    profile = Profile.objects.get(network="plaza")
    api = world.api()
    post = api("POST", "posts", {"master": {"text": "Moss"}, "profiles": [profile.pk]}, status=201)
    said = api("POST", f"posts/{post['id']}/plan", {"when": {"kind": "now"}}, post["revision"], 422)
    assert "not ready" in said["detail"]


def test_an_open_site_is_connected_by_its_address_and_posted_to(world, standin):
    from tests.server.test_delivery import due, sent

    said = back(
        world, at_the_network(set_out(world, "open-site", f"{standin.url}/site/fernhollow/"), profiles=("fernhollow",))
    )
    profile = Profile.objects.get(pk=said["connected"][0])
    assert (profile.kind, profile.site, profile.connection.account) == (
        "site",
        *[f"{standin.url}/site/fernhollow/"] * 2,
    )
    delivery = due(world, "From our own desk")
    delivery.profile = profile
    delivery.save()
    assert sent(delivery).state == "published"
    assert "From our own desk" in httpx2.get(f"{standin.url}/site/fernhollow/").text


@pytest.mark.parametrize(
    ("address", "told"),
    [
        ("", "Write the site's address"),
        ("garden.example.org", "https://"),
        ("ftp://garden.example.org", "https://"),
        ("http://127.0.0.1:9/", "only its own stand-in"),
        ("{standin}/health", "Micropub endpoint"),
        ("{standin}/site/nobody/", "answered 404"),
    ],
)
def test_an_address_that_is_no_open_site_says_what_is_wrong_at_its_field(world, standin, address, told):
    body = {"network": "open-site", "address": address.replace("{standin}", standin.url)}
    problem = world.api()("POST", "connections", body, status=422)
    assert problem["errors"][0]["pointer"] == "/address" and told in problem["detail"]


def test_going_back_to_the_networks_list_adds_and_drops_and_keeps_what_was_planned(world, standin):
    from tests.server.test_standing import planned, state

    back(world, at_the_network(set_out(world), profiles=("fernhollow", "talks")))
    talks = Profile.objects.get(remote_id="talks")
    delivery = planned(world, profile=talks)
    back(world, at_the_network(set_out(world), profiles=("fernhollow", "nursery")))
    assert state(delivery) == ("held", "reconnect")
    assert dict(Profile.objects.filter(brand=world.garden).values_list("remote_id", "state")) == {
        "fernhollow": "connected",
        "nursery": "connected",
        "talks": "disconnected",
    }
    back(world, at_the_network(set_out(world), profiles=("fernhollow", "talks")))
    assert state(delivery) == ("planned", "")


# A client's link.
@pytest.fixture
def link(world):
    wants = [{"network": "plaza", "kinds": ["page"]}]
    offered = world.api()("POST", "links", {"display_name": "Bruno", "requested": wants}, status=201)
    return offered["address"].rsplit("/", 1)[1]


def by_link(token: str, profiles: tuple[str, ...], client: Client | None = None) -> tuple[Client, str]:
    client = client or Client()
    go_to = client.post(f"/api/links/{token}/connections", {"network": "plaza"}, "application/json").json()["go_to"]
    parts = urlsplit(at_the_network(go_to, profiles=profiles))
    return client, f"{parts.path}?{parts.query}"


def test_a_client_connects_their_own_page_without_an_account_and_withdraws_it(world, standin, link):
    page = Client().get(f"/api/links/{link}").json()
    assert (page["brand"], page["created_by"], page["display_name"]) == ("Fernhollow", "Ines", "Bruno")
    assert [[k["kind"] for k in n["kinds"]] for n in page["networks"]] == [["page"]]
    client, way_back = by_link(link, ("page", "group"))
    told = landed(client, way_back)
    assert told["connected"] and told["left"] == ["group"]
    profile = Profile.objects.get(network="plaza")
    assert (profile.remote_id, profile.state) == ("page", "connected")
    assert world.api()("GET", "links")[0]["profiles"][0]["handle"] == "page"
    assert next(p for p in world.api()("GET", "profiles") if p["network"] == "plaza")["by_link"] == "Bruno"
    assert client.delete(f"/api/links/{link}/profiles/{world.profile.pk}").status_code == 404, "not theirs"
    assert client.delete(f"/api/links/{link}/profiles/{profile.pk}").status_code == 204
    profile.refresh_from_db()
    assert (profile.state, profile.connection) == ("disconnected", None)


def test_a_link_that_asks_for_some_kinds_leaves_the_same_accounts_others_connected(world, standin, link):
    """The coordinator has connected a page and a group with an account; by a link for pages, the client chooses the page."""
    back(world, at_the_network(set_out(world, "plaza"), profiles=("page", "group")))
    page, group = (Profile.objects.get(network="plaza", remote_id=uid) for uid in ("page", "group"))
    # Its administrator switches the app on.
    Profile.objects.filter(pk=group.pk).update(state="connected")
    client, way_back = by_link(link, ("page",))
    assert client.get(way_back)["Location"].startswith(f"/link/{link}?connected=")
    page.refresh_from_db(), group.refresh_from_db()
    assert (page.state, group.state) == ("connected", "connected")
    # Each goes by the sign-in that chose it: with the other's tokens the network would turn it away.
    assert page.connection.link is not None and group.connection.link is None
    assert working_token(page.connection) != working_token(group.connection)
    # What the client drops later by their link is theirs alone.
    client.delete(f"/api/links/{link}/profiles/{page.pk}")
    group.refresh_from_db()
    assert group.state == "connected" and Connection.objects.filter(network="plaza").count() == 1


def test_choosing_otherwise_by_the_same_link_drops_what_it_had_connected(world, link):
    ConnectLink.objects.update(requested=[{"network": "plaza", "kinds": ["page", "group"]}])
    client, way_back = by_link(link, ("page", "group"))
    client.get(way_back)
    _, way_back = by_link(link, ("group",), client)
    client.get(way_back)
    states = dict(Profile.objects.filter(network="plaza").values_list("remote_id", "state"))
    assert states["page"] == "disconnected" and states["group"] != "disconnected"


def test_a_links_way_back_serves_only_the_browser_that_set_out(world, link):
    _, way_back = by_link(link, ("page",))
    for thief in (Client(), world.api().client):
        assert "connected" not in thief.get(way_back)["Location"]
    assert not Profile.objects.filter(network="plaza").exists()


def test_a_link_ends_is_taken_back_and_asks_for_no_more_than_it_says(world, link):
    client = Client()
    assert client.post(f"/api/links/{link}/connections", {"network": "brisk"}, "application/json").status_code == 422
    assert client.get("/api/links/" + "x" * 43).status_code == 404
    setting_out, way_back = by_link(link, ("page",))
    link_id = world.api()("GET", "links")[0]["id"]
    assert link not in str(ConnectLink.objects.values())
    world.api()("DELETE", f"links/{link_id}", status=204)
    assert client.get(f"/api/links/{link}").status_code == 404
    assert "refused" in landed(setting_out, way_back)
    ConnectLink.objects.update(revoked_at=None, expires_at=timezone.now())
    assert client.get(f"/api/links/{link}").status_code == 404


def test_a_link_may_be_tried_only_so_often(world, link, settings):
    settings.ACCOUNT_RATE_LIMITS = {"connect_link": "3/m/ip"}
    answers = [Client().get(f"/api/links/{link}") for _ in range(5)]
    assert [a.status_code for a in answers] == [200, 200, 200, 429, 429]
    assert "Wait a minute" in answers[-1].json()["detail"]


def test_two_sites_that_name_things_alike_are_two_profiles(world, standin):
    sites = [f"{standin.url}/site/{name}/" for name in ("fernhollow", "twin")]
    standin.control("seed", {"sites": [{**SITE, "name": "twin"}]})
    for site in sites:
        back(world, at_the_network(set_out(world, "open-site", site), profiles=("fernhollow",)))
    found = Profile.objects.filter(network="open-site").order_by("id")
    assert [(p.site, p.remote_id, p.state) for p in found] == [(site, "fernhollow", "connected") for site in sites]


def test_a_page_that_two_sign_ins_manage_is_with_the_newer_and_nothing_is_left_over(world, standin):
    back(world, at_the_network(set_out(world), profiles=("talks",)))
    Connection.objects.filter(account="desk").update(account="an older name")
    back(world, at_the_network(set_out(world), profiles=("fernhollow", "talks")))
    assert {p.connection.account for p in Profile.objects.filter(brand=world.garden)} == {"desk"}
    assert list(Connection.objects.values_list("account", flat=True)) == ["desk"]


def test_a_link_needs_a_name_and_kinds_that_can_be_connected(world):
    wants = [{"network": "plaza", "kinds": ["personal"]}]
    problem = world.api()("POST", "links", {"display_name": " ", "requested": wants}, status=422)
    assert {e["pointer"] for e in problem["errors"]} == {"/display_name", "/requested/0"}


def test_tokens_are_in_no_log_and_no_history(world, caplog):
    back(world, at_the_network(set_out(world)))
    token = unseal(Connection.objects.get().access_token)
    assert token not in caplog.text and token not in str(list(HistoryEvent.objects.values()))


def test_a_networks_own_fields_and_the_link_arrive_as_they_are_and_what_is_not_asked_for_stays_here(world, standin):
    standin.control("facts", {"network": "waypost", "uid": "gate", "facts": {"verified": "yes"}})
    back(world, at_the_network(set_out(world, "waypost"), profiles=("gate",)))
    gate = Profile.objects.get(network="waypost").pk
    api = world.api()
    fields = {"listing_kind": "event", "title": "Winter walk", "start": "2026-12-06T11:00", "end": "2026-12-06T12:00"}
    own = {"fields": {**fields, "code": "only for offers"}, "link": "https://fernhollow.example.org/walk"}
    body = {"master": {"text": "Bark and berries", "link": "https://fernhollow.example.org"}, "profiles": [gate]}
    post = api("POST", "posts", {**body, "versions": [{"network": "waypost", "overrides": own}]}, status=201)
    assert (
        post["versions"][0]["overrides"]["fields"] == own["fields"] and post["master"]["link"] == body["master"]["link"]
    )
    api("POST", f"posts/{post['id']}/plan", {"when": {"kind": "now"}}, post["revision"], 200)
    delivery = Delivery.objects.get(post_id=post["id"])
    send_due()
    delivery.refresh_from_db()
    (there,) = standin.posts("gate")
    assert there["body"]["fields"] == {
        "Kind": "event",
        "Start": fields["start"],
        "End": fields["end"],
    }
    assert there["body"]["title"] == "Winter walk"
    assert there["body"]["link"] == own["link"] and delivery.sent_content["link"] == own["link"]
    page = api("GET", f"deliveries/{delivery.pk}")
    assert [f["label"] for f in page["fields"]] == ["Kind", "Title", "Start", "End"]
    assert "Winter walk" in httpx2.get(delivery.remote_url).text


def test_a_listing_without_what_its_kind_needs_is_stopped_at_its_field(world, standin):
    standin.control("facts", {"network": "waypost", "uid": "gate", "facts": {"verified": "yes"}})
    back(world, at_the_network(set_out(world, "waypost"), profiles=("gate",)))
    gate = Profile.objects.get(network="waypost").pk
    version = {"network": "waypost", "overrides": {"fields": {"listing_kind": "offer"}}}
    api = world.api()
    post = api("POST", "posts", {"master": {"text": "Bread"}, "versions": [version], "profiles": [gate]}, status=201)
    said = api("POST", f"posts/{post['id']}/plan", {"when": {"kind": "now"}}, post["revision"], 422)
    assert said["errors"][0]["pointer"] == "/fields/title"


@pytest.mark.parametrize(
    ("own", "pointer"),
    [
        ({"fields": {"title": "a\x00"}}, "/versions/0/overrides/fields/title"),
        ({"fields": {"Bad name": "x"}}, "/versions/0/overrides/fields/Bad name/[key]"),
    ],
)
def test_a_faulty_field_is_told_where_it_stands(world, own, pointer):
    body = {"master": {"text": "x"}, "versions": [{"network": "waypost", "overrides": own}]}
    assert world.api()("POST", "posts", body, status=422)["errors"][0]["pointer"] == pointer
