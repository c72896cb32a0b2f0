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
    real type (jpeg, png, gif, webp, mp4), found by content; `codec` that of a video's
    pictures (h264, av1 …), empty when not known. `rendered`: it is drawn anew when
    sent, in a format and a size in bytes that the network takes.
    """

    asset: int
    kind: MediaKind
    format: str
    width: int
    height: int
    size: int
    seconds: float | None = None
    alt: str = ""
    codec: str = ""
    rendered: bool = False

    @property
    def ratio(self) -> float:
        """Width over height."""
        return self.width / self.height
