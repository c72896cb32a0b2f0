"""Who may do what: every route, every role, another brand's ids; and what serving demands."""

import io
import json
import os
import subprocess
import sys

import pytest
from django.db import transaction
from django.test import Client

from menudo.api import api as ninja_api
from menudo.posts.models import Delivery, Post
from menudo.rotas.models import Turn, Wording
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
    "moveMedia", "copyMedia", "labelMedia", "binMedia", "restoreMedia", "makeFolder", "changeFolder", "removeFolder", "copyFolder", "unzip",
    "bringIn", "makeSnippet", "changeSnippet", "deleteSnippet", "makeTagSet", "changeTagSet", "deleteTagSet", "makeLinkTags",
    "changeLinkTags", "deleteLinkTags", "wording", "hashtags", "insertTags", "readCard", "draftFrom", "goBack", "duplicatePost",
    "makeLabel", "changeLabel", "deleteLabel", "makeCampaign", "changeCampaign", "deleteCampaign", "markPosts", "keepAlmanac",
    "makeDate", "changeDate", "deleteDate", "readPlan", "putUp", "withdrawPost", "assign",
}  # fmt: skip
PLANS = {
    "planPost", "moveDelivery", "unplanDelivery", "callOffDelivery", "retryDelivery", "settleDelivery", "undo", "pause", "resume", "catchUp",
    "handDone", "handNotDone", "handLater", "tryComment", "moveMany", "callOffMany", "times", "swapTimes", "lookAtLaying", "layOut",
    "bringPlan", "retryMany", "updateThere",
    "makeRota", "changeRota", "deleteRota", "addTurns", "orderTurns", "changeTurn", "removeTurn", "addTurnWording", "removeTurnWording",
    "putTurn", "swapTurns",
}  # fmt: skip
DELETES = {"takeDown"}
MANAGES = {
    "connect", "setTimetable", "loadSheet", "addByHand", "describeProfile", "checkProfile", "disconnectProfile", "connectLinks", "offerLink",
    "revokeLink", "keepStore", "forgetStore", "copyTimetable", "setWishes", "followZone", "keepSlots",
}  # fmt: skip
PEOPLES = {
    "changeBrand", "changeMember", "removeMember", "invite", "takeInvitationBack", "keepSignRules", "trySignRules", "offerSignLink", "revokeSignLink",
}  # fmt: skip
SIGNS = {"agreeToPost", "agreeToAll", "sendBack", "toSign"}
BY_LINK = {"signPage", "agreeByLink", "agreeToAllByLink", "sendBackByLink", "remarkByLink"}
# What everyone who sees a brand may do.
TALKS = {"remark", "changeRemark", "takeBackRemark", "settleRemark", "taskDone", "watch"}
EDITS = {"writeSheet", "readBrandPage"}
ALL = DELETES | WRITES | PLANS | MANAGES | PEOPLES | SIGNS | EDITS
MAY_NOT = {
    "coordinator": set(),
    "author": ALL - WRITES,
    "approver": DELETES | PLANS | MANAGES | PEOPLES,
    "viewer": ALL,
}
ROLE_OF = {"coordinator": "ines", "author": "teo", "approver": "maud", "viewer": "lucia"}
BODIES = {
    "makePost": post_in(), "savePost": post_in(), "describeAsset": {"alt": "x"}, "connect": {"network": "brisk"}, "setTimetable": {"slots": []},
    "planPost": {"when": {"kind": "now"}}, "moveDelivery": {"wall": "2027-01-01T12:00"}, "settleDelivery": {"is_there": False},
    "check": {"master": {}, "columns": [{"network": "brisk"}]}, "makeSet": {"name": "A", "profiles": []}, "changeSet": {"name": "A", "profiles": []},
    "loadSheet": {"toml": "format = 1"}, "addByHand": {"name": ""}, "disconnectProfile": {"then": "drafts"}, "catchUp": {"choice": "drafts"},
    "offerLink": {"called": "", "wants": []}, "changeBrand": {"name": "", "zone": "UTC"}, "changeMember": {"role": "author", "capabilities": []},
    "invite": {"email": "x", "role": "author", "capabilities": []}, "handNotDone": {"why": "x"}, "handLater": {"wall": "2027-01-01T12:00"},
    "readBrandPage": {"address": "nowhere"}, "pause": {"until": "x"},
    **{key: {"ids": [1]} for key in ("moveMedia", "copyMedia", "labelMedia", "binMedia", "restoreMedia")}, "draftFrom": {"ids": [1]},
    **{key: {"name": ""} for key in ("makeFolder", "changeFolder")}, "bringIn": {"paths": ["x"]},
    **{key: {"name": "", "text": ""} for key in ("makeSnippet", "changeSnippet")}, "keepStore": {"name": "", "address": ""},
    **{key: {"name": "", "tags": []} for key in ("makeTagSet", "changeTagSet")}, "readCard": {"link": ""}, "wording": {"task": "vary"},
    **{key: {"name": ""} for key in ("makeLinkTags", "changeLinkTags")}, "hashtags": {"text": ""}, "insertTags": {"text": "", "tags": []},
    "compare": {"before": "", "after": ""},
    **{key: {"name": "", "ink": "moss"} for key in ("makeLabel", "changeLabel")}, "followZone": {"was": "UTC", "hold": "wall"},
    **{key: {"name": "", "starts": "2026-12-01", "ends": "2026-12-02", "ink": "moss"} for key in ("makeCampaign", "changeCampaign")},
    "markPosts": {"posts": [1]}, "keepAlmanac": {"countries": ["XX"], "observances": True},
    **{key: {"name": "", "rule": "12-13"} for key in ("makeDate", "changeDate")}, "moveMany": {"moves": [{"id": 1, "revision": 1}]},
    "callOffMany": {"deliveries": [1]}, "times": {"when": {"kind": "now"}}, "copyTimetable": {"profiles": [1]},
    "setWishes": {"most_days": 4, "least_minutes": 60, "repeat_days": 30, "wakes": "23:00", "sleeps": "07:00"},
    "swapTimes": {"one": {"id": 1, "revision": 1}, "other": {"id": 2, "revision": 1}}, "keepView": {"name": "", "query": {}},
    "lookAtLaying": {"posts": [1], "how": "slots", "first": "2026-12-01"}, "subscribe": {"profiles": 1},
    "layOut": {"rows": [{"post": 1, "profile": 1, "wall": "2027-01-01T12:00"}]},
    "keepSignRules": {"needed": True, "rules": [{"name": ""}]}, "trySignRules": {"needed": True, "rules": [{"name": ""}]}, "offerSignLink": {"called": ""}, "putUp": {"posts": [{"id": 1, "revision": 1}]},
    "agreeToAll": {"posts": [{"id": 1, "revision": 1}]}, "retryMany": {"deliveries": [{"id": 1, "revision": 1}]}, "sendBack": {"words": "x"}, "assign": {"user": 1}, "remark": {"text": ""},
    "changeRemark": {"text": "x"}, "settleRemark": {"settled": True}, "watch": {"on": True}, "agreeToPost": {},
    "mend": {"master": {}, "columns": [], "mend": "crop", "field": "text"},
    **{key: {"name": "", "ink": "moss", "profiles": []} for key in ("makeRota", "changeRota")}, "orderTurns": {"turns": []},
    "putTurn": {"profile": 1, "at": "2027-01-01T12:00:00Z"}, "keepSlots": {"weekdays": [1], "at": "09:00"},
    "swapTurns": {"one": {"profile": 1, "at": "2027-01-01T12:00:00Z"}, "other": {"profile": 2, "at": "2027-01-01T12:00:00Z"}},
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
    reads = {
        "check",
        "mend",
        "compare",
        "attend",
        "leave",
        "keepView",
        "deleteView",
        "subscribe",
        "unsubscribe",
    } | TALKS
    for one in routes():
        method, _, operation = one.values
        assert method == "GET" or operation in ALL | reads, operation


def test_what_has_no_brand_is_for_the_signed_in_but_for_what_a_link_opens(db):
    open_to_all = {
        "mailTray",
        "invitation",
        "acceptInvitation",
        "linkPage",
        "connectByLink",
        "withdrawByLink",
    } | BY_LINK
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
    def made(room: str, body: dict) -> int:
        return world.api()("POST", room, body, status=201)["id"]

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
        "folders": made("folders", {"name": "Moss"}),
        "snippets": made("snippets", {"name": "Way", "text": "By the gate"}),
        "tag-sets": made("tag-sets", {"name": "Moss", "tags": ["moss"]}),
        "labels": made("labels", {"name": "Talks", "ink": "moss"}),
        "campaigns": made(
            "campaigns", {"name": "Moss week", "starts": "2026-12-01", "ends": "2026-12-08", "ink": "moss"}
        ),
        "dates": made("almanac/dates", {"name": "Founded", "rule": "06-14"}),
        "link-tags": made("link-tags", {"name": "Usual", "source": "{network}"}),
        **rota_ids(world),
    }


