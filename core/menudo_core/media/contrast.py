"""Which of some colours can be read on another (WCAG 2.2, 1.4.3 and its definition of relative luminance)."""

from collections.abc import Sequence

MIN_READABLE_CONTRAST = 4.5
INK, PAPER = "#23201c", "#fbf7f0"


def luminance(colour: str) -> float:
    """Relative luminance of #rrggbb, from 0 (black) to 1 (white)."""
    parts = [int(colour[n : n + 2], 16) / 255 for n in (1, 3, 5)]
    red, green, blue = (p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast_ratio(one: str, other: str) -> float:
    """The contrast ratio of two colours, from 1 to 21."""
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


def readable_pair(colours: Sequence[str]) -> tuple[str, str]:
    """A ground and what can be read on it: the first colour that something of the brand's, ink or paper reads well on."""
    for ground in colours:
        written = max(
            (*colours, PAPER, INK),
            key=lambda c: (contrast_ratio(c, ground) >= MIN_READABLE_CONTRAST, c in colours, contrast_ratio(c, ground)),
        )
        if contrast_ratio(written, ground) >= MIN_READABLE_CONTRAST:
            return ground, written
    return PAPER, INK
