"""Who may do what: every route, every role, another brand's ids; and what serving demands."""

import io
import json
import os
import re
import subprocess
import sys

import pytest
from django.db import transaction
from django.test import Client
from django.utils import timezone

from menudo.api import api as ninja_api
from menudo.catalogue.models import Catalogue, CatalogueItem
from menudo.feeds.models import Article, Feed
from menudo.posts.models import Delivery, Post
from menudo.relays.models import Firing, Relay, SourceItem
from menudo.rotas.models import Turn, Wording
from menudo.starters.models import Starter
from tests.server.conftest import picture, post_in
from tests.server.spoken_for import ABSENT, ALL, BODIES, BY_LINK, MAY_NOT, ROLE_OF, TALKS


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
        "applyFix",
        "compare",
        "attendPost",
        "leavePost",
        "saveView",
        "deleteView",
        "subscribe",
        "unsubscribe",
    } | TALKS
    for one in routes():
        method, _, operation = one.values
        assert method == "GET" or operation in ALL | reads, operation


def test_what_has_no_brand_is_for_the_signed_in_but_for_what_a_link_opens(database):
    open_to_all = {
        "sentMail",
        "invitation",
        "acceptInvitation",
        "linkPage",
        "connectByLink",
        "connectOutcome",
        "withdrawProfileByLink",
        "publicStatus",
        "accessLink",
        "redeemAccessLink",
    } | BY_LINK
    for path, item in ninja_api.get_openapi_schema()["paths"].items():
        for method, operation in item.items():
            if "{brand}" in path:
                continue
            place = re.sub(r"\{\w+_id\}", "1", path.replace("{token}", "x" * 43))
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
            "campaigns", {"name": "Moss week", "starts_on": "2026-12-01", "ends_on": "2026-12-08", "ink": "moss"}
        ),
        "dates": made("almanac/dates", {"name": "Founded", "rule": "06-14"}),
        "link-tags": made("link-tags", {"name": "Usual", "source": "{network}"}),
        **rota_ids(world),
        **relay_ids(world),
    }


def rota_ids(world) -> dict[str, int]:
    """A rota with a turn of one wording. What a turn says is a post that was there already: none is made anew."""
    api = world.api()
    kept = {"name": "Evergreens", "ink": "moss", "profiles": [world.profile.pk]}
    rota = api("POST", "rotas", kept, status=201)["rota"]["id"]
    post = Post.objects.create(brand=world.garden)
    turn = Turn.objects.create(rota_id=rota)
    return {"rotas": rota, "turns": turn.pk, "wordings": Wording.objects.create(turn=turn, post=post).pk}


def relay_ids(world) -> dict[str, int]:
    """A feed with an article, a catalogue with a thing, and a relay that tells of something."""
    now = timezone.now()
    feed = Feed.objects.create(
        brand=world.garden, address="https://fernhollow.example/a.xml", title="Notes", next_at=now
    )
    article = Article.objects.create(feed=feed, entry_key="id:1", title="Moss", seen_at=now)
    catalogue = Catalogue.objects.create(brand=world.garden, name="Nursery")
    thing = CatalogueItem.objects.create(catalogue=catalogue, key="A", title="Aster", last_seen_at=now)
    relay = Relay.objects.create(
        brand=world.garden, feed=feed, target=world.profile, messages=[{"id": 1, "text": "{title}"}]
    )
    appeared = SourceItem.objects.create(
        brand=world.garden, source=f"f{feed.pk}", origin="id:1", occurred_at=now, seen_at=now
    )
    leg = Firing.objects.create(relay=relay, item=appeared, fired_at=now, verdict="told")
    return {
        "feeds": feed.pk,
        "articles": article.pk,
        "catalogues": catalogue.pk,
        "items": thing.pk,
        "relays": relay.pk,
        "firings": leg.pk,
        "starters": Starter.objects.create(brand=world.garden, kind="topic", key="a", created_at=now).pk,
    }


