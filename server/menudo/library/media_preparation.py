"""Reading a file that someone sent: what it really is, upright, and clean."""

import io
import warnings
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice
from pathlib import Path

from django.conf import settings
from PIL import Image, ImageOps, ImageSequence, UnidentifiedImageError

from menudo.library import video
from menudo_core.media.facts import MediaKind
from menudo_core.media.shapes import format_bytes

_FORMATS = {"JPEG": "jpeg", "PNG": "png", "WEBP": "webp", "GIF": "gif"}
_BEGINNINGS = (b"\xff\xd8\xff", b"\x89PNG\r\n\x1a\n", b"GIF8", b"RIFF")
_THUMB = (480, 480)
_MAX_FRAMES = 600
# The guard below is ours and comes first; Pillow's own must not answer in its place.
Image.MAX_IMAGE_PIXELS = None


class UnreadableMediaError(ValueError):
    """The file can't be taken; the text says why, for people."""


@dataclass(frozen=True, slots=True)
class PreparedMedia:
    """A file ready to keep: clean, as bytes or (a video) where it lies in the workspace; its size in bytes and its facts,
    and a small picture of it (WebP)."""

    source: bytes | Path
    size: int
    kind: MediaKind
    format: str
    width: int
    height: int
    seconds: float | None
    thumb: bytes
    codec: str = ""


def prepare_picture(data: bytes, name: str) -> PreparedMedia:
    """Decode, turn upright (EXIF orientation), drop metadata and re-encode. Raises UnreadableMediaError.

    The type is found by content; the name is only used in the words.
    """
    if not data:
        raise UnreadableMediaError(f"“{name}” is empty.")
    require_size(len(data), name)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(data), formats=list(_FORMATS))
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        if data.startswith(_BEGINNINGS):
            raise UnreadableMediaError(_damaged_message(name)) from error
        raise UnreadableMediaError(
            f"“{name}” is not a JPEG, PNG, WebP or GIF picture and not an MP4 video, whatever its name says."
        ) from error
    pixels, most = image.width * image.height, settings.UPLOAD_MOST_PIXELS
    if pixels > most:
        raise UnreadableMediaError(
            f"“{name}” has {pixels / 1e6:.0f} megapixels ({image.width} × {image.height}); Menudo takes {most / 1e6:.0f}. Make it smaller."
        )
    try:
        return _prepare_animation(image) if getattr(image, "n_frames", 1) > 1 else _prepare_still(image)
    except UnreadableMediaError:
        raise
    except (OSError, ValueError, SyntaxError, EOFError, IndexError) as error:
        raise UnreadableMediaError(_damaged_message(name)) from error


def require_size(size: int, name: str) -> None:
    """Raises UnreadableMediaError for a picture of more bytes than any is read of."""
    if size > settings.UPLOAD_MOST_BYTES:
        raise UnreadableMediaError(
            f"“{name}” is {format_bytes(size)}; Menudo takes {format_bytes(settings.UPLOAD_MOST_BYTES)}."
        )


def prepare_video(path: Path, name: str, workspace: Path) -> PreparedMedia:
    """Look into a video, and copy it into the workspace without its metadata; its pictures and sound stay as they are.
    Raises UnreadableMediaError."""
    size = path.stat().st_size
    if size > settings.UPLOAD_MOST_VIDEO_BYTES:
        raise UnreadableMediaError(
            f"“{name}” is {format_bytes(size)}; Menudo takes {format_bytes(settings.UPLOAD_MOST_VIDEO_BYTES)}."
        )
    try:
        facts = video.video_facts(path)
        if facts.seconds > settings.UPLOAD_MOST_SECONDS:
            most = settings.UPLOAD_MOST_SECONDS / 3600
            raise UnreadableMediaError(
                f"“{name}” lasts {facts.seconds / 3600:.1f} hours; Menudo takes {most:g}. Make it shorter."
            )
        if facts.width * facts.height > settings.UPLOAD_MOST_PIXELS:
            raise UnreadableMediaError(f"“{name}” is {facts.width} × {facts.height} pixels. Make it smaller.")
        clean = workspace / "clean.mp4"
        video.remux_clean(path, clean)
        kept = video.video_facts(clean)
        thumb = video.encode_webp(video.frame_at(clean, min(1.0, kept.seconds / 3)), _THUMB)
    except video.InvalidVideoError as error:
        raise UnreadableMediaError(f"“{name}” {error}") from error
    size = clean.stat().st_size
    return PreparedMedia(
        clean, size, MediaKind.VIDEO, kept.format, kept.width, kept.height, kept.seconds, thumb, kept.codec
    )


