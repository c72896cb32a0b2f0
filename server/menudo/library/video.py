"""Reading videos with PyAV: what they are, their frames, and a copy without what tells where it was taken.

What decodes runs in a process of its own (base/apart.py): see clean_video and save_frame.
"""

from collections.abc import Iterable, Iterator
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

import av
from av.container import InputContainer
from PIL import Image

from menudo.base.apart import RefusedApartError
from menudo.library.picture_cleaning import THUMB

_FORMATS = {"mov,mp4,m4a,3gp,3g2,mj2": "mp4", "matroska,webm": "webm"}
_KEPT = {"video", "audio"}


class InvalidVideoError(ValueError):
    """The file is no video that can be taken; the text says why, for people."""


@dataclass(frozen=True, slots=True)
class VideoFacts:
    """Pixels upright as it plays, length in seconds, format and codec by content."""

    format: str
    codec: str
    width: int
    height: int
    seconds: float


def video_facts(path: Path) -> VideoFacts:
    """What the video is. Raises InvalidVideoError."""
    try:
        with av.open(str(path)) as container:
            return _container_facts(container)
    except InvalidVideoError:
        raise
    except (av.FFmpegError, ValueError, IndexError) as error:
        raise InvalidVideoError("breaks off or is damaged. Send the original again.") from error


def _container_facts(container: InputContainer) -> VideoFacts:
    fmt = _FORMATS.get(container.format.name)
    if fmt is None or not container.streams.video:
        raise InvalidVideoError("is not a video that Menudo can read. Save it as MP4.")
    stream = container.streams.video[0]
    frame = next(container.decode(stream), None)
    if frame is None:
        raise InvalidVideoError("has no pictures in it.")
    length = float(container.duration or 0) / av.time_base
    if length <= 0 and stream.duration is not None and stream.time_base is not None:
        length = float(stream.duration * stream.time_base)
    if length <= 0:
        raise InvalidVideoError("has no length.")
    width, height = frame.width, frame.height
    if _quarter_turns(frame) % 2:
        width, height = height, width
    return VideoFacts(fmt, stream.codec_context.name, width, height, round(length, 3))


def _quarter_turns(frame: av.VideoFrame) -> int:
    """How the player turns each frame, in quarters clockwise; the file's display matrix says it counter-clockwise."""
    return round(-(getattr(frame, "rotation", 0) or 0) / 90) % 4


def frame_at(path: Path, seconds: float) -> Image.Image:
    """The frame shown at `seconds`, upright; the last one beyond the end. Raises InvalidVideoError."""
    try:
        with av.open(str(path)) as container:
            stream = container.streams.video[0]
            if seconds > 0 and stream.time_base is not None:
                container.seek(int(seconds / stream.time_base), stream=stream, backward=True)
            last = None
            for frame in container.decode(stream):
                if last is not None and frame.time is not None and frame.time > seconds:
                    break
                last = frame
    except InvalidVideoError:
        raise
    except (av.FFmpegError, ValueError, IndexError) as error:
        raise InvalidVideoError("breaks off or is damaged. Send the original again.") from error
    if last is None:
        raise InvalidVideoError("has no pictures in it.")
    image: Image.Image = last.to_image()  # type: ignore[no-untyped-call]
    turns = {1: Image.Transpose.ROTATE_270, 2: Image.Transpose.ROTATE_180, 3: Image.Transpose.ROTATE_90}
    return image.transpose(turns[_quarter_turns(last)]) if _quarter_turns(last) else image


def remux_clean(path: Path, out: Path) -> None:
    """Copy pictures and sound into a new MP4, packet by packet, without metadata; ready to play while it loads.

    Nothing is encoded anew, so nothing is lost. Raises InvalidVideoError when a stream can't stand in an MP4.
    """
    try:
        with (
            av.open(str(path)) as source,
            av.open(str(out), "w", format="mp4", options={"movflags": "faststart"}) as target,
        ):
            streams = {s.index: target.add_stream_from_template(s) for s in source.streams if s.type in _KEPT}
            for packet in _timed_packets(source.demux([source.streams[i] for i in streams])):
                packet.stream = streams[packet.stream.index]
                target.mux(packet)
    except (av.FFmpegError, ValueError) as error:
        raise InvalidVideoError("is coded in a way that an MP4 can't hold. Save it as MP4 with H.264.") from error


def _timed_packets(packets: Iterable["av.Packet[Any]"]) -> Iterator["av.Packet[Any]"]:
    """The packets that hold something, each with its decoding time.

    Matroska leaves it out of a stream's first packets: they get those before the first that is known, a frame apart.
    """
    waiting: dict[int, list[av.Packet[Any]]] = {}
    for packet in packets:
        if packet.size == 0:
            continue
        early = waiting.setdefault(packet.stream.index, [])
        if packet.dts is None:
            early.append(packet)
            continue
        step = max(1, packet.duration or 1)
        for back, one in enumerate(early):
            one.dts = packet.dts - step * (len(early) - back)
            yield one
        early.clear()
        yield packet


def clean_video(source: str, out: str, thumb: str, name: str, most_pixels: int, most_seconds: float) -> dict[str, Any]:
    """Copy the video `source` to `out` without its metadata, and a picture of it (WebP) to `thumb`. Its facts. Raises RefusedApartError."""
    path, clean = Path(source), Path(out)
    try:
        facts = video_facts(path)
        if facts.seconds > most_seconds:
            raise RefusedApartError(
                f"“{name}” lasts {facts.seconds / 3600:.1f} hours; Menudo takes {most_seconds / 3600:g}. Make it shorter."
            )
        if facts.width * facts.height > most_pixels:
            raise RefusedApartError(f"“{name}” is {facts.width} × {facts.height} pixels. Make it smaller.")
        remux_clean(path, clean)
        kept = video_facts(clean)
        _save_small(frame_at(clean, min(1.0, kept.seconds / 3)), thumb, "WEBP", THUMB)
    except InvalidVideoError as error:
        raise RefusedApartError(f"“{name}” {error}") from error
    return {"kind": "video", **asdict(kept)}


def save_frame(source: str, out: str, seconds: float, fmt: str, most: tuple[int, int]) -> None:
    """The frame shown at `seconds`, as WEBP or JPEG, no larger than `most`. Raises RefusedApartError."""
    try:
        _save_small(frame_at(Path(source), seconds), out, fmt, most)
    except InvalidVideoError as error:
        raise RefusedApartError(f"The video {error}") from error


def _save_small(image: Image.Image, out: str, fmt: str, most: tuple[int, int]) -> None:
    small = image.convert("RGB")
    small.thumbnail(most)
    small.save(out, fmt, quality=80 if fmt == "WEBP" else 88)
