"""Feeds: read politely, known again, nothing old flooded in; the shelf; OPML. Feeds of our own making are in tests/feeds."""

import io
import json
from datetime import UTC, datetime, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

import pytest
from procrastinate.contrib.django.models import ProcrastinateJob

from menudo.base import clock
from menudo.feeds import tasks
from menudo.feeds.actions.check_articles import check_articles
from menudo.feeds.actions.poll_feed import poll_feed
from menudo.feeds.actions.send_reminders import send_reminders
from menudo.feeds.models import Article, Feed
from menudo.notices.models import Notice
from menudo.posts.models import Delivery, Post
from menudo_core.feeds.pace import next_poll_at
from tests.server.test_posts import pointers

FEEDS = Path(__file__).parents[1] / "feeds"
NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)


def test_a_feed_that_fails_is_asked_less_and_less_and_what_it_asks_is_heeded():
    hour = timedelta(hours=1)
    assert [next_poll_at(NOW, hour, n) - NOW for n in (0, 1, 2, 9)] == [hour, 2 * hour, 4 * hour, 24 * hour]
    assert next_poll_at(NOW, timedelta(minutes=1), 0) - NOW == timedelta(minutes=15)
    assert next_poll_at(NOW, hour, 0, requested_wait=timedelta(hours=3)) - NOW == 3 * hour
    assert next_poll_at(NOW, hour, 0, requested_wait=timedelta(days=300)) - NOW == timedelta(days=1)


def item(n: int, title: str = "", **more: str) -> dict:
    return {"id": str(n), "title": title or f"Note {n}", "url": f"https://fernhollow.example/{n}", **more}


def put(standin, items: list[dict], path: str = "notes.json", **more) -> str:
    said = {"version": "https://jsonfeed.org/version/1.1", "title": "Notes", "items": items}
    sent = {"site": "fernhollow", "path": path, "type": "application/feed+json", "text": json.dumps(said), **more}
    return standin.control("files", sent)["url"]


@pytest.fixture
def api(world):
    return world.api()


def test_what_stands_in_a_feed_at_first_is_old_and_what_comes_after_is_fresh_once(world, api, standin):
    address = put(standin, [item(2), item(1)])
    feed = api("POST", "feeds", {"address": address}, status=201)
    assert (feed["title"], feed["articles"], feed["new_articles"]) == ("Notes", 0, 0)
    assert Article.objects.filter(is_new=False).count() == 2
    # Unchanged: the site isn't made to send it again.
    etag = Feed.objects.get().etag
    assert poll_feed(feed["id"]) == 0
    there = Feed.objects.get()
    assert (bool(etag), there.etag, there.failure_count, there.last_error) == (True, etag, 0, "")
    assert there.next_at - clock.now() < timedelta(minutes=61)
    put(standin, [item(3), item(2, "Note 2, mended"), item(1)])
    assert poll_feed(feed["id"]) == 1 and poll_feed(feed["id"]) == 0
    assert list(Article.objects.filter(is_new=True).values_list("title", flat=True)) == ["Note 3"]
    assert Article.objects.filter(title="Note 2, mended", is_new=False).exists()
    assert pointers(api("POST", "feeds", {"address": address}, status=422)) == {"/address"}


def test_a_feeds_settings_are_changed_from_what_one_saw(world, api, standin):
    feed = api("POST", "feeds", {"address": put(standin, [item(1)])}, status=201)
    changed = {"title": "Walks", "shelved": False, "interval_minutes": 120}
    kept = api("PUT", f"feeds/{feed['id']}", changed, feed["revision"], 200)
    assert (kept["title"], kept["shelved"], kept["interval_minutes"]) == ("Walks", False, 120)
    api("PUT", f"feeds/{feed['id']}", changed, feed["revision"], 412)
    assert pointers(api("PUT", f"feeds/{feed['id']}", {**changed, "interval_minutes": 5}, kept["revision"], 422)) == {
        "/interval_minutes"
    }
    api("DELETE", f"feeds/{feed['id']}", status=204)
    assert not Article.objects.exists()


