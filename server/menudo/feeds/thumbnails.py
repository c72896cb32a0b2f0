"""A small copy of an article's picture: what runs in a process of its own (base/apart.py)."""

from pathlib import Path

from PIL import Image, ImageOps

from menudo.base.apart import RefusedApartError
from menudo.library.picture_cleaning import FORMATS

_SIZE = (360, 240)
_SMALL = 100
_MAX_PIXELS = 60_000_000


def make_thumbnail(source: str, out: str) -> None:
    """Write a small copy (WebP). Raises RefusedApartError for what can't be read, or is too small to be a picture of anything."""
    try:
        with Image.open(source, formats=list(FORMATS)) as image:
            if min(image.size) < _SMALL or image.width * image.height > _MAX_PIXELS:
                raise RefusedApartError("is too small or too large")
            image.draft("RGB", (_SIZE[0] * 2, _SIZE[1] * 2))
            whole = ImageOps.exif_transpose(image).convert("RGB")
    except (OSError, ValueError, SyntaxError, EOFError, IndexError) as error:
        raise RefusedApartError("can't be read") from error
    whole.info = {}
    ImageOps.fit(whole, _SIZE).save(Path(out), "WEBP", quality=78)
