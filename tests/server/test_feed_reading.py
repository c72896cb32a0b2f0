"""Feeds as they come: plain text and markup, prologs, JSON, autodiscovery, packed bodies. Feeds of our own making."""

import base64
import gzip
import json
import zlib
from datetime import UTC, datetime
from typing import Any

import httpx2
import pytest

from menudo.base.fetch import Page
from menudo.feeds.actions.poll_feed import poll_feed
from menudo.feeds.feed_parser import NotAFeedError, advertised_feeds, parse_feed
from menudo.feeds.html_text import html_to_text
from menudo.feeds.models import Article, Feed
from tests.server.test_feeds import FEEDS, NOW, item


def page(name: str, base: str = "https://example.org/feeds/all.xml") -> Page:
    kind = "application/feed+json" if name.endswith("json") else "application/rss+xml"
    return Page(base, kind, (FEEDS / name).read_bytes(), httpx2.Headers({}))


def test_the_examples_of_rfc_4287_and_json_feed_are_read_as_they_say():
    # RFC 4287, 1.1: both example documents. JSON Feed 1.1: its simplest example (from memory).
    (robots,) = parse_feed(page("rfc4287-brief.xml"), NOW).entries
    assert (robots.title, robots.link, robots.summary) == (
        "Atom-Powered Robots Run Amok",
        "http://example.org/2003/12/13/atom03",
        "Some text.",
    )
    assert robots.entry_key == "id:urn:uuid:1225c695-cfb8-4ebb-aaaa-80da344efa6a"
    found = parse_feed(page("rfc4287-extensive.xml"), NOW)
    (draft,) = found.entries
    assert (found.title, found.site) == ("dive into mark", "http://example.org/")
    assert (draft.author, draft.at) == ("Mark Pilgrim", datetime(2003, 12, 13, 12, 29, 29, tzinfo=UTC))
    assert draft.summary == "[Update: The Atom draft is finished.]" and draft.picture == ""
    second, first = parse_feed(page("jsonfeed-1.1.json"), NOW).entries
    assert (second.id, second.link, second.summary) == (
        "2",
        "https://example.org/second-item",
        "This is a second item.",
    )
    assert first.summary == "Hello, world!"


def test_awkward_feeds_are_read_as_far_as_they_can_be():
    at = {e.id: e.at for e in parse_feed(page("bad-dates.xml"), NOW).entries}
    # RFC 822's two-figure year and zone name; what isn't of this world, or far to come, has no time.
    assert at == {
        "a": None,
        "b": None,
        "c": None,
        "d": datetime(2026, 11, 25, 15, tzinfo=UTC),
        "e": datetime(2026, 11, 24, 8, 30, tzinfo=UTC),
    }
    found = parse_feed(page("html-titles.xml"), NOW)
    moss, address, bare, again = found.entries
    assert found.title == "Moss & more" and moss.title == "Forty kinds of moss & one"
    assert (
        moss.link == "https://example.org/feeds/notes/moss?a=1&b=2" and "alert" not in moss.summary.split("closely")[1]
    )
    assert moss.picture == "https://example.org/pics/moss.jpg" and moss.tags == ("Moss", "moss")
    assert address.entry_key == "link:https://example.org/No/Id" and address.picture == "https://example.org/m.png"
    assert bare.entry_key == "title:No identity, no address" and again.entry_key == moss.entry_key
    assert parse_feed(page("broken.xml"), NOW).entries[0].title == "Told still"


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ((FEEDS / "bomb.xml").read_bytes(), "entities"),
        (b"<html><body>hello", "not a feed"),
        (b"", "not a feed"),
        (b"{", "JSON"),
        (b'{"version": 1}', "no JSON Feed"),
        (b"\x89PNG\r\n\x1a\n", "not a feed"),
        (b"{" * 100_000, "JSON"),
    ],
)
def test_what_is_no_feed_says_so(body, words):
    with pytest.raises(NotAFeedError, match=words):
        parse_feed(Page("https://example.org/", "text/xml", body, httpx2.Headers({})), NOW)


