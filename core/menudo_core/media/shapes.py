"""Shapes of pictures, said as people say them."""

from fractions import Fraction
from math import gcd

_NAMED_RATIOS = [
    Fraction(a, b)
    for a, b in (
        (1, 1),
        (4, 5),
        (5, 4),
        (3, 4),
        (4, 3),
        (2, 3),
        (3, 2),
        (9, 16),
        (16, 9),
        (2, 1),
        (1, 2),
        (3, 1),
        (1, 3),
        (21, 9),
    )
]


def format_ratio(width: int, height: int) -> str:
    """A picture's shape as a ratio, e.g. “4:5”; the nearest known one within 1 %, else to a decimal."""
    true = Fraction(width, height)
    for known in _NAMED_RATIOS:
        if abs(true - known) * 100 <= known:
            return f"{known.numerator}:{known.denominator}" if known != Fraction(7, 3) else "21:9"
    shared = gcd(width, height)
    if width // shared <= 30 and height // shared <= 30:
        return f"{width // shared}:{height // shared}"
    if width >= height:
        return f"{width / height:.1f}:1"
    return f"1:{height / width:.1f}"


def format_bytes(size: int) -> str:
    """A size in bytes as people say it, in decimal units: “1.2 MB”."""
    if size < 1000:
        return f"{size} bytes"
    if size < 1_000_000:
        return f"{size / 1000:.0f} kB"
    return f"{size / 1_000_000:.1f} MB".replace(".0 MB", " MB")
