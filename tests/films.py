"""Small videos for tests, made with PyAV."""

import io

import av
from PIL import Image

PLACE = "+40.4168-003.7038/"


def film(
    size: tuple[int, int] = (360, 640),
    seconds: float = 2.0,
    codec: str = "libx264",
    fmt: str = "mp4",
    place: bool = False,
) -> bytes:
    """A video that goes from dark to red; with `place`, its metadata say where it was taken."""
    out = io.BytesIO()
    options = {"movflags": "use_metadata_tags"} if place else {}
    with av.open(out, "w", format=fmt, options=options) as container:
        if place:
            container.metadata["location"] = PLACE
            container.metadata["comment"] = "taken at home"
        stream = container.add_stream(codec, rate=10)
        stream.width, stream.height, stream.pix_fmt = *size, "yuv420p"
        for n in range(int(seconds * 10)):
            shade = min(255, int(n * 255 / (seconds * 10)))
            for packet in stream.encode(av.VideoFrame.from_image(Image.new("RGB", size, (shade, 20, 20)))):
                container.mux(packet)
        for packet in stream.encode():
            container.mux(packet)
    return out.getvalue()