def test_moved_failing_and_gone_feeds(world, api, standin, settings):
    old = put(standin, [item(1)], "old.json")
    feed_id = api("POST", "feeds", {"address": old}, status=201)["id"]
    new = put(standin, [item(2), item(1)], "new.json")
    put(standin, [], "old.json", status=301, headers={"Location": new})
    assert poll_feed(feed_id) == 1 and Feed.objects.get(pk=feed_id).address == new
    put(standin, [], "new.json", status=503, headers={"Retry-After": "7200"})
    for fails in range(1, 6):
        poll_feed(feed_id)
        feed = Feed.objects.get(pk=feed_id)
        assert feed.failure_count == fails and "503" in feed.last_error
        assert feed.next_at - clock.now() > timedelta(hours=1.9)
    assert Notice.objects.filter(kind="trouble", summary__contains="can't be read").count() == 1
    put(standin, [], "new.json", status=410)
    poll_feed(feed_id)
    assert Feed.objects.get(pk=feed_id).is_gone and poll_feed(feed_id) == 0
    put(standin, [item(3), item(2)], "new.json")
    api("POST", f"feeds/{feed_id}/read", {}, status=200)
    assert poll_feed(feed_id) == 1 and Feed.objects.get(pk=feed_id).last_error == ""


def test_an_address_leads_to_a_feed_by_what_its_page_says_or_says_why_not(world, api, standin):
    found = api("POST", "feeds/find", {"address": f"{standin.url}/site/fernhollow/"}, status=200)
    assert [one["address"] for one in found] == [f"{standin.url}/site/fernhollow/notes.xml"] and found[0][
        "entries"
    ] == 1
    assert api("POST", "feeds", {"address": f"{standin.url}/site/fernhollow/"}, status=201)["address"].endswith(
        "notes.xml"
    )
    for address in ("", "nowhere", "ftp://x/", f"{standin.url}/health", f"{standin.url}/site/none/"):
        assert pointers(api("POST", "feeds", {"address": address}, status=422)) == {"/address"}, address
    assert pointers(
        api("POST", "feeds", {"address": f"{standin.url}/site/fernhollow/notes.xml", "interval_minutes": 1}, status=422)
    ) == {"/interval_minutes"}


def test_the_shelf_leaves_out_dead_links_and_broken_pictures(world, api, standin):
    moss = standin.control(
        "files", {"site": "fernhollow", "path": "moss.jpg", "type": "image/jpeg", "picture": "#2f6b4a"}
    )["url"]
    here = f"{standin.url}/site/fernhollow/"
    put(standin, [])
    feed_id = api("POST", "feeds", {"address": f"{here}files/notes.json"}, status=201)["id"]
    put(
        standin,
        [
            item(1, "Dead") | {"url": f"{here}none"},
            item(2, "Pictured") | {"url": here, "image": moss, "tags": ["moss"]},
            item(3, "Broken") | {"url": here, "image": f"{here}none.jpg"},
        ],
    )
    poll_feed(feed_id)
    assert check_articles() == 3 and check_articles() == 0
    shelf = api("GET", "shelf", status=200)
    assert {a["title"]: a["has_thumb"] for a in shelf["articles"]} == {"Pictured": True, "Broken": False}
    assert shelf["tags"] == ["moss"]
    pictured = next(a for a in shelf["articles"] if a["has_thumb"])
    assert api.client.get(f"/api/brands/garden/articles/{pictured['id']}/thumb")["Content-Type"] == "image/webp"
    assert [a["title"] for a in api("GET", "shelf?words=pict", status=200)["articles"]] == ["Pictured"]
    assert [a["title"] for a in api("GET", "shelf?tag=moss", status=200)["articles"]] == ["Pictured"]
    # Shared with a remark: a post with its card; it leaves the shelf.
    sent = {"articles": [pictured["id"]], "remark": "Worth a walk.", "profiles": [world.profile.pk], "plans": True}
    done = api("POST", "shelf/share", sent, status=201)
    post = Post.objects.get(pk=done["posts"][0])
    assert post.master["text"] == "Worth a walk.\n\nPictured" and post.master["card"]["picture"]
    assert done["left"] == [] and Delivery.objects.get(post=post).state == "planned"
    assert [a["title"] for a in api("GET", "shelf", status=200)["articles"]] == ["Broken"]
    other = {**sent, "articles": [999_999], "profiles": [world.foreign.pk]}
    assert pointers(api("POST", "shelf/share", other, status=422)) == {"/articles/0", "/profiles/0"}
    (broken,) = api("GET", "shelf", status=200)["articles"]
    api("DELETE", f"articles/{broken['id']}", status=204)
    assert api("GET", "shelf", status=200)["articles"] == []


