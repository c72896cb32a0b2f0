"""Look once whether an article's page and picture are there, and keep a small copy of the picture to show."""

import tempfile
from pathlib import Path

from menudo.base.apart import BrokenApartError, Limits, RefusedApartError, call_apart
from menudo.base.engine import enqueue_outward
from menudo.base.fetch import FetchError, fetch
from menudo.base.live import publish_change
from menudo.feeds.models import Article

# So many are put in line at once; what is left waits two minutes.
_BATCH_SIZE = 200
_MAX_BYTES = 8_000_000
_LIMITS = Limits(memory=1_500_000_000, file_size=5_000_000, seconds=20)


def enqueue_checks() -> int:
    """A job for each that wasn't looked at yet, the newest first. How many."""
    waiting = Article.objects.filter(link_ok=None, feed__shelved=True).exclude(link="")
    found = waiting.order_by("-is_new", "-seen_at", "-published_at").values_list("pk", "link")[:_BATCH_SIZE]
    return sum(
        enqueue_outward("check_article", f"article:{article_id}", link, article=article_id)
        for article_id, link in found
    )


def check_articles() -> int:
    """All of them now, one after another. How many."""
    ids = list(Article.objects.filter(link_ok=None, feed__shelved=True).exclude(link="").values_list("pk", flat=True))
    for article_id in ids:
        check_article(article_id)
    return len(ids)


def check_article(article_id: int) -> None:
    """Whether its page answers and its picture can be seen."""
    article = Article.objects.select_related("feed").filter(pk=article_id).first()
    if article is None:
        return
    ok, thumb = False, None
    try:
        ok = is_reachable(article.link)
        thumb = _fetch_thumbnail(article.picture) if article.picture else None
    finally:
        # Whatever breaks, it was looked at: what can't be read isn't read again and again.
        _save_check(article, ok, thumb)


def _save_check(article: Article, ok: bool, thumb: bytes | None) -> None:
    Article.objects.filter(pk=article.pk, link=article.link).update(
        link_ok=ok, picture_ok=thumb is not None if article.picture else None, thumb=thumb
    )
    publish_change(article.feed.brand_id, "feed", article.feed_id)


def is_reachable(address: str) -> bool:
    try:
        fetch(address, "text/html, */*;q=0.1", body=False)
    except FetchError:
        return False
    return True


def _fetch_thumbnail(address: str) -> bytes | None:
    """A small copy, None when it can't be fetched or read, or is too small to be a picture of anything."""
    try:
        data = fetch(address, "image/*", _MAX_BYTES).body
    except FetchError:
        return None
    with tempfile.TemporaryDirectory() as folder:
        source, out = Path(folder) / "picture", Path(folder) / "thumb"
        source.write_bytes(data)
        try:
            call_apart("menudo.feeds.thumbnails:make_thumbnail", str(source), str(out), limits=_LIMITS)
        except (RefusedApartError, BrokenApartError):
            return None
        return out.read_bytes()
