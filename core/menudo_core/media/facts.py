"""What is known of a picture or video, by its content."""

from dataclasses import dataclass
from enum import StrEnum


class MediaKind(StrEnum):
    PICTURE = "picture"
    ANIMATION = "animation"
    VIDEO = "video"


@dataclass(frozen=True, slots=True)
class MediaFacts:
    """One asset as the rules see it: pixels after rotation, size in bytes, length in seconds.

    `seconds` is None for what doesn't move. `format` is the lower-case name of the
    real type (jpeg, png, gif, webp, mp4), found by content.
    """

    asset: int
    kind: MediaKind
    format: str
    width: int
    height: int
    size: int
    seconds: float | None = None
    alt: str = ""

    @property
    def ratio(self) -> float:
        """Width over height."""
        return self.width / self.height
