"""The shapes that a network's pictures can be cropped to in one step."""

from dataclasses import dataclass
from fractions import Fraction

from menudo_core.media.facts import MediaKind
from menudo_core.networks.content import POST, STORY
from menudo_core.networks.sheet import RuleSheet

_USUAL = ((1, 1), (4, 5), (3, 4), (2, 3), (9, 16), (5, 4), (4, 3), (3, 2), (16, 9))
_GRACE = 0.005


@dataclass(frozen=True, slots=True)
class Preset:
    """A shape by its usual name, as width over height, for a post or a story."""

    words: str
    ratio: float
    form: str = POST


def presets(sheet: RuleSheet) -> list[Preset]:
    """The usual shapes that the sheet takes, tall ones in the middle of the list as people know them."""
    rule = sheet.media.kinds.get(MediaKind.PICTURE)
    out = []
    for w, h in _USUAL if rule else ():
        ratio = float(Fraction(w, h))
        low, high = (rule.min_ratio or 0, rule.max_ratio or 1e9) if rule else (0, 0)
        if low * (1 - _GRACE) <= ratio <= high * (1 + _GRACE):
            out.append(Preset(f"{w}:{h}", ratio))
    if sheet.story is not None:
        out.append(Preset("9:16 story", 9 / 16, STORY))
    return out