def rota_ids(world) -> dict[str, int]:
    """A rota with a turn of one wording. What a turn says is a post that was there already: none is made anew."""
    api = world.api()
    kept = {"name": "Evergreens", "ink": "moss", "profiles": [world.profile.pk]}
    rota = api("POST", "rotas", kept, status=201)["rota"]["id"]
    post = Post.objects.create(brand=world.garden)
    turn = Turn.objects.create(rota_id=rota)
    return {"rotas": rota, "turns": turn.pk, "wordings": Wording.objects.create(turn=turn, post=post).pk}


def ask(client: Client, method: str, path: str, operation: str, brand: str, ids: dict) -> int:
    place = path.replace("{brand}", brand)
    for name in ("id", "entry", "user", "remark", "task", "turn", "wording"):
        room = path.split("/{" + name)[0].rsplit("/", 1)[-1]
        place = place.replace("{" + name + "}", str(ids.get(room, 1)))
    if operation in ("addAsset", "unzip", "readPlan", "bringPlan"):
        return client.post(place, {"file": io.BytesIO(picture())}).status_code
    body = BODIES.get(operation, {})
    body = {**body, "ids": [ids["assets"]]} if "ids" in body else body
    return client.generic(method, place, json.dumps(body), "application/json", headers={"If-Match": '"1"'}).status_code


