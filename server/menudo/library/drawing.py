"""Pictures drawn from words: a quotation, and the banner over a thing's photo, in a brand's colours."""

import io
from collections.abc import Sequence
from functools import cache
from pathlib import Path

from PIL import Image, ImageDraw, ImageFont, ImageOps

from menudo.library.picture_cleaning import FORMATS
from menudo_core.media.contrast import readable_pair

_FONTS = Path(__file__).parent / "fonts"
_SERIF, _SANS = "fraunces-600.ttf", "instrument-sans-500.ttf"
_MISSING_GLYPH = "\uffff"
Size = tuple[int, int]


@cache
def _font(name: str, size: int) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(str(_FONTS / name), size)


def can_draw(text: str) -> bool:
    """Whether the fonts that ship have every letter of it (Latin with its marks)."""
    font = _font(_SERIF, 20)
    none = bytes(font.getmask(_MISSING_GLYPH))
    return all(ch.isspace() or bytes(font.getmask(ch)) != none for ch in set(text))


def draw_quotation(text: str, who: str, colours: Sequence[str], size: Size) -> bytes:
    """A quotation as a picture (PNG): large words on the brand's ground, who said it beneath."""
    ground, ink = readable_pair(colours)
    image = Image.new("RGB", size, ground)
    draw, (width, height) = ImageDraw.Draw(image), size
    edge = width // 10
    font, lines = _fit_text(draw, text, _SERIF, (width - 2 * edge, height - 4 * edge), width // 9)
    step = round(font.size * 1.25)
    top = max(edge * 2, (height - step * len(lines) - edge) // 2)
    draw.rectangle((edge, top - edge // 2, edge + edge, top - edge // 2 + width // 180), fill=ink)
    for n, line in enumerate(lines):
        draw.text((edge, top + n * step), line, font=font, fill=ink)
    small, under = _fit_text(draw, who, _SANS, (width - 2 * edge, edge * 2), width // 26)
    for n, line in enumerate(under):
        draw.text((edge, top + step * len(lines) + edge // 3 + n * round(small.size * 1.3)), line, font=small, fill=ink)
    return _encode_png(image)


def draw_banner(photo: bytes | None, event: str, title: str, price: str, colours: Sequence[str], size: Size) -> bytes:
    """A thing's photo (PNG out) with what happened to it across the top and its name and price at the foot; without a photo
    on the brand's ground. The photo is cut to the shape, never stretched."""
    ground, ink = readable_pair(colours)
    image = Image.new("RGB", size, ground)
    width, height = size
    foot = height // 4
    if photo is not None:
        with Image.open(io.BytesIO(photo), formats=list(FORMATS)) as opened:
            whole = ImageOps.exif_transpose(opened).convert("RGB")
            image.paste(ImageOps.fit(whole, (width, height - foot), Image.Resampling.LANCZOS), (0, 0))
    draw, edge = ImageDraw.Draw(image), width // 16
    head, (line, *_) = _fit_text(draw, event, _SANS, (width - 2 * edge, height // 8), width // 16)
    across = draw.textlength(line, font=head)
    draw.rectangle((0, edge, across + 2 * edge, edge + head.size * 2), fill=ground)
    draw.text((edge, edge + head.size * 0.4), line, font=head, fill=ink)
    draw.rectangle((0, height - foot, width, height), fill=ground)
    right = draw.textlength(price, font=_font(_SERIF, width // 14)) if price else 0
    room = (round(width - 2 * edge - right - (edge if price else 0)), foot - edge)
    named, lines = _fit_text(draw, title, _SERIF, room, width // 14)
    for n, one in enumerate(lines):
        draw.text((edge, height - foot + edge // 2 + n * round(named.size * 1.2)), one, font=named, fill=ink)
    if price:
        at = (width - edge - right, height - foot + edge // 2)
        draw.text(at, price, font=_font(_SERIF, width // 14), fill=ink)
    return _encode_png(image)


def _fit_text(
    draw: ImageDraw.ImageDraw, text: str, name: str, room: Size, largest: int
) -> tuple[ImageFont.FreeTypeFont, list[str]]:
    """The largest size at which the text fits the room in lines, broken between words; at the smallest it is cut."""
    font, lines, least = _font(name, largest), [text], max(largest // 4, 12)
    for size in range(largest, least - 1, -2):
        font = _font(name, size)
        lines = _break_lines(draw, text, font, room[0])
        if len(lines) * size * 1.25 <= room[1] and all(draw.textlength(one, font=font) <= room[0] for one in lines):
            return font, lines
    most = max(1, int(room[1] // (least * 1.25)))
    kept = lines[:most]
    return font, [*kept[:-1], f"{kept[-1]} …"] if len(lines) > most else kept


def _break_lines(draw: ImageDraw.ImageDraw, text: str, font: ImageFont.FreeTypeFont, width: int) -> list[str]:
    lines = [""]
    for word in text.split():
        longer = f"{lines[-1]} {word}".strip()
        if draw.textlength(longer, font=font) <= width or not lines[-1]:
            lines[-1] = longer
        else:
            lines.append(word)
    return lines


def _encode_png(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "PNG", optimize=True)
    return out.getvalue()
