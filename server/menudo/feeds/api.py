"""Routes for feeds and the reading shelf."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Status
from ninja.files import UploadedFile
from pydantic import Field

from menudo.base.problems import NotFoundError
from menudo.base.revisions import if_match_revision
from menudo.base.rows import first_or_404
from menudo.feeds import queries, schemas
from menudo.feeds.actions import follow_feed as following
from menudo.feeds.actions.send_reminders import save_reminder
from menudo.feeds.actions.share_articles import share_articles
from menudo.feeds.models import Article
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext, brand_context

router = Router(tags=["feeds"])


@router.get("/brands/{brand}/feeds", response=list[schemas.FeedOut], operation_id="feeds")
def list_feeds(request: HttpRequest, brand: str) -> list[schemas.FeedOut]:
    """The feeds that the brand follows, by title."""
    return queries.feed_list(brand_context(request, brand))


@router.post("/brands/{brand}/feeds", response={201: schemas.FeedOut}, operation_id="followFeed")
def create_feed(request: HttpRequest, brand: str, data: schemas.FollowFeedIn) -> Status[schemas.FeedOut]:
    """Follow the feed at an address, or the one that its page names. What stands in it now counts as old."""
    context = brand_context(request, brand, Capability.WRITE)
    return Status(
        201,
        queries.feed_out(following.follow_feed(context, data.address, data.shelved, data.interval_minutes, data.title)),
    )


@router.post("/brands/{brand}/feeds/find", response=list[schemas.FeedOffer], operation_id="findFeeds")
def find_feeds_at(request: HttpRequest, brand: str, data: schemas.LookForIn) -> list[schemas.FeedOffer]:
    """The feeds at an address: itself, or those that its page names. Nothing is kept."""
    offers = following.find_feeds(brand_context(request, brand, Capability.WRITE), data.address)
    return [
        schemas.FeedOffer(
            address=o.address,
            title=o.title,
            entries=len(o.found.entries),
            latest=[e.title or e.summary[:80] for e in o.found.entries[:3]],
        )
        for o in offers
    ]


@router.get("/brands/{brand}/feeds/opml", response={200: None}, operation_id="feedsAsOpml")
def download_opml(request: HttpRequest, brand: str) -> HttpResponse:
    """The feeds as an OPML 2.0 file."""
    answer = HttpResponse(
        following.export_opml(brand_context(request, brand)), content_type="text/x-opml; charset=utf-8"
    )
    answer["Content-Disposition"] = 'attachment; filename="feeds.opml"'
    return answer


@router.post("/brands/{brand}/feeds/opml", response=schemas.OpmlOut, operation_id="importOpml")
def upload_opml(request: HttpRequest, brand: str, file: File[UploadedFile]) -> schemas.OpmlOut:
    """Follow every feed that an OPML file names; each is read soon."""
    made, left = following.import_opml(
        brand_context(request, brand, Capability.WRITE), file.read(following.MAX_OPML_BYTES + 1)
    )
    return schemas.OpmlOut(feeds=made, left=left)


@router.put("/brands/{brand}/feeds/{feed_id}", response=schemas.FeedOut, operation_id="updateFeed")
def update_feed(request: HttpRequest, brand: str, feed_id: int, data: schemas.FeedIn) -> schemas.FeedOut:
    """A feed's title, how often it is read, and whether its articles stand on the shelf."""
    context = brand_context(request, brand, Capability.WRITE)
    following.feed_of(context, feed_id)
    return queries.feed_out(
        following.change_feed(
            context, feed_id, data.title, data.shelved, data.interval_minutes, if_match_revision(request)
        )
    )


@router.delete("/brands/{brand}/feeds/{feed_id}", response={204: None}, operation_id="unfollowFeed")
def destroy_feed(request: HttpRequest, brand: str, feed_id: int) -> Status[None]:
    """Follow a feed no more; its relays go with it, what was posted of it stays."""
    following.unfollow(brand_context(request, brand, Capability.WRITE), feed_id)
    return Status(204, None)


@router.post("/brands/{brand}/feeds/{feed_id}/read", response=schemas.FeedOut, operation_id="pollFeed")
def poll_now(request: HttpRequest, brand: str, feed_id: int) -> schemas.FeedOut:
    """Have it read at once, by a worker."""
    return queries.feed_out(following.poll_soon(brand_context(request, brand, Capability.WRITE), feed_id))


@router.get("/brands/{brand}/shelf", response=schemas.ShelfOut, operation_id="shelf")
def get_shelf(
    request: HttpRequest,
    brand: str,
    words: str = "",
    feed: int | None = None,
    tag: str = "",
    page: Annotated[int, Field(ge=1, le=1000)] = 1,
) -> schemas.ShelfOut:
    """The reading shelf, the newest first; dead links left out, broken pictures not shown."""
    return queries.shelf_page(brand_context(request, brand), words[:200], feed, tag[:100], page)


@router.post("/brands/{brand}/shelf/share", response={201: schemas.SharedOut}, operation_id="shareArticles")
def create_shared_posts(request: HttpRequest, brand: str, data: schemas.ShareIn) -> Status[schemas.SharedOut]:
    """A post for each article, with a remark over it; as drafts, or planned at the next free slots."""
    context = brand_context(request, brand, Capability.WRITE)
    posts, left = share_articles(context, data.articles, data.remark, data.profiles, data.plans)
    return Status(201, schemas.SharedOut(posts=[post.pk for post in posts], left=left))


@router.put("/brands/{brand}/shelf/reminder", response={204: None}, operation_id="saveReminder")
def update_reminder(request: HttpRequest, brand: str, data: schemas.ReminderIO) -> Status[None]:
    """When one wants to be told of a few fresh articles. One's own."""
    save_reminder(brand_context(request, brand), data.weekdays, data.at)
    return Status(204, None)


@router.delete("/brands/{brand}/articles/{article_id}", response={204: None}, operation_id="putAway")
def put_article_away(request: HttpRequest, brand: str, article_id: int) -> Status[None]:
    """Take an article off the shelf; it doesn't come back."""
    article = _article_of(brand_context(request, brand, Capability.WRITE), article_id)
    Article.objects.filter(pk=article.pk).update(put_away=True)
    return Status(204, None)


@router.get("/brands/{brand}/articles/{article_id}/thumb", response={200: None}, operation_id="articleThumb")
def get_thumbnail(request: HttpRequest, brand: str, article_id: int) -> HttpResponse:
    """The small copy of an article's picture."""
    article = _article_of(brand_context(request, brand), article_id)
    if article.thumb is None:
        raise NotFoundError()
    answer = HttpResponse(bytes(article.thumb), content_type="image/webp")
    answer["Cache-Control"] = "private, max-age=86400"
    answer["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return answer


def _article_of(context: BrandContext, article_id: int) -> Article:
    return first_or_404(Article.objects.filter(feed__brand=context.brand, pk=article_id))
