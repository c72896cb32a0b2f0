"""The files themselves, and pictures drawn from them, only for those who may see the brand."""

import io

from django.http import FileResponse, HttpRequest, HttpResponseBase

from menudo.base.problems import NotFoundError
from menudo.library import files
from menudo.library.media_preparation import UnreadableMediaError
from menudo.library.models import Asset
from menudo.library.queries import asset_of
from menudo.library.rendering import render_preview
from menudo.library.video_frames import draw_frame
from menudo.people.context import brand_context
from menudo_core.media.facts import MediaKind
from menudo_core.media.presentation import Box

_MAX_WIDTH = 1600


def serve_picture(request: HttpRequest, brand: str, asset_id: int, part: str) -> HttpResponseBase:
    """`whole`, `thumb`, `shown` (?turn=1&crop=x,y,w,h&w=480) or `frame` (?at=1.5&w=480). Raises NotFoundError."""
    if not request.user.is_authenticated:
        raise NotFoundError()
    return picture_response(request, asset_of(brand_context(request, brand), asset_id), part)


def picture_response(request: HttpRequest, found: Asset, part: str) -> HttpResponseBase:
    """A part of an asset that the one who asks may see."""
    response: HttpResponseBase
    if part == "shown" and found.kind == MediaKind.PICTURE:
        response = _webp_response(render_preview(found, *_requested_presentation(request)))
    elif part == "frame" and found.kind == MediaKind.VIDEO:
        response = _webp_response(
            _video_frame(found, _query_number(request, "at", 0, 100_000), _requested_width(request))
        )
    else:
        kept = "thumb" if part in ("shown", "frame") else part
        content_type = (
            "image/webp" if kept == "thumb" else f"{'video' if found.kind == 'video' else 'image'}/{found.format}"
        )
        response = FileResponse(files.file_path(found.sha256, kept).open("rb"), content_type=content_type)
    response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    response.headers["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return response


def _webp_response(data: bytes) -> FileResponse:
    return FileResponse(io.BytesIO(data), content_type="image/webp")


def _requested_presentation(request: HttpRequest) -> tuple[int, Box | None, int]:
    crop = request.GET.get("crop", "")
    try:
        parts = [float(one) for one in crop.split(",")] if crop else [0.0, 0.0, 1.0, 1.0]
        box = Box(*parts)
    except (ValueError, TypeError) as error:
        raise NotFoundError() from error
    if not (0 <= box.x < 1 and 0 <= box.y < 1 and 0 < box.w <= 1 and 0 < box.h <= 1):
        raise NotFoundError()
    return int(_query_number(request, "turn", 0, 3)), box, _requested_width(request)


def _requested_width(request: HttpRequest) -> int:
    return int(_query_number(request, "w", 1, _MAX_WIDTH, 480))


def _query_number(request: HttpRequest, name: str, least: float, most: float, otherwise: float = 0) -> float:
    try:
        value = float(request.GET.get(name, otherwise))
    except ValueError as error:
        raise NotFoundError() from error
    if not least <= value <= most:
        raise NotFoundError()
    return value


def _video_frame(found: Asset, at: float, width: int) -> bytes:
    try:
        return draw_frame(files.file_path(found.sha256), at, "WEBP", (width, _MAX_WIDTH * 2))
    except UnreadableMediaError as error:
        raise NotFoundError() from error
