"""The files themselves, and pictures drawn from them, only for those who may see the brand."""

import io

from django.http import FileResponse, HttpRequest, HttpResponseBase

from menudo.base.problems import NotFound
from menudo.library import files, video
from menudo.library.models import Asset
from menudo.library.reads import asset
from menudo.library.rendering import preview
from menudo.people.here import here
from menudo_core.media.facts import MediaKind
from menudo_core.media.showing import Box

_WIDEST = 1600


def picture(request: HttpRequest, brand: str, id: int, part: str) -> HttpResponseBase:
    """`whole`, `thumb`, `shown` (?turn=1&crop=x,y,w,h&w=480) or `frame` (?at=1.5&w=480). Raises NotFound."""
    if not request.user.is_authenticated:
        raise NotFound()
    return picture_of(request, asset(here(request, brand), id), part)


def picture_of(request: HttpRequest, found: Asset, part: str) -> HttpResponseBase:
    """A part of an asset that the one who asks may see."""
    response: HttpResponseBase
    if part == "shown" and found.kind == MediaKind.PICTURE:
        response = _drawn(preview(found, *_asked(request)))
    elif part == "frame" and found.kind == MediaKind.VIDEO:
        response = _drawn(_frame(found, _number(request, "at", 0, 100_000), _width(request)))
    else:
        kept = "thumb" if part in ("shown", "frame") else part
        content_type = (
            "image/webp" if kept == "thumb" else f"{'video' if found.kind == 'video' else 'image'}/{found.format}"
        )
        response = FileResponse(files.path(found.sha256, kept).open("rb"), content_type=content_type)
    response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    response.headers["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return response


def _drawn(data: bytes) -> FileResponse:
    return FileResponse(io.BytesIO(data), content_type="image/webp")


def _asked(request: HttpRequest) -> tuple[int, Box | None, int]:
    crop = request.GET.get("crop", "")
    try:
        parts = [float(one) for one in crop.split(",")] if crop else [0.0, 0.0, 1.0, 1.0]
        box = Box(*parts)
    except (ValueError, TypeError) as error:
        raise NotFound() from error
    if not (0 <= box.x < 1 and 0 <= box.y < 1 and 0 < box.w <= 1 and 0 < box.h <= 1):
        raise NotFound()
    return int(_number(request, "turn", 0, 3)), box, _width(request)


def _width(request: HttpRequest) -> int:
    return int(_number(request, "w", 1, _WIDEST, 480))


def _number(request: HttpRequest, name: str, least: float, most: float, otherwise: float = 0) -> float:
    try:
        value = float(request.GET.get(name, otherwise))
    except ValueError as error:
        raise NotFound() from error
    if not least <= value <= most:
        raise NotFound()
    return value


def _frame(found: Asset, at: float, width: int) -> bytes:
    return video.as_webp(video.frame_at(files.path(found.sha256), at), (width, _WIDEST * 2))
