"""Classic blogs by the Atom Publishing Protocol (RFC 5023), against the stand-in's own reading of it: connecting, entries with
pictures, edit links and entity tags, drafts, and what is found of a try whose answer was lost."""

import io
import uuid
from datetime import UTC, datetime, timedelta
from urllib.parse import urljoin
from xml.etree.ElementTree import Element

import httpx2
import pytest
from django.utils import timezone

from menudo.delivery.actions.send import send_due
from menudo.delivery.actions.sweep import sweep_overdue
from menudo.networks import atom, atompub
from menudo.networks.protocol import Attachment, OutgoingPost
from menudo.networks.registry import open_adapter
from menudo.networks.sign_in import discover
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo_core.sending.decision import NetworkResponse, Outcome
from tests.server.conftest import picture
from tests.server.test_connect import at_the_network, back, set_out
from tests.server.test_delivery import due, sent

TEXT = "Forty kinds of moss & <none> in a hurry\n\n  “Come and look” — 苔 🌿\nhttps://example.org/?a=1&b=2"


@pytest.fixture
def blog(world, standin) -> Profile:
    """The notebook, connected as a person does it."""
    back(world, at_the_network(set_out(world, "foolscap"), profiles=("notebook",)))
    return Profile.objects.get(network="foolscap")


@pytest.fixture
def adapter(standin):
    tokens = standin.control("grant", {"network": "foolscap", "login": "desk", "profiles": ["notebook"]})
    found = open_adapter(discover("foolscap"), tokens["access_token"])
    found.place = found.destinations()[0].remote_id
    return found


def test_a_blog_is_connected_like_any_network_and_its_collection_is_the_place(blog):
    assert (blog.state, blog.kind, blog.handle) == ("connected", "blog", "Notebook")
    assert blog.remote_id.endswith("/foolscap/atom/notebook/entries") and blog.url.endswith("/foolscap/of/notebook")
    assert set(blog.connection.endpoints) >= {"adapter", "service", "token"}


def test_an_entry_says_every_letter_and_its_pictures_with_their_alt_texts(world, blog, standin):
    asset = world.api().upload(picture()).json()["id"]
    world.api()("PATCH", f"assets/{asset}", {"alt": "Moss, “close” & <wet>"}, status=200)
    delivery = due(world, TEXT, [asset], profile=blog)
    Post.objects.update(master={**delivery.post.master, "fields": {"title": "Moss <& fern>"}})
    delivery = sent(delivery)
    (post,) = [p for p in standin.posts() if p["network"] == "foolscap"]
    assert (delivery.state, post["body"]["text"], post["body"]["title"]) == ("published", TEXT, "Moss <& fern>")
    assert [m["alt"] for m in post["body"]["media"]] == ["Moss, “close” & <wet>"]
    assert httpx2.get(delivery.remote_url).status_code == 200


def test_what_stands_there_is_told_without_drafts_and_reads_as_it_was_written(adapter):
    key = str(uuid.uuid4())
    assert adapter.publish(adapter.place, key, OutgoingPost(TEXT)).outcome is Outcome.DONE
    draft = atom.build_entry(str(uuid.uuid4()), OutgoingPost("Not yet")).replace(b">no<", b">yes<")
    headers = {**adapter.auth, "Content-Type": atom.ENTRY_TYPE}
    assert httpx2.post(adapter.place, content=draft, headers=headers).status_code == 201
    (told,) = adapter.posts(adapter.place)
    assert told.text == TEXT and told.url.startswith("http") and told.at.tzinfo is UTC


def test_an_edit_goes_by_the_entity_tag_keeps_the_pictures_and_a_deletion_is_final(adapter, standin, monkeypatch):
    uploaded = adapter.upload(adapter.place, io.BytesIO(picture()), "moss.jpeg", "image/jpeg")
    media = [Attachment(uploaded.url, "picture", "Moss")]
    url = adapter.publish(adapter.place, str(uuid.uuid4()), OutgoingPost("One", media)).url
    assert adapter.edit(adapter.place, url, "Two & <three>").outcome is Outcome.DONE
    (post,) = standin.posts()
    assert (post["body"]["text"], post["body"]["media"][0]["alt"]) == ("Two & <three>", "Moss")
    # Somebody writes between reading and changing.
    real = atompub.request_outcome

    def meanwhile(client, method, address, **more):
        if method == "PUT" and "If-Match" in more["headers"]:
            more["headers"] = {**more["headers"], "If-Match": '"other"'}
        return real(client, method, address, **more)

    monkeypatch.setattr(atompub, "request_outcome", meanwhile)
    refused = adapter.edit(adapter.place, url, "Four")
    assert refused.outcome is Outcome.REFUSED and "meanwhile" in refused.message
    assert adapter.take_down(adapter.place, url).outcome is Outcome.DONE
    assert adapter.take_down(adapter.place, url).outcome is Outcome.DONE
    assert adapter.edit(adapter.place, url, "Five").outcome is Outcome.REFUSED


