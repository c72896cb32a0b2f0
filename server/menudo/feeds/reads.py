"""Feeds and the shelf as pages need them."""

from datetime import datetime
from typing import Any

from django.db.models import Count, Max, Q, QuerySet
from django.db.models.functions import Coalesce

from menudo.feeds.models import Article, Feed, ShelfReminder
from menudo.people.here import Here
from menudo.people.models import Brand

_MOST = 60


def feeds(place: Here) -> list[dict[str, Any]]:
    """The brand's feeds: one statement."""
    rows = Feed.objects.filter(brand=place.brand).annotate(
        count=Count("articles"), fresh=Count("articles", Q(articles__fresh=True)), last=Max("articles__at")
    )
    rows = rows.order_by("title", "pk")
    return [feed(one) for one in rows]


def feed(one: Feed) -> dict[str, Any]:
    return {
        "id": one.pk, "revision": one.revision, "title": one.title, "address": one.address, "site": one.site, "shelved": one.shelved,
        "every": one.every, "read_at": one.read_at, "next_at": None if one.gone else one.next_at, "trouble": one.trouble,
        "gone": one.gone, "articles": getattr(one, "count", 0), "fresh": getattr(one, "fresh", 0),
        "last": getattr(one, "last", None),
    }  # fmt: skip


def on_shelf(brand: Brand, since: datetime | None = None) -> QuerySet[Article]:
    """What stands on a brand's shelf, the newest first: dead links, and what was put away or shared, left out."""
    rows = Article.objects.filter(feed__brand=brand, feed__shelved=True, put_away=False, shared=None)
    rows = rows.exclude(link_ok=False).exclude(link="").exclude(title="")
    if since is not None:
        rows = rows.filter(seen__gte=since, link_ok=True)
    return rows.select_related("feed").order_by(Coalesce("at", "seen").desc(), "-pk")


def shelf(place: Here, words: str, feed_id: int | None, tag: str, page: int) -> dict[str, Any]:
    """A page of the shelf, its tags, and the person's reminder: a fixed number of statements."""
    rows = on_shelf(place.brand)
    if feed_id is not None:
        rows = rows.filter(feed=feed_id)
    for word in words.split()[:8]:
        rows = rows.filter(Q(title__icontains=word) | Q(summary__icontains=word) | Q(author__icontains=word))
    if tag:
        rows = rows.filter(tags__contains=[tag])
    start = (page - 1) * _MOST
    found = list(rows.defer("thumb")[start : start + _MOST + 1])
    reminder = ShelfReminder.objects.filter(brand=place.brand, user=place.user).first()
    return {
        "articles": [article(one) for one in found[:_MOST]], "more": len(found) > _MOST,
        "tags": sorted({tag for one in found for tag in one.tags}, key=str.casefold)[:60],
        "reminder": {"weekdays": reminder.weekdays, "at": reminder.at} if reminder else None,
    }  # fmt: skip


def article(one: Article) -> dict[str, Any]:
    """A picture that is broken isn't shown, and one that nobody looked at yet isn't either."""
    return {
        "id": one.pk, "feed": one.feed_id, "from_feed": one.feed.title, "title": one.title, "link": one.link,
        "summary": one.summary[:400], "author": one.author, "at": one.at, "tags": one.tags,
        "has_thumb": bool(one.picture_ok),
    }  # fmt: skip
