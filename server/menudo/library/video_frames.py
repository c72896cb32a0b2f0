"""Frames of the library's videos, drawn apart (base/apart.py)."""

import tempfile
from pathlib import Path

from menudo.base.apart import BrokenApartError, Limits, RefusedApartError, call_apart
from menudo.library.media_preparation import UnreadableMediaError

# Somebody waits for it.
_LIMITS = Limits(memory=3_000_000_000, file_size=30_000_000, seconds=10)


def draw_frame(path: Path, seconds: float, fmt: str, most: tuple[int, int]) -> bytes:
    """The frame shown at `seconds`, as WEBP or JPEG, no larger than `most`. Raises UnreadableMediaError."""
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "frame"
        try:
            call_apart("menudo.library.video:save_frame", str(path), str(out), seconds, fmt, most, limits=_LIMITS)
        except (RefusedApartError, BrokenApartError) as error:
            raise UnreadableMediaError("A picture of the video can't be drawn.") from error
        return out.read_bytes()
