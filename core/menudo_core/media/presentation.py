"""How an asset is shown in a version: turned, cropped, with words over it. Numbers only; the original stays as it is."""

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import TYPE_CHECKING

from menudo_core.media.facts import MediaFacts, MediaKind

if TYPE_CHECKING:
    from menudo_core.networks.sheet import KindRule

_TOLERANCE = 0.005


@dataclass(frozen=True, slots=True)
class Box:
    """A part of a picture, as fractions of its width and height after turning."""

    x: float = 0.0
    y: float = 0.0
    w: float = 1.0
    h: float = 1.0

    @property
    def is_whole(self) -> bool:
        return (self.x, self.y, self.w, self.h) == (0, 0, 1, 1)


@dataclass(frozen=True, slots=True)
class Person:
    """Someone tagged in a picture: the handle, and where, as fractions of what is shown."""

    who: str
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class MediaPresentation:
    """None in any part: inherited, and in the end as the asset is.

    `turn` is in quarter turns clockwise; `crop` a part of the turned picture; `focus` the point that
    matters, as fractions of the turned picture; `fit` lets it be drawn anew so that format, pixels and
    bytes suit the network. `words` stand over a story's frame at `words_at` (top, middle or foot).
    A video's thumbnail is its frame at `cover_at` seconds, or the picture `cover` (an asset; 0: none).
    """

    turn: int | None = None
    crop: Box | None = None
    focus: tuple[float, float] | None = None
    fit: bool | None = None
    words: str | None = None
    words_at: str | None = None
    people: tuple[Person, ...] | None = None
    cover: int | None = None
    cover_at: float | None = None


UNCHANGED = MediaPresentation()


def merge_presentation(master: MediaPresentation, override: MediaPresentation) -> MediaPresentation:
    """The master's showing with what the version has of its own, part by part."""
    changes = {f.name: value for f in fields(override) if (value := getattr(override, f.name)) is not None}
    return replace(master, **changes)


def merge_presentations(
    master: Mapping[int, MediaPresentation], overrides: Mapping[int, MediaPresentation]
) -> dict[int, MediaPresentation]:
    """Every asset's showing in the version, by asset."""
    return {
        asset: merge_presentation(master.get(asset, UNCHANGED), overrides.get(asset, UNCHANGED))
        for asset in {*master, *overrides}
    }


def rotated_size(width: int, height: int, turn: int | None) -> tuple[int, int]:
    """Width and height after `turn` quarter turns."""
    return (height, width) if (turn or 0) % 2 else (width, height)


def cropped_size(width: int, height: int, crop: Box | None) -> tuple[int, int]:
    """Width and height of the part, in whole pixels, at least one."""
    if crop is None:
        return width, height
    return max(1, round(width * crop.w)), max(1, round(height * crop.h))


def fitted_size(width: int, height: int, rule: "KindRule") -> tuple[int, int]:
    """The largest size of this shape that the rule takes; never larger than it is."""
    most = rule.max_pixels
    scale = min(
        1.0,
        (rule.max_width or width) / width,
        (rule.max_height or height) / height,
        (most / (width * height)) ** 0.5 if most else 1.0,
    )
    # Down, so that rounding never passes the limit.
    return max(1, int(width * scale)), max(1, int(height * scale))


def needs_rendering(showing: MediaPresentation) -> bool:
    """Whether a picture shown so has to be drawn anew when it is sent."""
    return bool((showing.turn or 0) % 4 or (showing.crop and not showing.crop.is_whole) or showing.fit)


def presented_facts(facts: MediaFacts, showing: MediaPresentation, rule: "KindRule | None") -> MediaFacts:
    """The facts of what the network will get. Only pictures are turned, cropped and drawn anew."""
    if facts.kind is not MediaKind.PICTURE or not needs_rendering(showing):
        return facts
    width, height = cropped_size(*rotated_size(facts.width, facts.height, showing.turn), showing.crop)
    if showing.fit and rule is not None:
        width, height = fitted_size(width, height, rule)
    return replace(facts, width=width, height=height, rendered=True)


def crop_to(
    width: int, height: int, low: float | None, high: float | None, focus: tuple[float, float] | None = None
) -> Box:
    """The largest part with a ratio from `low` to `high` (width over height; None: open), around the focus.

    The whole where the shape fits as it is, with the half per cent of grace that networks give.
    """
    ratio = width / height
    fx, fy = focus or (0.5, 0.5)
    if low is not None and ratio < low * (1 - _TOLERANCE):
        h = width / low / height
        return Box(0.0, _crop_start(fy, h), 1.0, h)
    if high is not None and ratio > high * (1 + _TOLERANCE):
        w = height * high / width
        return Box(_crop_start(fx, w), 0.0, w, 1.0)
    return Box()


def _crop_start(focus: float, length: float) -> float:
    return min(max(focus - length / 2, 0.0), 1.0 - length)
