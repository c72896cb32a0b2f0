"""The stand-in networks by themselves: looks, consent, settings, conditions of their own, and web sites."""

import re

import httpx2
import pytest

from menudo_core.networks.conditions import unmet_conditions
from menudo_core.networks.load import shipped_sheets
from menudo_standin.conditions import _BARS
from tests.standins import StandIn


def config(standin: StandIn, network: str, *profiles: str) -> list[dict]:
    given = standin.control("grant", {"network": network, "login": "desk", "profiles": list(profiles)})
    auth = {"Authorization": f"Bearer {given['access_token']}"}
    return httpx2.get(f"{standin.url}/{network}/micropub?q=config", headers=auth).json()["destination"]


def test_each_network_has_a_look_of_its_own(standin):
    pages = {network: httpx2.get(f"{standin.url}/{network}/settings").text for network in shipped_sheets()}
    looks = {network: re.search(r":root\{([^}]*)\}", page).group(1) for network, page in pages.items()}
    assert len(set(looks.values())) == len(shipped_sheets()) == 10
    assert all(f"Sign in to {shipped_sheets()[n].name}" in page for n, page in pages.items())


def test_the_networks_and_the_rule_sheets_agree_on_every_condition():
    """Two codes, one set of facts: what the stand-in bars is what the core calls unmet, and the other way round."""
    for (network, kind), bars in _BARS.items():
        rule = shipped_sheets()[network].profile_kind(kind)
        assert rule is not None
        assert {c.fact for c in rule.conditions if c.fact} == {fact for fact, *_ in bars}
        for fact, _, good, _ in bars:
            for value in (
                "off",
                "on",
                "no",
                "yes",
                "none",
                "not administered",
                "administered",
                "editor",
                "owner",
                "keeper",
                "manager",
                "administrator",
                "super-administrator",
            ):
                told = any(c.fact == fact for c in unmet_conditions(rule, {fact: value}))
                assert told == (value not in good), (network, kind, fact, value)


def test_a_setting_changed_at_the_network_is_what_it_tells_from_then_on(standin):
    with httpx2.Client(follow_redirects=True) as person:
        settings = f"{standin.url}/waypost/settings"
        assert "don't go together" in person.post(settings, data={"login": "desk", "password": "x"}).text
        assert "Gate" in person.post(settings, data={"login": "desk", "password": "moss"}).text
        person.post(settings, data={"uid": "gate", "fact": "verified", "value": "yes"})
        assert person.post(settings, data={"uid": "page", "fact": "app", "value": "on"}).status_code == 404
    (gate,) = config(standin, "waypost", "gate")
    assert gate["facts"] == {"verified": "yes", "role": "owner"} and gate["followers"] == 120


def test_a_brands_site_says_where_its_micropub_endpoint_is_in_its_header_and_on_its_page(standin):
    page = httpx2.get(f"{standin.url}/site/fernhollow/")
    assert page.links["micropub"]["url"] == f"{standin.url}/open-site/micropub"
    assert '<link rel="micropub"' in page.text and '"@type": "LocalBusiness"' in page.text
    assert httpx2.get(f"{standin.url}/site/fernhollow/logo.png").headers["Content-Type"] == "image/png"
    assert httpx2.get(f"{standin.url}/site/fernhollow/notes.xml").text.count("<item>") == 1
    assert httpx2.get(f"{standin.url}/site/nobody/").status_code == 404


def test_an_aged_connection_is_over_for_the_wire_and_for_refreshing(standin):
    given = standin.control("grant", {"network": "brisk", "login": "desk", "profiles": ["talks"]})
    standin.control("age", {"network": "brisk", "login": "desk", "days": -1})
    auth = {"Authorization": f"Bearer {given['access_token']}"}
    assert httpx2.get(f"{standin.url}/brisk/micropub?q=config", headers=auth).status_code == 401
    again = {"grant_type": "refresh_token", "refresh_token": given["refresh_token"], "client_id": "menudo"}
    assert httpx2.post(f"{standin.url}/brisk/token", data=again).json()["error"] == "invalid_grant"


def post(standin: StandIn, network: str, profile: str, **properties: str) -> httpx2.Response:
    given = standin.control("grant", {"network": network, "login": "desk", "profiles": [profile]})
    body = {name: [value] for name, value in properties.items()}
    entry = {"type": ["h-entry"], "properties": {**body, "mp-destination": [profile]}}
    return httpx2.post(
        f"{standin.url}/{network}/micropub", json=entry, headers={"Authorization": f"Bearer {given['access_token']}"}
    )


@pytest.mark.parametrize(
    ("properties", "reason"),
    [
        ({"content": "Bread"}, "listing_kind is missing"),
        ({"content": "Bread", "listing_kind": "offer"}, "title is missing"),
        ({"content": "Bread", "listing_kind": "party"}, "not one of update, event, offer"),
        ({"listing_kind": "update"}, "an empty post"),
    ],
)
def test_a_listing_is_judged_by_its_sheet_with_the_networks_own_code(standin, properties, reason):
    standin.control("facts", {"network": "waypost", "uid": "gate", "facts": {"verified": "yes"}})
    refused = post(standin, "waypost", "gate", **properties)
    assert refused.status_code == 400 and reason in refused.json()["detail"]
    assert post(standin, "waypost", "gate", content="Bread", listing_kind="update").status_code == 201


def test_a_profile_whose_condition_is_not_met_is_not_posted_to(standin):
    barred = post(standin, "waypost", "gate", content="Bread", listing_kind="update")
    assert barred.status_code == 403 and barred.json()["detail"] == "the location is not verified"


def test_a_posts_page_shows_its_link_and_what_the_network_asked_for(standin):
    standin.control("facts", {"network": "waypost", "uid": "gate", "facts": {"verified": "yes"}})
    made = post(
        standin, "waypost", "gate", content="<b>Bread</b>", listing_kind="update", link="https://example.org/bread"
    )
    page = httpx2.get(made.headers["Location"]).text
    assert (
        "&lt;b&gt;Bread&lt;/b&gt;" in page
        and "<dt>Kind</dt><dd>update</dd>" in page
        and 'href="https://example.org/bread"' in page
    )


def test_the_same_picture_sent_to_several_networks_at_once_is_each_ones_own(standin):
    """One file, four networks, many hands: every post finds its picture."""
    import io
    from concurrent.futures import ThreadPoolExecutor

    from PIL import Image

    out = io.BytesIO()
    Image.effect_noise((900, 900), 80).convert("RGB").save(out, "JPEG")
    standin.control("facts", {"network": "vitrine", "uid": "photos", "facts": {"tied_page": "administered"}})
    whose = {"brisk": "talks", "plaza": "page", "vitrine": "photos", "guildhall": "amaro"}
    tokens = {
        network: standin.control("grant", {"network": network, "login": "desk", "profiles": [uid]})["access_token"]
        for network, uid in whose.items()
    }

    def goes(network: str) -> int:
        auth = {"Authorization": f"Bearer {tokens[network]}"}
        sent = httpx2.post(
            f"{standin.url}/{network}/media", files={"file": ("a.jpg", out.getvalue())}, headers=auth, timeout=30
        )
        photo = [{"value": sent.headers["Location"], "alt": "Noise"}]
        entry = {
            "type": ["h-entry"],
            "properties": {"content": ["Noise"], "photo": photo, "mp-destination": [whose[network]]},
        }
        return httpx2.post(f"{standin.url}/{network}/micropub", json=entry, headers=auth, timeout=30).status_code

    with ThreadPoolExecutor(8) as hands:
        assert set(hands.map(goes, [*whose] * 6)) == {201}
