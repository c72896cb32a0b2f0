"""What a file that was sent is, found by its content."""

from dataclasses import dataclass
from pathlib import Path

import av
from PIL import Image


@dataclass(frozen=True)
class MediaFacts:
    format: str
    kind: str
    width: int
    height: int
    seconds: float | None
    codec: str


def inspect_media(path: Path) -> MediaFacts | None:
    """A picture, an animation or a video; None when it is none of them."""
    try:
        with Image.open(path) as image:
            image.load()
            frames = getattr(image, "n_frames", 1)
            seconds = sum(_frame_durations(image, frames)) / 1000 if frames > 1 else None
            kind = "animation" if frames > 1 else "picture"
            return MediaFacts((image.format or "").lower(), kind, image.width, image.height, seconds, "")
    except (OSError, ValueError, SyntaxError):
        pass
    try:
        with av.open(str(path)) as container:
            stream = container.streams.video[0]
            frame = next(container.decode(stream))
            upright = abs(int(getattr(frame, "rotation", 0) or 0)) % 180 == 0
            size = (frame.width, frame.height) if upright else (frame.height, frame.width)
            name = "mp4" if "mp4" in container.format.name else container.format.name
            seconds = round((container.duration or 0) / av.time_base, 3)
            return MediaFacts(name, "video", *size, seconds, stream.codec_context.name)
    except (av.FFmpegError, IndexError, StopIteration, ValueError):
        return None


def _frame_durations(image: Image.Image, frames: int) -> list[int]:
    times = []
    for n in range(frames):
        image.seek(n)
        times.append(int(image.info.get("duration", 100)))
    return times