def test_a_lost_answer_is_looked_for_by_the_entrys_own_id_however_many_came_after(adapter, monkeypatch):
    began, key = timezone.now(), str(uuid.uuid4())
    url = adapter.publish(adapter.place, key, OutgoingPost("Moss")).url
    for n in range(25):
        adapter.publish(adapter.place, str(uuid.uuid4()), OutgoingPost(f"Fern {n}"))
    assert adapter.find_by_key(adapter.place, key, began).url == url
    missing = adapter.find_by_key(adapter.place, str(uuid.uuid4()), began)
    assert missing.answered and missing.url is None
    # Where there are more than anybody looks at, nobody can tell.
    monkeypatch.setattr(atompub, "MAX_LOOKED_AT", 12)
    assert not adapter.find_by_key(adapter.place, key, began).answered


def test_where_the_blog_gives_ids_of_its_own_nobody_can_tell(adapter, standin):
    began, key = timezone.now(), str(uuid.uuid4())
    standin.control("fault", {"network": "foolscap", "kind": "forgetful"})
    adapter.publish(adapter.place, key, OutgoingPost("Moss"))
    assert not adapter.find_by_key(adapter.place, key, began).answered
    # What a stranger wrote long before our try says nothing about it.
    assert adapter.find_by_key(adapter.place, key, began + timedelta(hours=1)).answered


@pytest.mark.parametrize(("forgets", "state", "posts"), [(False, "published", 1), (True, "in_trouble", 1)])
def test_an_answer_that_is_lost_publishes_once_or_asks_a_person(world, blog, standin, forgets, state, posts):
    standin.control("fault", {"network": "foolscap", "kind": "answer_lost", "at": "create"})
    if forgets:
        standin.control("fault", {"network": "foolscap", "kind": "forgetful"})
    delivery = due(world, "Moss", profile=blog)
    send_due()
    assert len(standin.posts()) == 1 and sent(delivery).state == "planned"
    Delivery.objects.update(not_before=None)
    sweep_overdue()
    send_due()
    delivery = sent(delivery)
    assert (delivery.state, len(standin.posts())) == (state, posts)
    if forgets:
        assert delivery.reason_code == "unsure"


def test_what_was_moved_to_another_time_after_its_answer_was_lost_is_still_found(world, blog, standin, monkeypatch):
    monkeypatch.setattr(atompub, "GRACE", timedelta())
    standin.control("fault", {"network": "foolscap", "kind": "answer_lost", "at": "create"})
    delivery = due(world, "Moss", profile=blog)
    send_due()
    standin.behave()
    # Long after the entry was made, as far as its time goes.
    Delivery.objects.update(not_before=None, due_at=timezone.now())
    assert sent(delivery).state == "published" and len(standin.posts()) == 1


@pytest.mark.parametrize(
    "body",
    [
        b"<feed",
        b"\xff\xfe\x00",
        b'<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><feed xmlns="http://www.w3.org/2005/Atom">&b;</feed>',
        b"<html>",
        b"",
        b"<a>" * 50_000 + b"</a>" * 50_000,
        b'<feed xmlns="http://www.w3.org/2005/Atom"><link rel="next" href="http://[x"/><entry><updated>0001-01-01T00:00:00+14:00</updated>'
        b'<link href="http://[x"/><link rel="edit" href="//[x"/></entry></feed>',
    ],
)
def test_what_cant_be_read_or_declares_entities_is_answered_not_raised(adapter, monkeypatch, body):
    answer = httpx2.Response(200, content=body)
    monkeypatch.setattr(atompub, "request_outcome", lambda *args, **more: (NetworkResponse(Outcome.DONE), answer))
    assert adapter.posts(adapter.place) == []
    assert adapter.edit(adapter.place, "http://a.example/", "x").outcome in (Outcome.DOWN, Outcome.REFUSED)
    # RFC 5023, 9.2: what was made is where Location says, which is no part of the body.
    assert adapter.publish(adapter.place, "k", OutgoingPost("x")).outcome is Outcome.DOWN
    assert not adapter.find_by_key(adapter.place, "k", timezone.now()).answered
    said = NetworkResponse(Outcome.DONE, url="/entry/1")
    monkeypatch.setattr(atompub, "request_outcome", lambda *args, **more: (said, answer))
    published = adapter.publish(adapter.place, "k", OutgoingPost("x"))
    assert (published.outcome, published.url) == (Outcome.DONE, urljoin(adapter.place, "/entry/1"))


