"""Who may do what: every route, every role, another brand's ids; and what serving demands."""

import io
import json
import os
import subprocess
import sys

import pytest
from django.test import Client

from menudo.api import api as ninja_api
from menudo.posts.models import Delivery, Post
from tests.server.conftest import picture, post_in

# What each role may do, by operation; reading is for all.
WRITES = {
    "makePost",
    "addAsset",
    "describeAsset",
    "savePost",
    "binPost",
    "restorePost",
    "makeSet",
    "changeSet",
    "deleteSet",
}
PLANS = {
    "planPost", "moveDelivery", "unplanDelivery", "callOffDelivery", "retryDelivery", "settleDelivery", "undo", "pause", "resume", "catchUp",
    "handDone", "handNotDone", "handLater",
}  # fmt: skip
MANAGES = {
    "connect", "setTimetable", "loadSheet", "addByHand", "describeProfile", "checkProfile", "disconnectProfile", "connectLinks", "offerLink",
    "revokeLink",
}  # fmt: skip
PEOPLES = {"changeBrand", "changeMember", "removeMember", "invite", "takeInvitationBack"}
SIGNS = {"agreeToPost"}
EDITS = {"writeSheet", "readBrandPage"}
ALL = WRITES | PLANS | MANAGES | PEOPLES | SIGNS | EDITS
MAY_NOT = {
    "coordinator": set(),
    "author": ALL - WRITES,
    "approver": PLANS | MANAGES | PEOPLES,
    "viewer": ALL,
}
ROLE_OF = {"coordinator": "ines", "author": "teo", "approver": "maud", "viewer": "lucia"}
BODIES = {
    "makePost": post_in(), "savePost": post_in(), "describeAsset": {"alt": "x"}, "connect": {"network": "brisk"}, "setTimetable": {"slots": []},
    "planPost": {"when": {"kind": "now"}}, "moveDelivery": {"wall": "2027-01-01T12:00"}, "settleDelivery": {"is_there": False},
    "check": {"master": {}, "networks": ["brisk"]}, "makeSet": {"name": "A", "profiles": []}, "changeSet": {"name": "A", "profiles": []},
    "loadSheet": {"toml": "format = 1"}, "addByHand": {"name": ""}, "disconnectProfile": {"then": "drafts"}, "catchUp": {"choice": "drafts"},
    "offerLink": {"called": "", "wants": []}, "changeBrand": {"name": "", "zone": "UTC"}, "changeMember": {"role": "author", "capabilities": []},
    "invite": {"email": "x", "role": "author", "capabilities": []}, "handNotDone": {"why": "x"}, "handLater": {"wall": "2027-01-01T12:00"},
    "readBrandPage": {"address": "nowhere"}, "pause": {"until": "x"},
}  # fmt: skip


def routes():
    return [
        pytest.param(method.upper(), path, operation["operationId"], id=operation["operationId"])
        for path, item in ninja_api.get_openapi_schema()["paths"].items()
        for method, operation in item.items()
        if "{brand}" in path
    ]


def test_every_route_that_changes_something_is_spoken_for():
    """A new route that isn't a read must say here which capability it asks for."""
    reads = {"check"}
    for one in routes():
        method, _, operation = one.values
        assert method == "GET" or operation in ALL | reads, operation


def test_what_has_no_brand_is_for_the_signed_in_but_for_what_a_link_opens(db):
    open_to_all = {"mailTray", "invitation", "acceptInvitation", "linkPage", "connectByLink", "withdrawByLink"}
    for path, item in ninja_api.get_openapi_schema()["paths"].items():
        for method, operation in item.items():
            if "{brand}" in path:
                continue
            place = path.replace("{token}", "x" * 43).replace("{id}", "1")
            answer = Client().generic(method.upper(), place, "{}", "application/json")
            assert (answer.status_code == 401) == (operation["operationId"] not in open_to_all), operation[
                "operationId"
            ]


@pytest.fixture
def ids(world):
    asset = world.api().upload(picture()).json()["id"]
    post = world.api()("POST", "posts", post_in(profiles=[world.profile.pk]), status=201)
    return {
        "assets": asset,
        "posts": post["id"],
        "deliveries": post["deliveries"][0]["id"],
        "profiles": world.profile.pk,
        "people": world.api("ines").client.get("/api/me").json()["id"],
        "sets": world.api()("POST", "sets", {"name": "Mine", "profiles": [world.profile.pk]}, status=201)["id"],
        "undo": 1,
    }


