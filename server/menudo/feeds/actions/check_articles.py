"""Look once whether an article's page and picture are there, and keep a small copy of the picture to show."""

import io

from PIL import Image, ImageOps

from menudo.base.fetch import CantFetch, fetch
from menudo.base.live import tell_all
from menudo.feeds.models import Article

_AT_ONCE = 16
_THUMB = (360, 240)
_MOST_BYTES, _MOST_PIXELS = 8_000_000, 60_000_000
_SMALL = 100


def check_articles() -> int:
    """The newest that weren't looked at yet. How many were."""
    waiting = Article.objects.filter(link_ok=None, feed__shelved=True).exclude(link="").select_related("feed")
    found = list(waiting.order_by("-fresh", "-seen", "-at")[:_AT_ONCE])
    for article in found:
        check(article)
    for brand in {a.feed.brand_id for a in found}:
        tell_all(brand, "feed", sorted({a.feed_id for a in found if a.feed.brand_id == brand}))
    return len(found)


def check(article: Article) -> None:
    """Whether its page answers and its picture can be seen."""
    ok = _answers(article.link)
    thumb = _thumb(article.picture) if article.picture else None
    Article.objects.filter(pk=article.pk, link=article.link).update(
        link_ok=ok, picture_ok=thumb is not None if article.picture else None, thumb=thumb
    )


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
