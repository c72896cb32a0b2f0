"""Reading a file that someone sent: what it really is, upright, and clean."""

import io
import warnings
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings
from PIL import Image, ImageOps, ImageSequence, UnidentifiedImageError

from menudo.library import video
from menudo_core.media.facts import MediaKind
from menudo_core.media.shapes import bytes_words

_FORMATS = {"JPEG": "jpeg", "PNG": "png", "WEBP": "webp", "GIF": "gif"}
_BEGINNINGS = (b"\xff\xd8\xff", b"\x89PNG\r\n\x1a\n", b"GIF8", b"RIFF")
_THUMB = (480, 480)
_MOST_FRAMES = 600
# The guard below is ours and comes first; Pillow's own must not answer in its place.
Image.MAX_IMAGE_PIXELS = None


class Unreadable(ValueError):
    """The file can't be taken; the text says why, for people."""


@dataclass(frozen=True, slots=True)
class Readied:
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


def ready(data: bytes, name: str) -> Readied:
    """Decode, turn upright (EXIF orientation), drop metadata and re-encode. Raises Unreadable.

    The type is found by content; the name is only used in the words.
    """
    if not data:
        raise Unreadable(f"“{name}” is empty.")
    not_too_large(len(data), name)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(data), formats=list(_FORMATS))
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        if data.startswith(_BEGINNINGS):
            raise Unreadable(_damaged(name)) from error
        raise Unreadable(
            f"“{name}” is not a JPEG, PNG, WebP or GIF picture and not an MP4 video, whatever its name says."
        ) from error
    pixels, most = image.width * image.height, settings.UPLOAD_MOST_PIXELS
    if pixels > most:
        raise Unreadable(
            f"“{name}” has {pixels / 1e6:.0f} megapixels ({image.width} × {image.height}); Menudo takes {most / 1e6:.0f}. Make it smaller."
        )
    try:
        return _animation(image) if getattr(image, "n_frames", 1) > 1 else _still(image)
    except Unreadable:
        raise
    except (OSError, ValueError, SyntaxError, EOFError, IndexError) as error:
        raise Unreadable(_damaged(name)) from error


def not_too_large(size: int, name: str) -> None:
    """Raises Unreadable for a picture of more bytes than any is read of."""
    if size > settings.UPLOAD_MOST_BYTES:
        raise Unreadable(f"“{name}” is {bytes_words(size)}; Menudo takes {bytes_words(settings.UPLOAD_MOST_BYTES)}.")


def ready_video(path: Path, name: str, workspace: Path) -> Readied:
    """Look into a video, and copy it into the workspace without its metadata; its pictures and sound stay as they are.
    Raises Unreadable."""
    size = path.stat().st_size
    if size > settings.UPLOAD_MOST_VIDEO_BYTES:
        raise Unreadable(
            f"“{name}” is {bytes_words(size)}; Menudo takes {bytes_words(settings.UPLOAD_MOST_VIDEO_BYTES)}."
        )
    try:
        said = video.facts(path)
        if said.seconds > settings.UPLOAD_MOST_SECONDS:
            most = settings.UPLOAD_MOST_SECONDS / 3600
            raise Unreadable(f"“{name}” lasts {said.seconds / 3600:.1f} hours; Menudo takes {most:g}. Make it shorter.")
        if said.width * said.height > settings.UPLOAD_MOST_PIXELS:
            raise Unreadable(f"“{name}” is {said.width} × {said.height} pixels. Make it smaller.")
        clean = workspace / "clean.mp4"
        video.cleaned(path, clean)
        kept = video.facts(clean)
        thumb = video.as_webp(video.frame_at(clean, min(1.0, kept.seconds / 3)), _THUMB)
    except video.BadVideo as error:
        raise Unreadable(f"“{name}” {error}") from error
    size = clean.stat().st_size
    return Readied(clean, size, MediaKind.VIDEO, kept.format, kept.width, kept.height, kept.seconds, thumb, kept.codec)


def _damaged(name: str) -> str:
    return f"“{name}” breaks off or is damaged. Send the original again."


def _still(image: Image.Image) -> Readied:
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
    return Readied(data, len(data), MediaKind.PICTURE, fmt, upright.width, upright.height, None, _thumb(upright))


def _animation(image: Image.Image) -> Readied:
    if getattr(image, "n_frames", 1) > _MOST_FRAMES:
        raise Unreadable(f"It has {image.n_frames} frames; Menudo takes {_MOST_FRAMES}.")  # type: ignore[attr-defined]
    if image.width * image.height * image.n_frames > settings.UPLOAD_MOST_PIXELS * 10:  # type: ignore[attr-defined]
        raise Unreadable("All its frames together are too large. Make it smaller or shorter.")
    frames, times = [], []
    for frame in ImageSequence.Iterator(image):
        frames.append(frame.convert("RGBA"))
        times.append(max(int(frame.info.get("duration", 100)), 20))
    fmt = "webp" if image.format == "WEBP" else "png" if image.format == "PNG" else "gif"
    out = io.BytesIO()
    loop = int(image.info.get("loop", 0))
    frames[0].save(
        out,
        fmt.upper(),
        save_all=True,
        append_images=frames[1:],
        duration=times,
        loop=loop,
        disposal=2 if fmt == "gif" else None,
    )
    (width, height), data = frames[0].size, out.getvalue()
    return Readied(data, len(data), MediaKind.ANIMATION, fmt, width, height, sum(times) / 1000, _thumb(frames[0]))


def _thumb(image: Image.Image) -> bytes:
    small = image.convert("RGBA" if image.mode in ("RGBA", "LA", "P") else "RGB")
    small.thumbnail(_THUMB)
    out = io.BytesIO()
    small.save(out, "WEBP", quality=80)
    return out.getvalue()
