"""Look once whether an article's page and picture are there, and keep a small copy of the picture to show."""

import io

from PIL import Image, ImageOps

from menudo.base.engine import outward
from menudo.base.fetch import CantFetch, fetch
from menudo.base.live import tell
from menudo.feeds.models import Article

# So many are put in line at once; what is left waits two minutes.
_AT_ONCE = 200
_THUMB = (360, 240)
_MOST_BYTES, _MOST_PIXELS = 8_000_000, 60_000_000
_SMALL = 100


def put_checks() -> int:
    """A job for each that wasn't looked at yet, the newest first. How many."""
    waiting = Article.objects.filter(link_ok=None, feed__shelved=True).exclude(link="")
    found = waiting.order_by("-fresh", "-seen", "-at").values_list("pk", "link")[:_AT_ONCE]
    return sum(outward("check_article", f"article:{id}", link, article=id) for id, link in found)


def check_articles() -> int:
    """All of them now, one after another. How many."""
    ids = list(Article.objects.filter(link_ok=None, feed__shelved=True).exclude(link="").values_list("pk", flat=True))
    for id in ids:
        check_article(id)
    return len(ids)


def check_article(id: int) -> None:
    """Whether its page answers and its picture can be seen."""
    article = Article.objects.select_related("feed").filter(pk=id).first()
    if article is None:
        return
    ok, thumb = False, None
    try:
        ok = _answers(article.link)
        thumb = _thumb(article.picture) if article.picture else None
    finally:
        # Whatever breaks, it was looked at: what can't be read isn't read again and again.
        _note(article, ok, thumb)


def _note(article: Article, ok: bool, thumb: bytes | None) -> None:
    Article.objects.filter(pk=article.pk, link=article.link).update(
        link_ok=ok, picture_ok=thumb is not None if article.picture else None, thumb=thumb
    )
    tell(article.feed.brand_id, "feed", article.feed_id)


def _answers(address: str) -> bool:
    try:
        fetch(address, "text/html, */*;q=0.1", body=False)
    except CantFetch:
        return False
    return True


def _thumb(address: str) -> bytes | None:
    """A small copy, None when it can't be fetched or read, or is too small to be a picture of anything."""
    try:
        data = fetch(address, "image/*", _MOST_BYTES).body
        with Image.open(io.BytesIO(data)) as image:
            if min(image.size) < _SMALL or image.width * image.height > _MOST_PIXELS:
                return None
            image.draft("RGB", (_THUMB[0] * 2, _THUMB[1] * 2))
            whole = ImageOps.exif_transpose(image).convert("RGB")
    except (CantFetch, OSError, ValueError, SyntaxError):
        return None
    out = io.BytesIO()
    ImageOps.fit(whole, _THUMB).save(out, "WEBP", quality=78)
    return out.getvalue()
