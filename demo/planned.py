"""A post of the demo's world, as it is written down."""

from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True)
class Planned:
    """A post: `day` None is a draft without a date. `to` are handles; `state` is the delivery's."""

    brand: str
    to: tuple[str, ...]
    text: str
    day: int | None = None
    time: str = "11:00"
    state: str = "planned"
    picture: tuple[str, ...] = ()
    title: str = ""
    reason: str = ""
    post_state: str = "signed_off"
    link: str = ""
    overrides: dict[str, dict[str, Any]] = field(default_factory=dict)
