"""Feeds and the shelf as pages need them."""

from datetime import datetime

from django.db.models import Count, Max, Q, QuerySet
from django.db.models.functions import Coalesce

from menudo.feeds import schemas
from menudo.feeds.models import Article, Feed, ShelfReminder
from menudo.people.context import BrandContext
from menudo.people.models import Brand

_PAGE_SIZE = 60


def feed_list(context: BrandContext) -> list[schemas.FeedOut]:
    """The brand's feeds: one statement."""
    rows = Feed.objects.filter(brand=context.brand).annotate(
        count=Count("articles"), fresh=Count("articles", Q(articles__is_new=True)), last=Max("articles__published_at")
    )
    rows = rows.order_by("title", "pk")
    return [feed_out(one) for one in rows]


def feed_out(one: Feed) -> schemas.FeedOut:
    return schemas.FeedOut(
        id=one.pk,
        revision=one.revision,
        title=one.title,
        address=one.address,
        site=one.site,
        shelved=one.shelved,
        interval_minutes=one.interval_minutes,
        read_at=one.read_at,
        next_at=None if one.is_gone else one.next_at,
        last_error=one.last_error,
        is_gone=one.is_gone,
        articles=getattr(one, "count", 0),
        new_articles=getattr(one, "fresh", 0),
        last=getattr(one, "last", None),
    )


def shelved_articles(brand: Brand, since: datetime | None = None) -> QuerySet[Article]:
    """What stands on a brand's shelf, the newest first: dead links, and what was put away or shared, left out."""
    rows = Article.objects.filter(feed__brand=brand, feed__shelved=True, put_away=False, shared_at=None)
    rows = rows.exclude(link_ok=False).exclude(link="").exclude(title="")
    if since is not None:
        rows = rows.filter(seen_at__gte=since, link_ok=True)
    return rows.select_related("feed").order_by(Coalesce("published_at", "seen_at").desc(), "-pk")


def shelf_page(context: BrandContext, words: str, feed_id: int | None, tag: str, page: int) -> schemas.ShelfOut:
    """A page of the shelf, its tags, and the person's reminder: a fixed number of statements."""
    rows = shelved_articles(context.brand)
    if feed_id is not None:
        rows = rows.filter(feed=feed_id)
    for word in words.split()[:8]:
        rows = rows.filter(Q(title__icontains=word) | Q(summary__icontains=word) | Q(author__icontains=word))
    if tag:
        rows = rows.filter(tags__contains=[tag])
    start = (page - 1) * _PAGE_SIZE
    found = list(rows.defer("thumb")[start : start + _PAGE_SIZE + 1])
    reminder = ShelfReminder.objects.filter(brand=context.brand, user=context.user).first()
    return schemas.ShelfOut(
        articles=[article_out(one) for one in found[:_PAGE_SIZE]],
        more=len(found) > _PAGE_SIZE,
        tags=sorted({tag for one in found for tag in one.tags}, key=str.casefold)[:60],
        reminder=schemas.ReminderIO(weekdays=reminder.weekdays, at=reminder.at) if reminder else None,
    )


def article_out(one: Article) -> schemas.ArticleOut:
    """A picture that is broken isn't shown, and one that nobody looked at yet isn't either."""
    return schemas.ArticleOut(
        id=one.pk,
        feed=one.feed_id,
        from_feed=one.feed.title,
        title=one.title,
        link=one.link,
        summary=one.summary[:400],
        author=one.author,
        published_at=one.published_at,
        tags=one.tags,
        has_thumb=bool(one.picture_ok),
    )
