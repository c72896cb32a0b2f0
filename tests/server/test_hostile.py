"""Sites, feeds, stores and networks that mean harm, at every place that reads them: each is told in plain words, nothing is kept of it,
and all is well once they behave. The kinds are the stand-in's own (menudo_standin/hostile.py)."""

import json
from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from menudo.catalogue.actions.poll_catalogue import poll_catalogue
from menudo.catalogue.models import Catalogue
from menudo.feeds.actions.poll_feed import poll_feed
from menudo.feeds.models import Feed
from menudo.library.models import Asset
from menudo.networks import sign_in
from menudo.posts.models import Delivery
from menudo.profiles.actions.refresh_token import working_token
from menudo.profiles.models import Connection
from menudo_standin.hostile import KINDS
from tests.server.test_atompub import blog
from tests.server.test_delivery import due, sent
from tests.server.test_library import store

__all__ = ["blog", "store"]
# What is answered with a redirect is no outage.
STATES = {"inward": "in_trouble", "round": "in_trouble"}
TABLE = {"site": "fernhollow", "path": "a.csv", "type": "text/csv", "text": "key,title\nA,Aster\n"}


@pytest.fixture(autouse=True)
def brief(settings):
    settings.FETCH_SECONDS = settings.FETCH_TIMEOUT = settings.WIRE_TIMEOUT = 0.6
    settings.BACKOFF_BASE = timedelta(seconds=60)


@dataclass(frozen=True)
class Place:
    """Where something of others is read by request: what is hostile, and what is asked. It is refused, but for the kinds it may take
    for what they are: words."""

    path: str
    ask: Callable[[Any, Any, dict], tuple[str, str, dict | None]]
    takes: frozenset[str] = frozenset()


def site(path: str) -> Callable[[Any], str]:
    return lambda standin: f"{standin.url}/site/fernhollow/{path}"


def posting(where: str, path: str, **more: Any):
    return lambda standin, world, store: ("POST", where, {"address": site(path)(standin), **more})


# A page of script, or of anything, is a page: it is read as words (test_brandsheet, test_bench).
_WORDS = frozenset({"script", "deep", "noise", "entities", "heads"})
PLACES = {
    "brand sheet": Place("/site/", posting("sheet/read", ""), _WORDS),
    "link card": Place("/site/", lambda standin, world, store: ("POST", "card", {"link": site("")(standin)}), _WORDS),
    "feed": Place("/site/", posting("feeds", "notes.xml")),
    "catalogue": Place("/site/", posting("catalogues/inspect", "files/a.csv"), frozenset({"noise", "script", "heads"})),
    "open site": Place("/site/", posting("connections", "", network="open-site")),
    "network's metadata": Place(
        "/.well-known/oauth-authorization-server/",
        lambda standin, world, store: ("POST", "connections", {"network": "brisk"}),
    ),
    "store": Place("/store", lambda standin, world, store: ("GET", f"stores/{store['id']}", None)),
    "store's file": Place(
        "/store/Walk", lambda standin, world, store: ("POST", f"stores/{store['id']}", {"paths": ["Walk/one.jpg"]})
    ),
}


@pytest.mark.parametrize("where", PLACES)
def test_what_is_read_by_request_is_refused_in_words_or_taken_as_words(world, standin, store, where):
    place = PLACES[where]
    standin.control("files", TABLE)
    method, path, body = place.ask(standin, world, store)
    client = world.api().client
    client.raise_request_exception = False

    def ask():
        return client.generic(
            method, f"/api/brands/garden/{path}", "" if body is None else json.dumps(body), "application/json"
        )

    before = (Asset.objects.count(), Feed.objects.count(), Catalogue.objects.count())
    for kind in KINDS:
        standin.be_hostile(place.path, kind)
        answer = ask()
        assert standin.hostilely_answered(), kind
        standin.behave()
        seen = answer.content.decode()
        if answer.status_code == 200 and where == "store's file":
            assert answer.json()["added"] == [] and answer.json()["left"], (kind, seen)
        elif answer.status_code not in (200, 201) or kind not in place.takes:
            assert answer.status_code in (409, 422, 502), (kind, answer.status_code, seen)
            assert answer["Content-Type"] == "application/problem+json"
        # Neither what lies within, nor a program's own words.
        assert "root:" not in seen and "Traceback" not in seen and "169.254" not in seen, (kind, seen)
        assert (Asset.objects.count(), Feed.objects.count(), Catalogue.objects.count()) == before, kind
    assert ask().status_code in (200, 201), "it is read again once it behaves"


@pytest.mark.parametrize("kind", KINDS)
def test_what_is_followed_keeps_what_it_had_and_says_what_is_wrong(world, standin, kind):
    api = world.api()
    address = standin.control("files", TABLE)["url"]
    mapping = api("POST", "catalogues/inspect", {"address": address}, status=200)["mapping"]
    kept = {"name": "Nursery", "address": address, "mapping": mapping}
    catalogue = api("POST", "catalogues", kept, status=201)["id"]
    feed = api("POST", "feeds", {"address": f"{standin.url}/site/fernhollow/notes.xml"}, status=201)["id"]
    things = Catalogue.objects.get().items.count()
    standin.be_hostile("/site/", kind)
    poll_feed(feed)
    poll_catalogue(catalogue)
    assert len(standin.hostilely_answered()) >= 2
    row = Feed.objects.get()
    assert row.last_error and row.failure_count == 1
    kept = Catalogue.objects.get()
    assert kept.last_error and kept.failure_count == 1
    assert things == 1 and kept.items.count() == 1
    standin.behave()
    poll_feed(feed)
    assert (Feed.objects.get().failure_count, Feed.objects.get().last_error) == (0, "")


@pytest.mark.parametrize("network", ["brisk", "foolscap"])
@pytest.mark.parametrize("kind", KINDS)
def test_a_hostile_network_is_tried_again_later_and_nothing_goes_out_twice(world, standin, blog, network, kind):
    """A success that names no address, or a redirect, is no word that it went out (Micropub, 3.4; RFC 5023, 9.2)."""
    delivery = due(world, profile=blog if network == "foolscap" else world.profile)
    standin.be_hostile(f"/{network}/", kind)
    assert sent(delivery).state == STATES.get(kind, "planned"), delivery.reason
    assert standin.hostilely_answered()
    assert "<script" not in delivery.reason and len(delivery.reason) < 1000
    standin.behave()
    Delivery.objects.filter(state="in_trouble").update(state="planned")
    Delivery.objects.update(not_before=None)
    assert sent(delivery).state == "published" and len(standin.posts()) == 1


@pytest.mark.parametrize("kind", KINDS)
def test_a_token_that_comes_from_a_hostile_network_is_none_and_the_old_one_is_kept(world, standin, kind):
    before = Connection.objects.get().refresh_token
    Connection.objects.update(access_expires_at=timezone.now())
    standin.be_hostile("/brisk/token", kind)
    with pytest.raises((sign_in.NetworkError, sign_in.ConnectionEndedError)):
        working_token(Connection.objects.get())
    assert standin.hostilely_answered() and Connection.objects.get().refresh_token == before
    standin.behave()
    assert working_token(Connection.objects.get())
