"""Read a feed: what is new in it is kept, once."""

from datetime import datetime, timedelta
from urllib.parse import urljoin

import structlog
from django.db import IntegrityError, transaction

from menudo.base import clock
from menudo.base.engine import enqueue
from menudo.base.fetch import FetchError, Page, fetch
from menudo.base.live import publish_change
from menudo.base.numbers import parse_whole_number
from menudo.base.sentences import say
from menudo.feeds.feed_parser import ACCEPT, NotAFeedError, ParsedFeed, parse_feed, requested_wait
from menudo.feeds.models import Article, Feed
from menudo.people.actions.notify_planners import notify_planners
from menudo_core.feeds.entry import Entry, new_entries
from menudo_core.feeds.pace import NOTIFY_AFTER_FAILURES, next_poll_at

log = structlog.get_logger(__name__)
# More than these of one feed aren't kept; the oldest go first.
_KEPT = 500
_GONE = 410
# Former addresses of one article.
_FORMER = 20
_MOST_SECONDS = 30 * 24 * 3600


def poll_feed(feed_id: int) -> int:
    """Ask the feed's site, keep what is new, and note when to ask again. How many articles were new."""
    feed = Feed.objects.select_related("brand").filter(pk=feed_id, is_gone=False).first()
    if feed is None:
        return 0
    now = clock.now()
    try:
        page = fetch(feed.address, ACCEPT, validators=(feed.etag, feed.modified))
        found = None if page.unchanged else parse_feed(page, now)
    except (FetchError, NotAFeedError) as error:
        _note_failure(feed, error, now)
        return 0
    except Exception:
        # Ours to mend; until then it is asked ever more seldom, as any that can't be read.
        _note_failure(feed, NotAFeedError("Menudo broke over what its site sent."), now)
        raise
    return apply_reading(feed, page, found, now)


def apply_reading(feed: Feed, page: Page, found: ParsedFeed | None, now: datetime) -> int:
    """Keep what a reading found (None: nothing has changed). How many articles were new."""
    count = 0
    with transaction.atomic():
        feed = Feed.objects.select_for_update(no_key=True).get(pk=feed.pk)
        first = feed.read_at is None
        if found is not None:
            count = _save_entries(feed, found, first, now)
            feed.language = found.language
            feed.etag, feed.modified = page.validators
        feed.read_at, feed.failure_count, feed.last_error = now, 0, ""
        feed.next_at = next_poll_at(now, timedelta(minutes=feed.interval_minutes), 0, requested_wait(page, found))
        feed.save()
        if count or first:
            publish_change(feed.brand_id, "feed", feed.pk)
        if count:
            enqueue("check_articles")
            enqueue("round_of_relays")
    if page.moved and page.moved != feed.address:
        _change_address(feed, page.moved)
    return count


def _save_entries(feed: Feed, found: ParsedFeed, first: bool, now: datetime) -> int:
    known = {a.entry_key: a for a in Article.objects.select_for_update(no_key=True).filter(feed=feed).defer("thumb")}
    _rekey_articles(feed, found, known)
    new = new_entries(found.entries, known, first=False)
    # At the first reading all are merely known from then on: nothing old floods in.
    rows = [_article_from(feed, entry, now, is_fresh=not first) for entry in new]
    Article.objects.bulk_create(rows, ignore_conflicts=True)
    changed = []
    for entry in found.entries:
        article = known.get(_entry_key(entry))
        if article is not None and _apply_edit(article, entry):
            changed.append(article)
    Article.objects.bulk_update(
        changed, ["title", "link", "former_links", "summary", "author", "tags", "picture", "link_ok", "picture_ok"]
    )
    old = Article.objects.filter(feed=feed).order_by("-seen_at", "-pk").values_list("pk", flat=True)[_KEPT:]
    # What still stands in the feed stays known, or it would come as new again.
    still = {_entry_key(entry) for entry in found.entries}
    Article.objects.filter(pk__in=list(old), shared_at=None).exclude(entry_key__in=still).delete()
    return 0 if first else len(rows)


def _rekey_articles(feed: Feed, found: ParsedFeed, known: dict[str, Article]) -> None:
    """An id that says nothing by itself was once kept as an address beside the feed's own: it is the same entry still."""
    renamed = []
    for entry in found.entries:
        before = _resolved_key(feed, entry.id.strip())
        if before in known and _entry_key(entry) not in known:
            article = known.pop(before)
            article.entry_key = _entry_key(entry)
            known[article.entry_key] = article
            renamed.append(article)
    Article.objects.bulk_update(renamed, ["entry_key"])


def _resolved_key(feed: Feed, entry_id: str) -> str:
    """The key under which an id was kept once; empty where it couldn't be resolved, since any text may be one."""
    try:
        return f"id:{urljoin(feed.address, entry_id)}"[:600] if entry_id else ""
    except ValueError:
        return ""


def _entry_key(entry: Entry) -> str:
    return entry.entry_key[:600]


def _article_from(feed: Feed, entry: Entry, now: datetime, is_fresh: bool) -> Article:
    return Article(
        feed=feed,
        entry_key=_entry_key(entry),
        title=entry.title,
        link=entry.link,
        summary=entry.summary,
        author=entry.author,
        published_at=entry.at,
        tags=list(entry.tags),
        picture=entry.picture,
        seen_at=now,
        is_new=is_fresh,
    )


def _apply_edit(article: Article, entry: Entry) -> bool:
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


def _change_address(feed: Feed, address: str) -> None:
    """It lives elsewhere from now on; where the brand follows that one already, this one stays as it is."""
    try:
        with transaction.atomic():
            Feed.objects.filter(pk=feed.pk).update(address=address[:1000])
    except IntegrityError:
        log.info("feed.moved", feed=feed.pk)


def _note_failure(feed: Feed, error: FetchError | NotAFeedError, now: datetime) -> None:
    gone = isinstance(error, FetchError) and error.status == _GONE
    wait = getattr(error, "wait", "")
    with transaction.atomic():
        feed = Feed.objects.select_for_update(of=("self",), no_key=True).select_related("brand").get(pk=feed.pk)
        feed.failure_count += 1
        feed.last_error = "Its site says that it is gone for good." if gone else str(error)[:300]
        feed.is_gone = gone
        seconds = parse_whole_number(wait, _MOST_SECONDS)
        asked = timedelta(seconds=seconds) if seconds is not None else None
        feed.next_at = next_poll_at(now, timedelta(minutes=feed.interval_minutes), feed.failure_count, asked)
        feed.save()
        if gone or feed.failure_count == NOTIFY_AFTER_FAILURES:
            told = say("feed.failing", name=feed.title, reason=feed.last_error)
            notify_planners(feed.brand, "trouble", f"feed:{feed.pk}:{now:%Y%m%d}", told, "relays/feeds")
        publish_change(feed.brand_id, "feed", feed.pk)