def feed_of(*entries: tuple[str, str, str], more: str = "") -> bytes:
    """A feed of entries: id, when it was edited last, where it is read."""
    told = (
        f"<entry><id>{entry_id}</id><updated>{at}</updated>" + (f'<link href="{url}"/>' if url else "") + "</entry>"
        for entry_id, at, url in entries
    )
    return f'<feed xmlns="http://www.w3.org/2005/Atom">{more}{"".join(told)}</feed>'.encode()


@pytest.mark.parametrize(
    ("entries", "told", "found"),
    [
        # Newest first, as it should be: what is older than the try needn't be looked at.
        ([("urn:uuid:a", "2026-11-27T12:00:00Z", "/a"), ("tag:x", "2026-11-20T12:00:00Z", "")], True, None),
        # The oldest first: ours is the last.
        ([("tag:x", "2026-11-20T12:00:00Z", ""), ("urn:uuid:k", "2026-11-27T12:00:00Z", "/k")], True, "/k"),
        # One that nobody can read yet is there all the same.
        ([("urn:uuid:k", "2026-11-27T12:00:00Z", "")], True, "/entries"),
        ([("tag:x", "2026-11-27T12:00:00Z", "")], False, None),
        ([("tag:x", "", "")], False, None),
        ([], True, None),
    ],
)
def test_nothing_is_said_to_be_missing_that_may_be_there(adapter, monkeypatch, entries, told, found):
    answer = httpx2.Response(200, content=feed_of(*entries))
    monkeypatch.setattr(atompub, "request_outcome", lambda *args, **more: (NetworkResponse(Outcome.DONE), answer))
    known = adapter.find_by_key(adapter.place, "k", datetime(2026, 11, 27, 11, tzinfo=UTC))
    assert known.answered is told and (known.url or "").endswith(found or "") and bool(known.url) is bool(found)


def test_a_collection_without_end_is_given_up_and_the_token_is_shown_to_its_own_host_only(adapter, monkeypatch):
    asked = []

    def endless(client, method, address, **more):
        asked.append(address)
        following = f'<link rel="next" href="{address}0"/>'
        return NetworkResponse(Outcome.DONE), httpx2.Response(200, content=feed_of(more=following))

    monkeypatch.setattr(atompub, "request_outcome", endless)
    assert not adapter.find_by_key(adapter.place, "k", timezone.now()).answered
    assert len(asked) == atompub.MAX_PAGES and adapter.posts(adapter.place) == []
    asked.clear()
    assert adapter.publish("http://elsewhere.example/entries", "k", OutgoingPost("x")).outcome is Outcome.REFUSED
    assert asked == []


def test_dates_of_entries_are_read_with_their_offsets():
    """RFC 4287, 3.3: its four examples, and what isn't a date."""

    def read(text: str) -> datetime | None:
        element = Element("updated")
        element.text = text
        return atom.parse_instant(element)

    assert read("2003-12-13T18:30:02Z") == datetime(2003, 12, 13, 18, 30, 2, tzinfo=UTC)
    assert read("2003-12-13T18:30:02.25Z") == datetime(2003, 12, 13, 18, 30, 2, 250_000, tzinfo=UTC)
    assert read("2003-12-13T18:30:02+01:00") == datetime(2003, 12, 13, 17, 30, 2, tzinfo=UTC)
    assert read("2003-12-13T18:30:02.25+01:00") == datetime(2003, 12, 13, 17, 30, 2, 250_000, tzinfo=UTC)
    assert read("2003-12-13") is None and read("yesterday") is None