def test_a_reminder_comes_on_its_weekdays_once_with_a_few_fresh_ones(world, api, standin, settings):
    put(standin, [])
    feed_id = api("POST", "feeds", {"address": f"{standin.url}/site/fernhollow/files/notes.json"}, status=201)["id"]
    put(standin, [item(n) | {"url": f"{standin.url}/site/fernhollow/"} for n in range(5)])
    poll_feed(feed_id)
    check_articles()
    today = clock.now().astimezone(ZoneInfo("Europe/Madrid"))
    api("PUT", "shelf/reminder", {"weekdays": [(today.weekday() + 1) % 7], "at": "00:00"}, status=204)
    assert send_reminders() == 0
    api("PUT", "shelf/reminder", {"weekdays": [today.weekday()], "at": "00:00"}, status=204)
    assert send_reminders() == 1 and send_reminders() == 0
    notice = Notice.objects.get(kind="shelf")
    assert notice.summary.count("Note") == 3 and notice.path.endswith("/relays/shelf")


def test_feeds_go_out_and_in_as_opml(world, api, standin):
    api("POST", "feeds", {"address": put(standin, [item(1)]), "title": "Notes & <more>"}, status=201)
    out = api.client.get("/api/brands/garden/feeds/opml").content
    assert b'<opml version="2.0">' in out and b"Notes &amp; &lt;more&gt;" in out
    file = io.BytesIO(
        out.replace(b"notes.json", b"other.json").replace(b"</body>", b'<outline type="rss" text="None"/></body>')
    )
    file.name = "feeds.opml"
    answer = api.client.post("/api/brands/garden/feeds/opml", {"file": file}).json()
    assert answer == {"feeds": 1, "left": ["None: it has no web address."]}
    assert Feed.objects.filter(title="Notes & <more>").count() == 2
    for bad in (b"", b"<opml", b"<rss/>", (FEEDS / "bomb.xml").read_bytes()):
        file = io.BytesIO(bad)
        file.name = "x.opml"
        assert api.client.post("/api/brands/garden/feeds/opml", {"file": file}).status_code == 422


def test_a_page_of_several_feeds_is_chosen_from_and_a_brand_follows_so_many_at_most(world, api, standin):
    a, b = put(standin, [item(1)], "a.json"), put(standin, [item(2), item(3)], "b.json")
    kind = "application/feed+json"
    head = "".join(
        f'<link rel="alternate" type="{kind}" title="{t}" href="{at}">'
        for t, at in (("A", a), ("B", b), ("C", a + "x"))
    )
    sent = {"site": "fernhollow", "path": "page.html", "type": "text/html", "text": f"<html><head>{head}</head></html>"}
    page = standin.control("files", sent)["url"]
    found = api("POST", "feeds/find", {"address": page}, status=200)
    assert [(one["title"], one["entries"]) for one in found] == [("A", 1), ("B", 2)], "what can't be read isn't offered"
    assert api("POST", "feeds", {"address": page}, status=422)["errors"][0]["code"] == "page.many_feeds"
    api("POST", "feeds", {"address": b}, status=201)
    Feed.objects.bulk_create(
        Feed(brand=world.garden, address=f"https://fernhollow.example/{n}", title="F", next_at=clock.now())
        for n in range(299)
    )
    assert api("POST", "feeds", {"address": a}, status=422)["errors"][0]["code"] == "feed.many"


