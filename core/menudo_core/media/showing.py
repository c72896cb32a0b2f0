"""How an asset is shown in a version: turned, cropped, with words over it. Numbers only; the original stays as it is."""

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import TYPE_CHECKING

from menudo_core.media.facts import MediaFacts, MediaKind

if TYPE_CHECKING:
    from menudo_core.networks.sheet import KindRule

_GRACE = 0.005


@dataclass(frozen=True, slots=True)
class Box:
    """A part of a picture, as fractions of its width and height after turning."""

    x: float = 0.0
    y: float = 0.0
    w: float = 1.0
    h: float = 1.0

    @property
    def whole(self) -> bool:
        return (self.x, self.y, self.w, self.h) == (0, 0, 1, 1)


@dataclass(frozen=True, slots=True)
class Person:
    """Someone tagged in a picture: the handle, and where, as fractions of what is shown."""

    who: str
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class Showing:
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


PLAIN = Showing()


def over(master: Showing, own: Showing) -> Showing:
    """The master's showing with what the version has of its own, part by part."""
    said = {f.name: value for f in fields(own) if (value := getattr(own, f.name)) is not None}
    return replace(master, **said)


def inherit_showings(master: Mapping[int, Showing], own: Mapping[int, Showing]) -> dict[int, Showing]:
    """Every asset's showing in the version, by asset."""
    return {asset: over(master.get(asset, PLAIN), own.get(asset, PLAIN)) for asset in {*master, *own}}


def turned(width: int, height: int, turn: int | None) -> tuple[int, int]:
    """Width and height after `turn` quarter turns."""
    return (height, width) if (turn or 0) % 2 else (width, height)


def cropped(width: int, height: int, crop: Box | None) -> tuple[int, int]:
    """Width and height of the part, in whole pixels, at least one."""
    if crop is None:
        return width, height
    return max(1, round(width * crop.w)), max(1, round(height * crop.h))


def fitted(width: int, height: int, rule: "KindRule") -> tuple[int, int]:
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


def is_drawn(showing: Showing) -> bool:
    """Whether a picture shown so has to be drawn anew when it is sent."""
    return bool((showing.turn or 0) % 4 or (showing.crop and not showing.crop.whole) or showing.fit)


def as_shown(facts: MediaFacts, showing: Showing, rule: "KindRule | None") -> MediaFacts:
    """The facts of what the network will get. Only pictures are turned, cropped and drawn anew."""
    if facts.kind is not MediaKind.PICTURE or not is_drawn(showing):
        return facts
    width, height = cropped(*turned(facts.width, facts.height, showing.turn), showing.crop)
    if showing.fit and rule is not None:
        width, height = fitted(width, height, rule)
    return replace(facts, width=width, height=height, rendered=True)


def crop_to(
    width: int, height: int, low: float | None, high: float | None, focus: tuple[float, float] | None = None
) -> Box:
    """The largest part with a ratio from `low` to `high` (width over height; None: open), around the focus.

    The whole where the shape fits as it is, with the half per cent of grace that networks give.
    """
    ratio = width / height
    fx, fy = focus or (0.5, 0.5)
    if low is not None and ratio < low * (1 - _GRACE):
        h = width / low / height
        return Box(0.0, _start(fy, h), 1.0, h)
    if high is not None and ratio > high * (1 + _GRACE):
        w = height * high / width
        return Box(_start(fx, w), 0.0, w, 1.0)
    return Box()


def _start(focus: float, length: float) -> float:
    return min(max(focus - length / 2, 0.0), 1.0 - length)