def test_a_page_names_its_feeds():
    html = b'<link rel=alternate type="application/rss+xml" href="/a.xml" title="A"><link rel="alternate" type="text/html" href="/b">'
    assert advertised_feeds(Page("https://example.org/x/", "text/html", html, httpx2.Headers({}))) == [
        ("https://example.org/a.xml", "A")
    ]


@pytest.fixture
def api(world):
    return world.api()


# Texts as they come: a title that is plain text, and markup.
def entry_of(title: str, description: str = "") -> Any:
    text = f'<rss version="2.0"><channel><title>x</title><item><guid>a</guid><title>{title}</title><description>{description}</description></item></channel></rss>'
    return parse_feed(
        Page("https://example.org/f", "application/rss+xml", text.encode(), httpx2.Headers()), NOW
    ).entries[0]


@pytest.mark.parametrize(
    ("said", "title"),
    [
        ("Vec&lt;T&gt; explained", "Vec<T> explained"),
        ("<![CDATA[Map<K, V> & List<T>]]>", "Map<K, V> & List<T>"),
        ("&lt;em&gt;Dune&lt;/em&gt;, today", "Dune, today"),
        ("<![CDATA[H<sub>2</sub>O]]>", "H2O"),
        ("👨‍👩‍👧 day 🏴󠁧󠁢󠁥󠁮󠁧󠁿", "👨‍👩‍👧 day 🏴󠁧󠁢󠁥󠁮󠁧󠁿"),
        ("می‌خواهم ශ්‍රී", "می‌خواهم ශ්‍රී"),
        ("AT&amp;T, Q&amp;A", "AT&T, Q&A"),
        ("a\u3000b\u00adc", "a bc"),
    ],
)
def test_titles_keep_their_letters_and_what_only_looks_like_markup(said, title):
    assert entry_of(said).title == title


@pytest.mark.parametrize(
    ("html", "text"),
    [
        ("<p>One</p><p>Two <b>and</b> three</p>", "One Two and three"),
        ("x<br>y<br/>z", "x y z"),
        ("<ul><li>a</li><li>b</li></ul>c", "a b c"),
        ("AT&T and Q&A", "AT&T and Q&A"),
        ("<script>let a</script>b<style>c</style><!-- d -->", "b"),
        ("l'<i>eau</i> <span>d</span>e vie", "l'eau de vie"),
        ("<td>1</td><td>2</td>", "1 2"),
        ("a &lt;b&gt; &amp;c", "a <b> &c"),
    ],
)
def test_markup_goes_and_makes_spaces_only_where_a_block_does(html, text):
    # HTML, 15.3: which elements are displayed as blocks.
    assert html_to_text(html) == text
    assert entry_of("t", f"<![CDATA[{html}]]>").summary == text


def test_markup_nested_as_deep_as_it_likes_breaks_nothing():
    assert html_to_text("<b>" * 2_000 + "x") == "x"
    assert html_to_text("a" + "<b>" * 30_000 + "x").startswith("a")


def test_entities_are_declared_before_the_root_only():
    # XML 1.0, 2.7 and 2.8.
    assert entry_of("<![CDATA[<!ENTITY x]]>", "<![CDATA[How to write <!ENTITY a 'b'>]]>").summary.startswith(
        "How to write"
    )
    feed = '<?xml version="1.0"?><!-- <!ENTITY --><!DOCTYPE rss [<!ENTITY a "b">]><rss version="2.0"></rss>'
    for body in (feed.encode(), feed.encode("utf-16"), feed.encode("utf-8-sig")):
        with pytest.raises(NotAFeedError, match="entities"):
            parse_feed(Page("https://example.org/f", "application/xml", body, httpx2.Headers()), NOW)


