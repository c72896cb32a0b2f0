"""The demo's pictures: drawn here, small, of many shapes, so that rules have something to bite on."""

import io
import math
import random
from functools import cache

from PIL import Image, ImageDraw, ImageFilter

_GREENS = [("#dfe6cf", "#7d9b76"), ("#c9d8c0", "#4c6b58"), ("#e9e3cf", "#8a9a5b")]
_WARMS = [("#f0dfc0", "#c08a4a"), ("#ecd3b0", "#a5683a"), ("#f4e6cc", "#b57a06")]


def _draw_wash(size: tuple[int, int], top: str, foot: str) -> Image.Image:
    column = Image.linear_gradient("L").resize(size)
    return Image.composite(Image.new("RGB", size, foot), Image.new("RGB", size, top), column)


def draw_fern(size: tuple[int, int], seed: int) -> Image.Image:
    """Fern fronds over a wash."""
    dice = random.Random(seed)
    image = _draw_wash(size, *dice.choice(_GREENS))
    draw = ImageDraw.Draw(image)
    width, height = size
    for n in range(5):
        x, y = width * (0.1 + 0.2 * n + dice.uniform(-0.05, 0.05)), float(height)
        angle, length = -math.pi / 2 + dice.uniform(-0.4, 0.4), min(size) * dice.uniform(0.03, 0.042)
        shade = dice.choice(["#22382c", "#2f4f3a", "#3d6146"])
        for step in range(26):
            angle += 0.05 * (1 if n % 2 else -1)
            nx, ny = x + math.cos(angle) * length, y + math.sin(angle) * length
            draw.line((x, y, nx, ny), fill=shade, width=max(2, size[0] // 250))
            leaf = length * 3.2 * math.sin(math.pi * (step + 2) / 30)
            for side in (-1.15, 1.15):
                ex, ey = nx + math.cos(angle + side) * leaf, ny + math.sin(angle + side) * leaf
                mx, my = (nx + ex) / 2 + math.cos(angle) * leaf * 0.18, (ny + ey) / 2 + math.sin(angle) * leaf * 0.18
                draw.polygon([(nx, ny), (mx, my), (ex, ey), ((nx + ex) / 2, (ny + ey) / 2)], fill=shade)
            x, y = nx, ny
    return image


def draw_loaf(size: tuple[int, int], seed: int) -> Image.Image:
    """A loaf with its cuts."""
    dice = random.Random(seed)
    image = _draw_wash(size, *dice.choice(_WARMS))
    draw = ImageDraw.Draw(image)
    width, height = size
    box = (width * 0.14, height * 0.3, width * 0.86, height * 0.84)
    draw.ellipse((box[0], box[1] + height * 0.06, box[2], box[3] + height * 0.06), fill="#6b4526")
    draw.ellipse(box, fill="#a8652b")
    draw.ellipse(
        (box[0] + width * 0.05, box[1] + height * 0.03, box[2] - width * 0.05, box[3] - height * 0.12), fill="#c98a45"
    )
    for n in range(4):
        x = width * (0.3 + 0.13 * n)
        draw.arc(
            (x - width * 0.1, height * 0.34, x + width * 0.12, height * 0.74),
            100,
            250,
            fill="#f3dfb9",
            width=max(4, width // 70),
        )
    return image.filter(ImageFilter.GaussianBlur(size[0] / 900))


def draw_stars(size: tuple[int, int], seed: int) -> Image.Image:
    """A night sky over a ridge."""
    dice = random.Random(seed)
    image = _draw_wash(size, "#0d1730", "#3a4d7a")
    draw = ImageDraw.Draw(image)
    for _ in range(420):
        x, y, r = (
            dice.uniform(0, size[0]),
            dice.uniform(0, size[1] * 0.8),
            dice.choice([0.6, 0.8, 1.2, 2.2]) * size[0] / 1000,
        )
        draw.ellipse((x - r, y - r, x + r, y + r), fill=dice.choice(["#ffffff", "#f5ead0", "#cfdcff"]))
    ridge = (
        [(0, size[1])]
        + [(size[0] * n / 12, size[1] * (0.82 + 0.07 * math.sin(n * 1.3 + seed))) for n in range(13)]
        + [size]
    )
    draw.polygon(ridge, fill="#0a0f1d")
    return image


def encode_picture(image: Image.Image, kind: str = "JPEG", rotated: bool = False) -> bytes:
    """The picture as a file; `rotated`: lying on its side, with the EXIF note that says so."""
    out = io.BytesIO()
    if rotated:
        exif = Image.Exif()
        exif[0x0112] = 6
        image.rotate(90, expand=True).save(out, "JPEG", quality=86, exif=exif)
    elif kind == "JPEG":
        image.save(out, "JPEG", quality=86)
    else:
        image.save(out, kind)
    return out.getvalue()


@cache
def all_pictures() -> dict[str, tuple[str, bytes, str]]:
    """Name, bytes and alt text of every picture of the demo, by the key that the posts use."""
    return {
        "frost": ("frost.jpg", encode_picture(draw_fern((1200, 900), 1)), "Fern-like frost on a pane of glass"),
        "frost2": (
            "frost-2.jpg",
            encode_picture(draw_fern((900, 1125), 2)),
            "Frost in the shape of fronds, morning light",
        ),
        "hellebore": (
            "hellebore.webp",
            encode_picture(draw_fern((1000, 1000), 3), "WEBP"),
            "Leaves of a hellebore from above",
        ),
        "boots": (
            "boots.jpg",
            encode_picture(draw_fern((1600, 900), 4), rotated=True),
            "Ferns beside the gardener's boots",
        ),
        "wide": ("fronds-wide.png", encode_picture(draw_fern((1500, 650), 5), "PNG"), "Fern fronds, side by side"),
        "gate": ("gate.jpg", encode_picture(draw_fern((1080, 810), 6)), "The garden gate, half open"),
        "palm": ("palm-house.jpg", encode_picture(draw_fern((1600, 900), 7)), "The palm house, evening"),
        "pots": ("pots.jpg", encode_picture(draw_fern((800, 1000), 8)), "Pots on a glasshouse bench"),
        "pots2": ("pots-2.jpg", encode_picture(draw_fern((1200, 800), 9)), ""),
        "moss": ("moss.jpg", encode_picture(draw_fern((1200, 1200), 10)), "Moss on a north wall, very close"),
        "moss2": ("moss-2.jpg", encode_picture(draw_fern((1200, 675), 11)), "Three kinds of moss side by side"),
        "wreath": ("wreath.jpg", encode_picture(draw_fern((1080, 1350), 12)), "A wreath of fern and ivy"),
        "bark": ("bark.jpg", encode_picture(draw_fern((900, 1200), 13)), "Birch bark with lichen"),
        "loaf": ("loaf.jpg", encode_picture(draw_loaf((1200, 900), 14)), "A round loaf with four cuts"),
        "loaf2": ("loaf-2.jpg", encode_picture(draw_loaf((1000, 1250), 15)), "An olive loaf on a board"),
        "loaf3": ("loaf-3.png", encode_picture(draw_loaf((900, 900), 16), "PNG"), "A walnut loaf, still warm"),
        "sky": ("sky.jpg", encode_picture(draw_stars((1600, 900), 17)), "The night sky over the ridge"),
        "small": ("too-small.png", encode_picture(draw_stars((160, 120), 18), "PNG"), "A star field, tiny"),
    }