def ask(client: Client, method: str, path: str, operation: str, brand: str, ids: dict) -> int:
    place = path.replace("{brand}", brand)
    for name in ("id", "entry", "user"):
        room = path.split("/{" + name)[0].rsplit("/", 1)[-1]
        place = place.replace("{" + name + "}", str(ids.get(room, 1)))
    if operation == "addAsset":
        return client.post(place, {"file": io.BytesIO(picture())}).status_code
    return client.generic(
        method, place, json.dumps(BODIES.get(operation, {})), "application/json", headers={"If-Match": '"1"'}
    ).status_code


@pytest.mark.parametrize(("method", "path", "operation"), routes())
def test_every_route_for_every_role_and_another_brands_ids(world, ids, method, path, operation):
    before = (Post.objects.count(), Delivery.objects.get().state)
    assert ask(Client(), method, path, operation, "garden", ids) == 401
    assert ask(world.api("bruno").client, method, path, operation, "garden", ids) == 404
    if any(room in path for room in ("/{id}", "/{entry}", "/{user}")):
        assert ask(world.api("bruno").client, method, path, operation, "bakery", ids) == 404
    for role, refused in MAY_NOT.items():
        if operation in refused:
            assert ask(world.api(ROLE_OF[role]).client, method, path, operation, "garden", ids) in (403, 404), role
    assert (Post.objects.count(), Delivery.objects.get().state) == before
    # What isn't there can't be told from what isn't one's own; of these there is none yet.
    absent = {"undo", "restorePost", "addAsset", "resume", "takeInvitationBack", "revokeLink"}
    if operation in ALL - absent:
        assert ask(world.api("ines").client, method, path, operation, "garden", ids) not in (401, 403, 404)


def test_an_author_may_change_their_own_post_only(world, ids):
    world.api("teo")("PUT", f"posts/{ids['posts']}", post_in("Teo was here"), 1, 403)
    own = world.api("teo")("POST", "posts", post_in("Teo's"), status=201)
    world.api("teo")("PUT", f"posts/{own['id']}", post_in("Teo's, better"), own["revision"], 200)


def test_writes_need_the_csrf_token(world):
    client = Client(enforce_csrf_checks=True)
    client.cookies = world.api().client.cookies
    assert client.post("/api/brands/garden/posts", "{}", "application/json").status_code == 403


def test_the_live_stream_and_media_are_closed_to_others(world):
    assert Client().get("/live/garden").status_code == 404
    assert world.api("bruno").client.get("/live/garden").status_code == 404


@pytest.mark.parametrize(
    "path",
    [
        "brands/gar%00den/strip",
        "brands/garden/posts/99999999999999999999",
        "brands/garden/calendar?first=0001-01-01",
        "brands/garden/calendar?days=900",
    ],
)
def test_odd_addresses_are_no_server_errors(world, path):
    answer = world.api().client.get(f"/api/{path}")
    assert answer.status_code in (404, 422)
    assert answer["Content-Type"] == "application/problem+json"


@pytest.mark.parametrize(
    "body",
    [
        b"",
        b"{",
        b"[]",
        b'{"master": 3}',
        b'{"master": {"media": [0, -1, 1e30, "x"]}}',
        b'{"master": {"media": [99999999999999999999999]}}',
    ],
)
def test_odd_bodies_are_problems_with_pointers(world, body):
    answer = world.api().client.generic("POST", "/api/brands/garden/posts", body, "application/json")
    assert answer.status_code in (400, 422)
    assert answer["Content-Type"] == "application/problem+json"


def test_signing_in_is_by_address_and_password_and_nobody_signs_up(world):
    client = Client()
    login = "/_allauth/browser/v1/auth/login"
    right = {"email": "ines@example.org", "password": "a-long-password"}
    assert client.post(login, {**right, "password": "wrong-wrong"}, "application/json").status_code == 400
    assert client.post(login, right, "application/json").status_code == 200
    assert client.get("/api/me").json()["name"] == "Ines"
    new = {"email": "new@example.org", "password": "quite-another-phrase"}
    assert Client().post("/_allauth/browser/v1/auth/signup", new, "application/json").status_code == 403


def test_serving_without_keys_is_refused_outside_the_demo():
    env = {k: v for k, v in os.environ.items() if not k.startswith("MENUDO_")}
    env["PYTHONPATH"] = os.pathsep.join(p for p in sys.path if p)
    ran = subprocess.run([sys.executable, "-c", "import menudo.settings"], env=env, capture_output=True, text=True)
    assert ran.returncode and "MENUDO_SECRET_KEY is not set" in ran.stderr


def test_every_page_says_where_its_scripts_may_come_from(world):
    policy = Client().get("/health")["Content-Security-Policy"]
    assert "script-src 'self';" in policy and "frame-ancestors 'none'" in policy