def test_a_json_feed_says_its_authors_once_and_its_times_as_rfc_3339_has_them():
    said = {
        "version": "https://jsonfeed.org/version/1.1",
        "title": "List<T>",
        "authors": [{"name": "Maud"}],
        "items": [
            {"id": 1, "content_text": "a <b> c", "date_published": "2010-02-07t14:04:00z"},
            {
                "id": "2",
                "content_html": "<em>Dune</em>, today",
                "authors": [{"name": "Ines"}],
                "date_published": "2010-02-07T14:04:60.1234567-05:00",
            },
        ],
    }
    found = parse_feed(
        Page("https://e.example/f", "application/feed+json", json.dumps(said).encode(), httpx2.Headers()), NOW
    )
    one, two = found.entries
    assert (found.title, one.author, one.summary, two.author, two.summary) == (
        "List<T>",
        "Maud",
        "a <b> c",
        "Ines",
        "Dune, today",
    )
    assert one.at == datetime(2010, 2, 7, 14, 4, tzinfo=UTC)
    assert two.at == datetime(2010, 2, 7, 19, 4, 59, 123456, tzinfo=UTC)


def test_a_page_names_its_feeds_beside_its_base_in_any_case_and_with_parameters():
    html = (
        '<base href="/blog/"><base href="/other/"><link REL="Alternate home" TYPE="Application/RSS+XML; charset=utf-8" href="a.xml">'
        '<link rel="alternate stylesheet" type="text/css" href="b.css"><link rel=alternate type=application/atom+xml href="//x.example/c">'
    )
    found = advertised_feeds(Page("https://example.org/x/y", "text/html", html.encode(), httpx2.Headers()))
    assert [address for address, _ in found] == ["https://example.org/blog/a.xml", "https://x.example/c"]


@pytest.mark.parametrize("coding", ["gzip", "x-gzip", "deflate"])
def test_a_feed_that_comes_packed_is_unpacked_within_the_limit(world, api, standin, settings, coding):
    said = {"version": "https://jsonfeed.org/version/1.1", "title": "Notes", "items": [item(1)]}

    def packed(body: bytes) -> str:
        data = zlib.compress(body) if coding == "deflate" else gzip.compress(body)
        sent = {
            "site": "fernhollow",
            "path": "p.json",
            "type": "application/feed+json",
            "headers": {"Content-Encoding": coding},
        }
        return standin.control("files", {**sent, "base64": base64.b64encode(data).decode()})["url"]

    feed = api("POST", "feeds", {"address": packed(json.dumps(said).encode())}, status=201)
    assert Article.objects.filter(feed=feed["id"]).count() == 1
    Feed.objects.update(etag="")
    packed(b"{" + b" " * (settings.FETCH_MOST_BYTES + 1))
    poll_feed(feed["id"])
    assert "too large" in Feed.objects.get().last_error


@pytest.mark.parametrize(
    ("prolog", "declares"),
    [
        ("<!DOCTYPE rss>", False),
        ('<!DOCTYPE rss PUBLIC "-//x//DTD [>" "https://example.org/rss.dtd">', False),
        ("<!DOCTYPE rss [<!-- ] --><!ENTITY a 'b'>]>", True),
        ("<!DOCTYPE rss [<!ATTLIST x y CDATA ']>'><!ENTITY a 'b'>]>", True),
        ("<!DOCTYPE rss [<!ELEMENT x ANY>]>", False),
    ],
)
def test_where_a_document_type_ends_is_known_by_its_own_brackets(prolog, declares):
    item = "<item><title>How to</title><description><![CDATA[Write <!ENTITY a 'b'> ]]></description></item>"
    body = f'<?xml version="1.0"?>{prolog}<rss version="2.0"><channel><title>x</title>{item}</channel></rss>'.encode()
    page = Page("https://example.org/f", "application/xml", body, httpx2.Headers())
    if declares:
        with pytest.raises(NotAFeedError, match="entities"):
            parse_feed(page, NOW)
    else:
        assert parse_feed(page, NOW).entries[0].title == "How to"


def test_any_text_may_be_an_id(world, api, standin):
    odd = [{**item(n), "id": entry_id} for n, entry_id in enumerate(["http://[x", "//[", "a b", "node:5", "\u202e"])]
    address = standin.control(
        "files",
        {
            "site": "fernhollow",
            "path": "odd.json",
            "type": "application/feed+json",
            "text": json.dumps({"version": "https://jsonfeed.org/version/1.1", "title": "Odd", "items": odd}),
        },
    )["url"]
    feed = api("POST", "feeds", {"address": address}, status=201)
    Feed.objects.update(etag="")
    assert (poll_feed(feed["id"]), Article.objects.count()) == (0, 5)
