"""The demo's short videos: drawn here frame by frame, small, upright and wide, so that rules have something to bite on."""

import io
import math
from functools import cache

import av
from PIL import Image, ImageDraw

from demo.pictures import draw_fern, draw_loaf, draw_stars

_RATE = 12


def _draw_film(size: tuple[int, int], seconds: float, ground: Image.Image, colour: str) -> bytes:
    """An MP4 (H.264): the ground slowly drawn nearer, and a light that goes across."""
    out = io.BytesIO()
    with av.open(out, "w", format="mp4") as container:
        stream = container.add_stream("libx264", rate=_RATE, options={"crf": "32", "preset": "veryfast"})
        stream.width, stream.height = size
        stream.pix_fmt = "yuv420p"
        frames = int(seconds * _RATE)
        for n in range(frames):
            part = n / frames
            cut = ground.width * 0.12 * part, ground.height * 0.12 * part
            near = ground.crop((int(cut[0]), int(cut[1]), int(ground.width - cut[0]), int(ground.height - cut[1])))
            image = near.resize(size)
            x, y = size[0] * part, size[1] * (0.3 + 0.1 * math.sin(part * 9))
            ImageDraw.Draw(image).ellipse((x - 24, y - 24, x + 24, y + 24), fill=colour)
            for packet in stream.encode(av.VideoFrame.from_image(image)):  # type: ignore[no-untyped-call]
                container.mux(packet)
        for packet in stream.encode():
            container.mux(packet)
    return out.getvalue()


@cache
def all_videos() -> dict[str, tuple[str, bytes, str]]:
    """Name, bytes and alt text of every video of the demo, by the key that the posts use."""
    return {
        "film": (
            "a-year-of-moss.mp4",
            _draw_film((640, 360), 24, draw_fern((640, 360), 31), "#f0e6c8"),
            "A wall of moss through the year",
        ),
        "short": (
            "once-round.mp4",
            _draw_film((360, 640), 9, draw_fern((360, 640), 32), "#f0e6c8"),
            "Once round the palm house",
        ),
        "long": (
            "too-long-for-a-story.mp4",
            _draw_film((360, 640), 21, draw_stars((360, 640), 33), "#ffffff"),
            "The sky turns over the ridge",
        ),
        "dough": (
            "dough-rising.mp4",
            _draw_film((360, 640), 6, draw_loaf((360, 640), 34), "#fff4d8"),
            "Dough rising in its basket",
        ),
    }
