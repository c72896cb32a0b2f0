"""Read a feed: what is new in it is kept, once."""

from datetime import datetime, timedelta
from urllib.parse import urljoin

import structlog
from django.db import IntegrityError, transaction

from menudo.base import clock
from menudo.base.engine import soon
from menudo.base.fetch import CantFetch, Page, fetch
from menudo.base.live import tell
from menudo.base.numbers import parse_whole_number
from menudo.feeds.models import Article, Feed
from menudo.feeds.reading import ACCEPT, Found, NoFeed, asks_to_wait, read
from menudo.people.actions.tell_planners import tell_planners
from menudo_core.feeds.entry import Entry, fresh
from menudo_core.feeds.pace import TELL_AFTER, next_reading

log = structlog.get_logger(__name__)
# More than these of one feed aren't kept; the oldest go first.
_KEPT = 500
_GONE = 410
# Former addresses of one article.
_FORMER = 20
_MOST_SECONDS = 30 * 24 * 3600


def read_feed(id: int) -> int:
    """Ask the feed's site, keep what is new, and note when to ask again. How many articles were new."""
    feed = Feed.objects.select_related("brand").filter(pk=id, gone=False).first()
    if feed is None:
        return 0
    now = clock.now()
    try:
        page = fetch(feed.address, ACCEPT, marks=(feed.etag, feed.modified))
        found = None if page.unchanged else read(page, now)
    except (CantFetch, NoFeed) as error:
        _failed(feed, error, now)
        return 0
    except Exception:
        # Ours to mend; until then it is asked ever more seldom, as any that can't be read.
        _failed(feed, NoFeed("Menudo broke over what its site sent."), now)
        raise
    return take_in(feed, page, found, now)


def take_in(feed: Feed, page: Page, found: Found | None, now: datetime) -> int:
    """Keep what a reading found (None: nothing has changed). How many articles were new."""
    count = 0
    with transaction.atomic():
        feed = Feed.objects.select_for_update().get(pk=feed.pk)
        first = feed.read_at is None
        if found is not None:
            count = _keep(feed, found, first, now)
            feed.language = found.language
            feed.etag, feed.modified = page.marks
        feed.read_at, feed.fails, feed.trouble = now, 0, ""
        feed.next_at = next_reading(now, timedelta(minutes=feed.every), 0, asks_to_wait(page, found))
        feed.save()
        if count or first:
            tell(feed.brand_id, "feed", feed.pk)
        if count:
            soon("check_articles")
            soon("round_of_relays")
    if page.moved and page.moved != feed.address:
        _moved(feed, page.moved)
    return count


def _keep(feed: Feed, found: Found, first: bool, now: datetime) -> int:
    known = {a.known_by: a for a in Article.objects.select_for_update().filter(feed=feed).defer("thumb")}
    _rename(feed, found, known)
    new = fresh(found.entries, known, first=False)
    # At the first reading all are merely known from then on: nothing old floods in.
    rows = [_article(feed, entry, now, is_fresh=not first) for entry in new]
    Article.objects.bulk_create(rows, ignore_conflicts=True)
    changed = []
    for entry in found.entries:
        article = known.get(_key(entry))
        if article is not None and _edited(article, entry):
            changed.append(article)
    Article.objects.bulk_update(
        changed, ["title", "link", "former_links", "summary", "author", "tags", "picture", "link_ok", "picture_ok"]
    )
    old = Article.objects.filter(feed=feed).order_by("-seen", "-pk").values_list("pk", flat=True)[_KEPT:]
    # What still stands in the feed stays known, or it would come as new again.
    still = {_key(entry) for entry in found.entries}
    Article.objects.filter(pk__in=list(old), shared=None).exclude(known_by__in=still).delete()
    return 0 if first else len(rows)


def _rename(feed: Feed, found: Found, known: dict[str, Article]) -> None:
    """An id that says nothing by itself was once kept as an address beside the feed's own: it is the same entry still."""
    renamed = []
    for entry in found.entries:
        before = _resolved_key(feed, entry.id.strip())
        if before in known and _key(entry) not in known:
            article = known.pop(before)
            article.known_by = _key(entry)
            known[article.known_by] = article
            renamed.append(article)
    Article.objects.bulk_update(renamed, ["known_by"])


def _resolved_key(feed: Feed, id: str) -> str:
    """The key under which an id was kept once; empty where it couldn't be resolved, since any text may be one."""
    try:
        return f"id:{urljoin(feed.address, id)}"[:600] if id else ""
    except ValueError:
        return ""


def _key(entry: Entry) -> str:
    return entry.known_by[:600]


def _article(feed: Feed, entry: Entry, now: datetime, is_fresh: bool) -> Article:
    return Article(
        feed=feed, known_by=_key(entry), title=entry.title, link=entry.link, summary=entry.summary, author=entry.author,
        at=entry.at, tags=list(entry.tags), picture=entry.picture, seen=now, fresh=is_fresh,
    )  # fmt: skip


def _edited(article: Article, entry: Entry) -> bool:
    """Take over what the entry says now; whether that is something else."""
    before = (article.title, article.link, article.summary, article.author, article.tags, article.picture)
    if article.link != entry.link:
        article.link_ok = None
        if article.link:
            article.former_links = [*article.former_links, article.link][-_FORMER:]
    if article.picture != entry.picture:
        article.picture_ok = None
    article.title, article.link, article.summary = entry.title, entry.link, entry.summary
    article.author, article.tags, article.picture = entry.author, list(entry.tags), entry.picture
    return before != (article.title, article.link, article.summary, article.author, article.tags, article.picture)


def _moved(feed: Feed, address: str) -> None:
    """It lives elsewhere from now on; where the brand follows that one already, this one stays as it is."""
    try:
        with transaction.atomic():
            Feed.objects.filter(pk=feed.pk).update(address=address[:1000])
    except IntegrityError:
        log.info("feed_moved_to_one_there_is", feed=feed.pk)


def _failed(feed: Feed, error: CantFetch | NoFeed, now: datetime) -> None:
    gone = isinstance(error, CantFetch) and error.status == _GONE
    wait = getattr(error, "wait", "")
    with transaction.atomic():
        feed = Feed.objects.select_for_update(of=("self",)).select_related("brand").get(pk=feed.pk)
        feed.fails += 1
        feed.trouble = "Its site says that it is gone for good." if gone else str(error)[:300]
        feed.gone = gone
        seconds = parse_whole_number(wait, _MOST_SECONDS)
        asked = timedelta(seconds=seconds) if seconds is not None else None
        feed.next_at = next_reading(now, timedelta(minutes=feed.every), feed.fails, asked)
        feed.save()
        if gone or feed.fails == TELL_AFTER:
            words = f"The feed {feed.title} can't be read. {feed.trouble}"
            tell_planners(feed.brand, "trouble", f"feed:{feed.pk}:{now:%Y%m%d}", words, "relays/feeds")
        tell(feed.brand_id, "feed", feed.pk)
