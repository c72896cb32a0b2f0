"""Routes for feeds and the reading shelf."""

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Status
from ninja.files import UploadedFile
from pydantic import Field

from menudo.base.problems import ERRORS, NotFound
from menudo.base.revisions import began_from
from menudo.base.rows import the_one
from menudo.feeds import reads, schemas
from menudo.feeds.actions import follow as following
from menudo.feeds.actions.remind import keep_reminder
from menudo.feeds.actions.share import share as share_articles
from menudo.feeds.models import Article
from menudo.people.capabilities import May
from menudo.people.here import Here, here

router = Router(tags=["feeds"])


@router.get("/brands/{brand}/feeds", response={200: list[schemas.FeedOut], **ERRORS}, operation_id="feeds")
def feeds(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The feeds that the brand follows, by title."""
    return reads.feeds(here(request, brand))


@router.post("/brands/{brand}/feeds", response={201: schemas.FeedOut, **ERRORS}, operation_id="followFeed")
def follow(request: HttpRequest, brand: str, data: schemas.FollowFeedIn) -> Status[dict[str, Any]]:
    """Follow the feed at an address, or the one that its page names. What stands in it now counts as old."""
    place = here(request, brand, May.WRITE)
    return Status(201, reads.feed(following.follow(place, data.address, data.shelved, data.every, data.title)))


@router.post(
    "/brands/{brand}/feeds/look", response={200: list[schemas.FeedOffer], **ERRORS}, operation_id="lookForFeeds"
)
def look(request: HttpRequest, brand: str, data: schemas.LookForIn) -> list[dict[str, Any]]:
    """The feeds at an address: itself, or those that its page names. Nothing is kept."""
    offers = following.look(here(request, brand, May.WRITE), data.address)
    return [
        {"address": o.address, "title": o.title, "entries": len(o.found.entries),
         "latest": [e.title or e.summary[:80] for e in o.found.entries[:3]]}
        for o in offers
    ]  # fmt: skip


@router.get("/brands/{brand}/feeds/opml", response={200: None, **ERRORS}, operation_id="feedsAsOpml")
def opml(request: HttpRequest, brand: str) -> HttpResponse:
    """The feeds as an OPML 2.0 file."""
    answer = HttpResponse(following.opml(here(request, brand)), content_type="text/x-opml; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="feeds.opml"'
    return answer


@router.post("/brands/{brand}/feeds/opml", response={200: schemas.OpmlOut, **ERRORS}, operation_id="bringOpml")
def bring(request: HttpRequest, brand: str, file: File[UploadedFile]) -> dict[str, Any]:
    """Follow every feed that an OPML file names; each is read soon."""
    made, left = following.bring_opml(here(request, brand, May.WRITE), file.read(2_000_001))
    return {"feeds": made, "left": left}


@router.put("/brands/{brand}/feeds/{id}", response={200: schemas.FeedOut, **ERRORS}, operation_id="changeFeed")
def change(request: HttpRequest, brand: str, id: int, data: schemas.FeedIn) -> dict[str, Any]:
    """A feed's title, how often it is read, and whether its articles stand on the shelf."""
    place = here(request, brand, May.WRITE)
    following.feed_of(place, id)
    return reads.feed(following.change(place, id, data.title, data.shelved, data.every, began_from(request)))


@router.delete("/brands/{brand}/feeds/{id}", response={204: None, **ERRORS}, operation_id="leaveFeed")
def leave(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Follow a feed no more; its relays go with it, what was posted of it stays."""
    following.leave(here(request, brand, May.WRITE), id)
    return Status(204, None)


@router.post("/brands/{brand}/feeds/{id}/read", response={200: schemas.FeedOut, **ERRORS}, operation_id="readFeed")
def read(request: HttpRequest, brand: str, id: int) -> dict[str, Any]:
    """Have it read at once, by a worker."""
    return reads.feed(following.read_soon(here(request, brand, May.WRITE), id))


@router.get("/brands/{brand}/shelf", response={200: schemas.ShelfOut, **ERRORS}, operation_id="shelf")
def shelf(
    request: HttpRequest, brand: str, words: str = "", feed: int | None = None, tag: str = "",
    page: Annotated[int, Field(ge=1, le=1000)] = 1,
) -> dict[str, Any]:  # fmt: skip
    """The reading shelf, the newest first; dead links left out, broken pictures not shown."""
    return reads.shelf(here(request, brand), words[:200], feed, tag[:100], page)


@router.post("/brands/{brand}/shelf/share", response={201: schemas.SharedOut, **ERRORS}, operation_id="shareArticles")
def share(request: HttpRequest, brand: str, data: schemas.ShareIn) -> Status[dict[str, Any]]:
    """A post for each article, with a remark over it; as drafts, or planned at the next free slots."""
    place = here(request, brand, May.WRITE)
    posts, left = share_articles(place, data.articles, data.remark, data.profiles, data.plans)
    return Status(201, {"posts": [post.pk for post in posts], "left": left})


@router.put("/brands/{brand}/shelf/reminder", response={204: None, **ERRORS}, operation_id="keepReminder")
def reminder(request: HttpRequest, brand: str, data: schemas.ReminderIO) -> Status[None]:
    """When one wants to be told of a few fresh articles. One's own."""
    keep_reminder(here(request, brand), data.weekdays, data.at)
    return Status(204, None)


@router.delete("/brands/{brand}/articles/{id}", response={204: None, **ERRORS}, operation_id="putAway")
def put_away(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Take an article off the shelf; it doesn't come back."""
    article = _article(here(request, brand, May.WRITE), id)
    Article.objects.filter(pk=article.pk).update(put_away=True)
    return Status(204, None)


@router.get("/brands/{brand}/articles/{id}/thumb", response={200: None, **ERRORS}, operation_id="articleThumb")
def thumb(request: HttpRequest, brand: str, id: int) -> HttpResponse:
    """The small copy of an article's picture."""
    article = _article(here(request, brand), id)
    if article.thumb is None:
        raise NotFound()
    answer = HttpResponse(bytes(article.thumb), content_type="image/webp")
    answer["Cache-Control"] = "private, max-age=86400"
    answer["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return answer


def _article(place: Here, id: int) -> Article:
    return the_one(Article.objects.filter(feed__brand=place.brand, pk=id))
