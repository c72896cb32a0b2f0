"""What a relay carries."""

from dataclasses import dataclass, field, replace
from datetime import datetime


@dataclass(frozen=True, slots=True)
class Item:
    """Something that appeared at a source.

    `source` is the source's key: `p` and a profile's id, `f` a feed's, `c` a catalogue's, `l` a label's. `origin` names the
    thing itself, however often it is carried; `trail` are the profiles (ids) that it has been on;
    `addresses` where it is found and was found before, each as an address's key. `at`: when it appeared
    (UTC). `kind`: post, story, or what a listing or catalogue calls it. `language` as BCP 47 has it, empty: not known. `tags`: a feed's
    categories, beside the hashtags in the text.
    """

    source: str
    origin: str
    at: datetime
    text: str = ""
    link: str = ""
    pictures: int = 0
    videos: int = 0
    kind: str = "post"
    language: str = ""
    tags: tuple[str, ...] = ()
    trail: frozenset[int] = field(default_factory=frozenset)
    addresses: tuple[str, ...] = ()

    def carried_to(self, profile: int, at: datetime) -> "Item":
        """The same thing, as it appears on a profile that it was carried to."""
        return replace(self, source=f"p{profile}", at=at, trail=self.trail | {profile})
