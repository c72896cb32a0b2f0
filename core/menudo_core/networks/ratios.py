"""The shapes that a network's pictures can be cropped to in one step."""

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

from menudo_core.media.facts import MediaKind
from menudo_core.media.shapes import format_ratio
from menudo_core.networks.content import POST, STORY
from menudo_core.networks.sheet import KindRule, RuleSheet

_COMMON_PRESETS = ((1, 1), (4, 5), (3, 4), (2, 3), (9, 16), (5, 4), (4, 3), (3, 2), (16, 9))
_TOLERANCE = 0.005


@dataclass(frozen=True, slots=True)
class Preset:
    """A shape by its usual name, as width over height, for a post or a story."""

    label: str
    ratio: float
    form: str = POST


def ratio_presets(sheet: RuleSheet) -> list[Preset]:
    """The usual shapes that the sheet takes, tall ones in the middle of the list as people know them."""
    rule = sheet.media.kinds.get(MediaKind.PICTURE)
    out = []
    for w, h in _COMMON_PRESETS if rule else ():
        ratio = float(Fraction(w, h))
        low, high = (rule.min_ratio or 0, rule.max_ratio or 1e9) if rule else (0, 0)
        if low * (1 - _TOLERANCE) <= ratio <= high * (1 + _TOLERANCE):
            out.append(Preset(f"{w}:{h}", ratio))
    if rule is not None and not out:
        out.append(_fallback_preset(rule))
    if sheet.story is not None:
        w, h = sheet.story.shape
        out.append(Preset(f"{format_ratio(w, h)} story", w / h, STORY))
    return out


def _fallback_preset(rule: KindRule) -> Preset:
    """Where no usual shape is taken: the middle of what is."""
    low, high = rule.min_ratio or rule.max_ratio or 1, rule.max_ratio or rule.min_ratio or 1
    ratio = (low + high) / 2
    return Preset(format_ratio(round(ratio * 1000), 1000), ratio)


_DRAWN = ((4, 5), (1, 1), (5, 4), (4, 3), (3, 4), (3, 2), (2, 3), (16, 9), (9, 16))
_WIDTH = 1080


def drawing_size(sheets: Iterable[RuleSheet]) -> tuple[int, int]:
    """The pixels of a picture drawn for these networks: the first usual shape that all of them take, square if there is none."""
    taken = [{round(p.ratio, 3) for p in ratio_presets(sheet) if p.form == POST} for sheet in sheets]
    taken = [one for one in taken if one]
    for w, h in _DRAWN:
        if all(round(w / h, 3) in one for one in taken):
            return _WIDTH, round(_WIDTH * h / w)
    shared = set.intersection(*taken) if taken else set()
    return _WIDTH, round(_WIDTH / min(shared)) if shared else _WIDTH