def test_due_feeds_get_a_job_each_and_gone_ones_none(world, api, standin):
    made = [api("POST", "feeds", {"address": put(standin, [item(n)], f"{n}.json")}, status=201)["id"] for n in range(3)]
    Feed.objects.filter(pk__in=made[:2]).update(next_at=clock.now() - timedelta(minutes=1))
    Feed.objects.filter(pk=made[2]).update(next_at=clock.now() + timedelta(minutes=10))
    Feed.objects.filter(pk=made[1]).update(is_gone=True)
    put_in_line = ProcrastinateJob.objects.filter(task_name="read_feed", status="todo")
    for _ in range(2):
        tasks.poll_due_feeds()
        # The same one waits in line once, in the lane of its site.
        (job,) = put_in_line
        assert (job.args, job.queue_name) == ({"feed": made[0]}, "outward")
        assert job.lock == f"outward:{standin.url.removeprefix('http://')}"
    tasks.poll_feed(**job.args)
    put_in_line.delete()
    tasks.poll_due_feeds()
    assert not put_in_line.exists()


def rss(*guids: str, base: str = "https://example.org") -> str:
    """A feed of RSS 2.0 whose guids are bare words."""
    items = "".join(f"<item><guid>{g}</guid><title>{g}</title><link>{base}/{g}</link></item>" for g in guids)
    return f'<rss version="2.0"><channel><title>Notes</title>{items}</channel></rss>'


def put_rss(standin, text: str, path: str, **more) -> str:
    sent = {"site": "fernhollow", "path": path, "type": "application/rss+xml", "text": text, **more}
    return standin.control("files", sent)["url"]


def test_a_feed_that_moves_brings_nothing_old_with_it(world, api, standin):
    old = put_rss(standin, rss("one", "two"), "old/all.xml")
    feed_id = api("POST", "feeds", {"address": old}, status=201)["id"]
    # As they were kept once: an id that is a bare word, resolved against the feed's address.
    for article in Article.objects.all():
        assert article.entry_key in ("id:one", "id:two")
        Article.objects.filter(pk=article.pk).update(entry_key=f"id:{old.removesuffix('all.xml')}{article.title}")
    Feed.objects.update(etag="", modified="")
    assert poll_feed(feed_id) == 0 and Article.objects.filter(entry_key="id:one").exists()
    new = put_rss(standin, rss("one", "two", "three"), "elsewhere/new.xml")
    put_rss(standin, "", "old/all.xml", status=301, headers={"Location": new})
    assert poll_feed(feed_id) == 1 and Feed.objects.get().address == new


@pytest.mark.parametrize(
    ("status", "words"), [(300, "answered 300"), (305, "answered 305"), (304, "answered 304"), (399, "answered 399")]
)
def test_what_is_no_redirect_is_not_followed(world, api, standin, status, words):
    # RFC 9110, 15.4: 300 leaves the choice to a person, 305 is deprecated, 304 answers what was asked on a condition only.
    there = put(standin, [item(1)], "there.json")
    put(standin, [], "odd.json", status=status, headers={"Location": there})
    refused = api("POST", "feeds", {"address": there.replace("there.json", "odd.json")}, status=422)
    assert words in refused["errors"][0]["detail"]


@pytest.mark.parametrize("status", [301, 302, 303, 307, 308])
def test_redirects_are_followed(world, api, standin, status):
    there = put(standin, [item(1)], "there.json")
    put(standin, [], "odd.json", status=status, headers={"Location": there})
    followed = api("POST", "feeds", {"address": there.replace("there.json", "odd.json")}, status=201)
    assert followed["address"].endswith("there.json" if status in (301, 308) else "odd.json")