# What isn't there can't be told from what isn't one's own; of these there is none yet.
ABSENT = {
    "undo", "restorePost", "addAsset", "resume", "takeInvitationBack", "revokeLink", "forgetStore", "bringIn", "goBack",
    "revokeSignLink", "agreeToAll", "takeBackRemark", "settleRemark", "changeRemark", "taskDone",
}  # fmt: skip
PARTS = 8


@pytest.mark.parametrize("part", range(PARTS))
def test_every_route_for_every_role_and_another_brands_ids(world, ids, part):
    """Each route from the same beginning: what one changes is taken back before the next."""
    clients = {who: world.api(who).client for who in ("bruno", *ROLE_OF.values())}
    before = (Post.objects.count(), Delivery.objects.get().state)
    asked = list(routes())[part::PARTS]
    assert asked
    for one in asked:
        with transaction.atomic():
            _refused_where_it_must_be(clients, ids, before, *one.values)
            transaction.set_rollback(True)


def _refused_where_it_must_be(clients, ids, before, method, path, operation):
    assert ask(Client(), method, path, operation, "garden", ids) == 401, operation
    assert ask(clients["bruno"], method, path, operation, "garden", ids) == 404, operation
    if any(room in path for room in ("/{id}", "/{entry}", "/{user}")):
        assert ask(clients["bruno"], method, path, operation, "bakery", ids) == 404, operation
    for role, refused in MAY_NOT.items():
        if operation in refused:
            assert ask(clients[ROLE_OF[role]], method, path, operation, "garden", ids) in (403, 404), (operation, role)
    assert (Post.objects.count(), Delivery.objects.get().state) == before, operation
    if operation in ALL - ABSENT:
        assert ask(clients["ines"], method, path, operation, "garden", ids) not in (401, 403, 404), operation


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


def test_a_body_beyond_what_is_read_is_a_problem_too(world):
    body = b'{"master": {"text": "' + b"x" * 2_000_001 + b'"}}'
    answer = world.api().client.generic("POST", "/api/brands/garden/posts", body, "application/json")
    assert (answer.status_code, answer["Content-Type"]) == (413, "application/problem+json")


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
