"""Reading a file that someone sent: what it really is, upright, and clean. It is decoded apart (base/apart.py)."""

from dataclasses import dataclass
from pathlib import Path

import structlog
from django.conf import settings

from menudo.base.apart import BrokenApartError, Limits, RefusedApartError, call_apart
from menudo.library.picture_cleaning import damaged_message
from menudo_core.media.facts import MediaKind
from menudo_core.media.shapes import format_bytes

log = structlog.get_logger(__name__)
# The largest that is taken, twice over while it is turned, with its frames and what the libraries themselves hold.
PICTURE_LIMITS = Limits(memory=2_000_000_000, file_size=200_000_000, seconds=60)
VIDEO_LIMITS = Limits(memory=3_000_000_000, file_size=600_000_000, seconds=120)


class UnreadableMediaError(ValueError):
    """The file can't be taken; the text says why, for people."""


@dataclass(frozen=True, slots=True)
class PreparedMedia:
    """A file ready to keep: clean, where it lies in the workspace; its size in bytes and its facts, and a small picture of it (WebP)."""

    source: Path
    size: int
    kind: MediaKind
    format: str
    width: int
    height: int
    seconds: float | None
    thumb: bytes
    codec: str = ""


def prepare_media(source: bytes | Path, name: str, workspace: Path) -> PreparedMedia:
    """Look into a file, and write it anew into the workspace without its metadata: a picture upright and encoded again, a video with
    its pictures and sound as they are. Raises UnreadableMediaError.

    The type is found by content; the name is only used in the words.
    """
    size = source.stat().st_size if isinstance(source, Path) else len(source)
    if not size:
        raise UnreadableMediaError(f"“{name}” is empty.")
    is_video = looks_like_video(_head(source))
    most = settings.UPLOAD_MOST_VIDEO_BYTES if is_video else settings.UPLOAD_MOST_BYTES
    if size > most:
        raise UnreadableMediaError(f"“{name}” is {format_bytes(size)}; Menudo takes {format_bytes(most)}.")
    if isinstance(source, bytes):
        arrived = workspace / "arrived"
        arrived.write_bytes(source)
        source = arrived
    clean, thumb = workspace / "clean", workspace / "thumb"
    places = (str(source), str(clean), str(thumb), name)
    try:
        if is_video:
            limits = (settings.UPLOAD_MOST_PIXELS, settings.UPLOAD_MOST_SECONDS)
            facts = call_apart("menudo.library.video:clean_video", *places, *limits, limits=VIDEO_LIMITS)
        else:
            limits = (settings.UPLOAD_MOST_PIXELS, settings.UPLOAD_MOST_FRAME_PIXELS)
            facts = call_apart("menudo.library.picture_cleaning:clean_picture", *places, *limits, limits=PICTURE_LIMITS)
    except RefusedApartError as error:
        raise UnreadableMediaError(str(error)) from error
    except BrokenApartError as error:
        log.warning("media.broken", error=str(error))
        raise UnreadableMediaError(damaged_message(name)) from error
    kind = MediaKind(facts.pop("kind"))
    return PreparedMedia(source=clean, size=clean.stat().st_size, thumb=thumb.read_bytes(), kind=kind, **facts)


def looks_like_video(head: bytes) -> bool:
    """Whether the first bytes are those of a container that we look into (ISO base media, Matroska)."""
    return head[4:8] in (b"ftyp", b"moov", b"mdat", b"wide", b"free") or head[:4] == b"\x1a\x45\xdf\xa3"


def _head(source: bytes | Path) -> bytes:
    if isinstance(source, bytes):
        return source[:16]
    with source.open("rb") as file:
        return file.read(16)
