"""A picture from outside, decoded, upright and clean: what runs in a process of its own (base/apart.py)."""

import io
import warnings
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice
from pathlib import Path
from typing import Any

from PIL import Image, ImageCms, ImageOps, ImageSequence, UnidentifiedImageError

from menudo.base.apart import RefusedApartError

# The formats that are read at all, by Pillow's names: every other decoder stays shut.
FORMATS = {"JPEG": "jpeg", "PNG": "png", "WEBP": "webp", "GIF": "gif"}
THUMB = (480, 480)
_BEGINNINGS = (b"\xff\xd8\xff", b"\x89PNG\r\n\x1a\n", b"GIF8", b"RIFF")
_MAX_FRAMES = 600
# The guard below is ours and comes first; Pillow's own must not answer in its place.
Image.MAX_IMAGE_PIXELS = None


def damaged_message(name: str) -> str:
    return f"“{name}” breaks off or is damaged. Send the original again."


def clean_picture(
    source: str, out: str, thumb: str, name: str, most_pixels: int, most_frame_pixels: int
) -> dict[str, Any]:
    """Decode the file `source`, turn it upright (EXIF orientation), drop its metadata, and write it to `out` and small (WebP) to `thumb`.
    Its facts. Raises RefusedApartError. The type is found by content; the name is only used in the words."""
    data = Path(source).read_bytes()
    image = _open(data, name)
    pixels = image.width * image.height
    if pixels > most_pixels:
        raise RefusedApartError(
            f"“{name}” has {pixels / 1e6:.0f} megapixels ({image.width} × {image.height}); Menudo takes {most_pixels / 1e6:.0f}. Make it smaller."
        )
    try:
        moving = getattr(image, "n_frames", 1) > 1
        clean, small, facts = _clean_animation(image, most_frame_pixels) if moving else _clean_still(image)
    except RefusedApartError:
        raise
    except (OSError, ValueError, SyntaxError, EOFError, IndexError) as error:
        raise RefusedApartError(damaged_message(name)) from error
    Path(out).write_bytes(clean)
    Path(thumb).write_bytes(_encode_thumbnail(small))
    return facts


def _open(data: bytes, name: str) -> Image.Image:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            return Image.open(io.BytesIO(data), formats=list(FORMATS))
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        if data.startswith(_BEGINNINGS):
            raise RefusedApartError(damaged_message(name)) from error
        raise RefusedApartError(
            f"“{name}” is not a JPEG, PNG, WebP or GIF picture and not an MP4 video, whatever its name says."
        ) from error


def _clean_still(image: Image.Image) -> tuple[bytes, Image.Image, dict[str, Any]]:
    fmt = FORMATS[image.format or ""]
    icc = image.info.get("icc_profile")
    image.load()
    upright = _to_srgb(ImageOps.exif_transpose(image), icc)
    wanted = ("RGB", "L") if fmt == "jpeg" else ("RGB", "RGBA", "L", "LA")
    if upright.mode not in wanted:
        see_through = fmt != "jpeg" and ("transparency" in upright.info or upright.mode.endswith("A"))
        upright = upright.convert("RGBA" if see_through else "RGB")
    upright.info = {}  # comments, XMP and the place where it was taken go no further
    out = io.BytesIO()
    upright.save(out, fmt.upper(), **({} if fmt == "png" else {"quality": 92}))
    return out.getvalue(), upright, _facts("picture", fmt, upright.size, None)


def _to_srgb(image: Image.Image, icc: Any) -> Image.Image:
    """The same colours without a profile of its own, which may hold whatever somebody put there: what has none is sRGB (as CSS Color 4
    takes it). A profile that can't be read, or isn't for colours in red, green and blue or in inks, goes."""
    if not icc or image.mode not in ("RGB", "RGBA", "CMYK"):
        return image
    mode = "RGBA" if image.mode == "RGBA" else "RGB"
    try:
        profile = ImageCms.ImageCmsProfile(io.BytesIO(icc))
        drawn = ImageCms.profileToProfile(image, profile, ImageCms.createProfile("sRGB"), outputMode=mode)
    except (ImageCms.PyCMSError, OSError, ValueError):
        return image
    return drawn or image


@dataclass(frozen=True, slots=True)
class _Frames:
    """The frames of a moving picture from one on, each drawn when it is asked for, as often as they are: not all at once.

    Nothing that was said in them comes along."""

    image: Image.Image
    start: int = 0

    def __iter__(self) -> Iterator[Image.Image]:
        for frame in islice(ImageSequence.Iterator(self.image), self.start, None):
            drawn = frame.convert("RGBA")
            drawn.info = {}
            yield drawn


def _clean_animation(image: Image.Image, most_pixels: int) -> tuple[bytes, Image.Image, dict[str, Any]]:
    frames = int(getattr(image, "n_frames", 1))
    if frames > _MAX_FRAMES:
        raise RefusedApartError(f"It has {frames} frames; Menudo takes {_MAX_FRAMES}.")
    if image.width * image.height * frames > most_pixels:
        raise RefusedApartError("All its frames together are too large. Make it smaller or shorter.")
    times = [_frame_milliseconds(frame) for frame in ImageSequence.Iterator(image)]
    fmt = FORMATS[image.format or ""]
    out, loop = io.BytesIO(), int(image.info.get("loop", 0))
    first = next(iter(_Frames(image)))
    how = {"disposal": 2} if fmt == "gif" else {}
    first.save(out, fmt.upper(), save_all=True, append_images=_Frames(image, 1), duration=times, loop=loop, **how)
    return out.getvalue(), first, _facts("animation", fmt, first.size, sum(times) / 1000)


def _frame_milliseconds(frame: Image.Image) -> int:
    """How long a frame stands. A WebP says so only once the frame is read."""
    frame.load()
    return max(int(frame.info.get("duration", 100)), 20)


def _facts(kind: str, fmt: str, size: tuple[int, int], seconds: float | None) -> dict[str, Any]:
    return {"kind": kind, "format": fmt, "width": size[0], "height": size[1], "seconds": seconds}


def _encode_thumbnail(image: Image.Image) -> bytes:
    small = image.convert("RGBA" if image.mode in ("RGBA", "LA", "P") else "RGB")
    small.thumbnail(THUMB)
    out = io.BytesIO()
    small.save(out, "WEBP", quality=80)
    return out.getvalue()