# What a program between, or somebody who writes headers by hand, might say of who asks, from where and what for.
FORGED = {
    "Authorization": "Bearer ines@example.org",
    "Remote-User": "ines@example.org",
    "X-Forwarded-User": "ines@example.org",
    "X-User-Id": "1",
    "X-Forwarded-For": "127.0.0.1",
    "X-Real-IP": "127.0.0.1",
    "Forwarded": 'for=127.0.0.1;host="127.0.0.1";proto=https',
    "X-Forwarded-Host": "localhost",
    "X-Forwarded-Proto": "https",
    "X-Original-URL": "/health",
    "X-Rewrite-URL": "/health",
    "X-HTTP-Method-Override": "GET",
    "Origin": "http://127.0.0.1",
    "Referer": "http://127.0.0.1/garden/calendar",
    "X-Requested-With": "XMLHttpRequest",
    "Priority": "u=0",
}


def ask(client: Client, method: str, path: str, operation: str, brand: str, ids: dict, **forged: str) -> int:
    place = path.replace("{brand}", brand)
    for name in re.findall(r"\{(\w+)\}", place):
        room = path.split("/{" + name)[0].rsplit("/", 1)[-1]
        place = place.replace("{" + name + "}", str(ids.get(room, 1)))
    if operation in (
        "addAsset",
        "importZip",
        "inspectPlan",
        "importPlan",
        "addTable",
        "importOpml",
        "inspectCatalogueFile",
        "importCatalogueFile",
    ):
        return client.post(place, {"file": io.BytesIO(picture())}, headers=forged).status_code
    if operation == "createCatalogueFromFile":
        given = {"file": io.BytesIO(picture()), "settings": '{"name": ""}'}
        return client.post(place, given, headers=forged).status_code
    body = BODIES.get(operation, {})
    body = {**body, "ids": [ids["assets"]]} if "ids" in body else body
    headers = {"If-Match": '"1"', **forged}
    return client.generic(method, place, json.dumps(body), "application/json", headers=headers).status_code


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
    assert ask(Client(), method, path, operation, "garden", ids, **FORGED) == 401, operation
    assert ask(clients["bruno"], method, path, operation, "garden", ids, **FORGED) == 404, operation
    if "_id}" in path:
        assert ask(clients["bruno"], method, path, operation, "bakery", ids) == 404, operation
    for role, refused in MAY_NOT.items():
        if operation in refused:
            refusal = ask(clients[ROLE_OF[role]], method, path, operation, "garden", ids, **FORGED)
            assert refusal in (403, 404), (operation, role)
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
        b"[" * 100_000,
        b'{"a":' * 50_000,
    ],
)
def test_odd_bodies_are_problems_with_pointers(world, body):
    answer = world.api().client.generic("POST", "/api/brands/garden/posts", body, "application/json")
    assert answer.status_code in (400, 422)
    assert answer["Content-Type"] == "application/problem+json"


def test_odd_bodies_are_no_server_errors_where_one_signs_in(world):
    for body in (b"[" * 100_000, b"[]", b"{", b'{"email": {"a": 1}, "password": []}', b'{"email": "\\u0000"}'):
        for path in ("auth/login", "account/email", "auth/2fa/authenticate", "auth/password/request"):
            answer = world.api().client.post(f"/_allauth/browser/v1/{path}", body, "application/json")
            assert answer.status_code < 500, (path, body[:40])


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


def test_what_one_is_told_is_kept_by_no_cache(world):
    """OWASP ASVS 5.0, 14.3.2; what never changes under its address may be, in the browser alone."""
    client = world.api().client
    for path in ("/api/me", "/api/brands/garden/history.csv", "/api/none", "/_allauth/browser/v1/auth/session"):
        assert "no-store" in client.get(path)["Cache-Control"], path
    asset = world.api().upload(picture()).json()["id"]
    assert client.get(f"/media/garden/{asset}/thumb")["Cache-Control"].startswith("private")
