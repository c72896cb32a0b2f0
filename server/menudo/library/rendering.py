"""Draw a picture as a version shows it: turned, cropped, made to fit. The original stays untouched."""

import io
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

from PIL import Image

from menudo.library import files
from menudo.library.models import Asset
from menudo.library.picture_cleaning import FORMATS
from menudo_core.media.facts import MediaKind
from menudo_core.media.presentation import Box, MediaPresentation, cropped_size, fitted_size, needs_rendering
from menudo_core.networks.sheet import KindRule

_TURNS = {1: Image.Transpose.ROTATE_270, 2: Image.Transpose.ROTATE_180, 3: Image.Transpose.ROTATE_90}
_QUALITIES = (90, 82, 74, 66, 58)
_STEPS_DOWN = 12


@dataclass(frozen=True, slots=True)
class RenderedFile:
    """A file and its format (jpeg, png, webp, mp4): bytes where it was drawn anew, else where it lies."""

    source: bytes | Path
    format: str

    def open(self) -> BinaryIO:
        """For reading from its beginning; a file is never held whole in memory."""
        return self.source.open("rb") if isinstance(self.source, Path) else io.BytesIO(self.source)


def render_outgoing(asset: Asset, showing: MediaPresentation, rule: KindRule | None) -> RenderedFile:
    """The file a network gets. What isn't turned, cropped or fitted goes out byte for byte as it is kept."""
    whole = files.file_path(asset.sha256)
    if asset.kind != MediaKind.PICTURE or not needs_rendering(showing):
        return RenderedFile(whole, asset.format)
    with Image.open(whole, formats=list(FORMATS)) as image:
        image.load()
        profile = image.info.get("icc_profile")
        drawn = apply_presentation(image, showing.turn or 0, showing.crop)
    if showing.fit and rule is not None:
        size = fitted_size(drawn.width, drawn.height, rule)
        drawn = drawn if size == drawn.size else drawn.resize(size, Image.Resampling.LANCZOS)
    return _encode_within(drawn, _format_for(asset.format, rule), rule.max_bytes if rule else None, profile, rule)


def apply_presentation(image: Image.Image, turn: int, crop: Box | None) -> Image.Image:
    """The picture turned by quarters clockwise, then cropped; whole pixels as the core counts them."""
    if turn % 4:
        image = image.transpose(_TURNS[turn % 4])
    if crop is None or crop.is_whole:
        return image
    width, height = cropped_size(image.width, image.height, crop)
    left, top = (
        min(round(image.width * crop.x), image.width - width),
        min(round(image.height * crop.y), image.height - height),
    )
    return image.crop((left, top, left + width, top + height))


def render_preview(asset: Asset, turn: int, crop: Box | None, width: int) -> bytes:
    """A WebP of the picture as shown, at most `width` pixels wide; never wider than it is."""
    with Image.open(files.file_path(asset.sha256), formats=list(FORMATS)) as image:
        image.draft("RGB", (width * 2, width * 2))
        # A draft keeps the shape, so that parts are parts of the same picture.
        drawn = apply_presentation(image.convert("RGBA" if _has_transparency(image) else "RGB"), turn, crop)
    if drawn.width > width:
        drawn = drawn.resize((width, max(1, round(drawn.height * width / drawn.width))), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    drawn.save(out, "WEBP", quality=82)
    return out.getvalue()


def _format_for(present: str, rule: KindRule | None) -> str:
    if rule is None or present in rule.formats:
        return present
    return next((one for one in rule.formats if one in ("jpeg", "png", "webp")), present)


def _has_transparency(image: Image.Image) -> bool:
    return image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info


def _encode_within(
    image: Image.Image, fmt: str, most: int | None, icc: bytes | None, rule: KindRule | None
) -> RenderedFile:
    """Encoded in at most `most` bytes: quality goes first, then pixels."""
    if fmt == "jpeg" and _has_transparency(image):
        ground = Image.new("RGB", image.size, "#ffffff")
        ground.paste(image.convert("RGBA"), mask=image.convert("RGBA").getchannel("A"))
        image = ground
    elif image.mode not in ("RGB", "RGBA", "L", "LA"):
        image = image.convert("RGBA" if _has_transparency(image) else "RGB")
    for _ in range(_STEPS_DOWN):
        for quality in _QUALITIES if fmt != "png" else _QUALITIES[:1]:
            data = _encode(image, fmt, quality, icc)
            if most is None or len(data) <= most:
                return RenderedFile(data, fmt)
        if fmt == "png" and rule is not None and "jpeg" in rule.formats and not _has_transparency(image):
            fmt = "jpeg"
            continue
        least = (rule.min_width or 1, rule.min_height or 1) if rule else (1, 1)
        size = max(least[0], int(image.width * 0.8)), max(least[1], int(image.height * 0.8))
        image = image.resize(size, Image.Resampling.LANCZOS)
    return RenderedFile(data, fmt)


def _encode(image: Image.Image, fmt: str, quality: int, icc: bytes | None) -> bytes:
    out = io.BytesIO()
    how = {"icc_profile": icc} if icc else {}
    image.save(out, fmt.upper(), **({"optimize": True} if fmt == "png" else {"quality": quality}), **how)
    return out.getvalue()