def _damaged_message(name: str) -> str:
    return f"“{name}” breaks off or is damaged. Send the original again."


def _prepare_still(image: Image.Image) -> PreparedMedia:
    fmt = _FORMATS[image.format or ""]
    icc = image.info.get("icc_profile")
    image.load()
    upright = ImageOps.exif_transpose(image)
    wanted = ("RGB", "L") if fmt == "jpeg" else ("RGB", "RGBA", "L", "LA")
    if upright.mode not in wanted:
        see_through = fmt != "jpeg" and ("transparency" in upright.info or upright.mode.endswith("A"))
        upright = upright.convert("RGBA" if see_through else "RGB")
    upright.info = {}  # comments, XMP and the place where it was taken go no further
    out = io.BytesIO()
    how = {"icc_profile": icc} if icc else {}
    upright.save(out, fmt.upper(), **({} if fmt == "png" else {"quality": 92}), **how)
    data = out.getvalue()
    return PreparedMedia(
        data, len(data), MediaKind.PICTURE, fmt, upright.width, upright.height, None, _make_thumbnail(upright)
    )


def _frame_milliseconds(frame: Image.Image) -> int:
    """How long a frame stands. A WebP says so only once the frame is read."""
    frame.load()
    return max(int(frame.info.get("duration", 100)), 20)


@dataclass(frozen=True, slots=True)
class _Frames:
    """The frames of a moving picture from one on, each drawn when it is asked for, as often as they are: not all at once."""

    image: Image.Image
    start: int = 0

    def __iter__(self) -> Iterator[Image.Image]:
        return (frame.convert("RGBA") for frame in islice(ImageSequence.Iterator(self.image), self.start, None))


def _prepare_animation(image: Image.Image) -> PreparedMedia:
    if getattr(image, "n_frames", 1) > _MAX_FRAMES:
        raise UnreadableMediaError(f"It has {image.n_frames} frames; Menudo takes {_MAX_FRAMES}.")  # type: ignore[attr-defined]
    if image.width * image.height * image.n_frames > settings.UPLOAD_MOST_FRAME_PIXELS:  # type: ignore[attr-defined]
        raise UnreadableMediaError("All its frames together are too large. Make it smaller or shorter.")
    times = [_frame_milliseconds(frame) for frame in ImageSequence.Iterator(image)]
    fmt = "webp" if image.format == "WEBP" else "png" if image.format == "PNG" else "gif"
    out, loop = io.BytesIO(), int(image.info.get("loop", 0))
    first = next(iter(_Frames(image)))
    how = {"disposal": 2} if fmt == "gif" else {}
    first.save(out, fmt.upper(), save_all=True, append_images=_Frames(image, 1), duration=times, loop=loop, **how)
    (width, height), data = first.size, out.getvalue()
    return PreparedMedia(
        data, len(data), MediaKind.ANIMATION, fmt, width, height, sum(times) / 1000, _make_thumbnail(first)
    )


def _make_thumbnail(image: Image.Image) -> bytes:
    small = image.convert("RGBA" if image.mode in ("RGBA", "LA", "P") else "RGB")
    small.thumbnail(_THUMB)
    out = io.BytesIO()
    small.save(out, "WEBP", quality=80)
    return out.getvalue()
