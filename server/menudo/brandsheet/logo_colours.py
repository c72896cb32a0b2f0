"""The colours of a logo: what runs in a process of its own (base/apart.py)."""

from PIL import Image

from menudo.library.picture_cleaning import FORMATS

_MAX_PIXELS = 8_000_000


def main_colours(source: str, most: int = 5) -> list[str]:
    """The main colours of the picture in a file as #rrggbb, most used first; white and black aren't told. Empty when it can't be read."""
    try:
        with Image.open(source, formats=list(FORMATS)) as image:
            if image.width * image.height > _MAX_PIXELS:
                return []
            small = image.convert("RGBA")
            # Nearest: no colours between colours come up at the seams.
            small.thumbnail((128, 128), Image.Resampling.NEAREST)
    except (OSError, ValueError, SyntaxError, EOFError, IndexError):
        return []
    flat = Image.new("RGB", small.size, "#ffffff")
    flat.paste(small, mask=small.getchannel("A"))
    few = flat.quantize(12, method=Image.Quantize.MEDIANCUT)
    palette = few.getpalette() or []
    area = small.width * small.height
    out: list[tuple[int, int, int]] = []
    for count, index in sorted(few.getcolors() or [], key=lambda c: -c[0]):
        r, g, b = palette[index * 3 : index * 3 + 3]  # type: ignore[operator]
        plain = max(r, g, b) < 24 or min(r, g, b) > 236
        if count * 50 < area or plain or any(abs(r - x) + abs(g - y) + abs(b - z) < 48 for x, y, z in out):
            continue
        out.append((r, g, b))
    return [f"#{r:02x}{g:02x}{b:02x}" for r, g, b in out[:most]]
