"""What every adapter to a network does. A network with another wire is one more file beside micropub.py and atompub.py, and
one line in registry.py."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import ClassVar, Protocol

from menudo_core.media.presentation import Person
from menudo_core.sending.decision import NetworkResponse


class UnreachableError(Exception):
    """The network could not be asked; `response` says why."""

    def __init__(self, response: NetworkResponse) -> None:
        self.response = response
        super().__init__(response.message)


@dataclass(frozen=True, slots=True)
class Destination:
    """Where a sign-in may post: a profile, page, listing or collection, as the network tells it."""

    remote_id: str
    handle: str
    name: str
    kind: str
    url: str = ""
    followers: int | None = None
    facts: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class PostResults:
    """What a post has earned so far, by its address."""

    url: str
    reach: int
    reactions: int
    clicks: int


@dataclass(frozen=True, slots=True)
class RemotePost:
    """A post that stands at a place, as the network tells it; `at` in UTC. `media`: address, kind and alt text of each."""

    url: str
    at: datetime
    text: str
    link: str = ""
    form: str = "post"
    media: tuple[tuple[str, str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Attachment:
    """A medium at the network: the address that `upload` gave, its alt text, and what lies over it.

    `people` are tagged at places (fractions of what is shown); `words` stand over a story's frame; `cover` is the
    address of a video's thumbnail; `focus` stays in sight where the network cuts.
    """

    url: str
    kind: str
    alt: str
    people: tuple[Person, ...] = ()
    words: str = ""
    words_at: str = ""
    cover: str = ""
    focus: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class LinkCard:
    """What stands for the link; `picture` is its address at the network, empty for none."""

    title: str
    description: str
    picture: str


@dataclass(frozen=True, slots=True)
class OutgoingPost:
    """A post as it goes through the wire. `fields` are the network's own, by name."""

    text: str
    media: Sequence[Attachment] = ()
    link: str = ""
    fields: Mapping[str, str] = field(default_factory=dict)
    form: str = "post"
    card: LinkCard | None = None


@dataclass(frozen=True, slots=True)
class KeyLookup:
    """Whether the network acted on a key. `url` None: it did not. `answered` False: it can't or won't say now; `response` says
    why, where it was asked."""

    answered: bool
    url: str | None = None
    response: NetworkResponse | None = None


class Upload(Protocol):
    """A file on its way, read as it is sent."""

    def read(self, size: int = -1, /) -> bytes: ...

    def seek(self, offset: int, whence: int = 0, /) -> int: ...

    def tell(self) -> int: ...


class Adapter(Protocol):
    """A network, for one sign-in. Calls never raise for what the network or the way to it does: they answer. Only `destinations`
    raises UnreachableError. What a wire has no way for is answered as refused, or is empty."""

    # The endpoints that server metadata (RFC 8414) name for this wire: our name and theirs. The first is the one that is
    # asked, and by it the network's host is known.
    ENDPOINTS: ClassVar[Mapping[str, str]]

    def destinations(self) -> list[Destination]:
        """Where this sign-in may post."""
        ...

    def upload(self, destination: str, file: Upload, name: str, content_type: str) -> NetworkResponse:
        """Give the network a file; `url` of the answer is its address there. The same file may be given again."""
        ...

    def publish(self, destination: str, key: str, post: OutgoingPost) -> NetworkResponse:
        """Publish a post under a key that never changes for it; `url` of the answer is where it stands."""
        ...

    def find_by_key(self, destination: str, key: str, since: datetime) -> KeyLookup:
        """Whether an earlier try with this key was acted on, which can't have been before `since` (UTC)."""
        ...

    def comment(self, destination: str, key: str, on: str, text: str) -> NetworkResponse:
        """A comment of the profile's own under its post at `on`, with a key of its own."""
        ...

    def edit(self, destination: str, url: str, text: str) -> NetworkResponse:
        """Another text for a post that is there."""
        ...

    def take_down(self, destination: str, url: str) -> NetworkResponse:
        """Take a post down. One that isn't there any more is taken down."""
        ...

    def posts(self, destination: str) -> list[RemotePost]:
        """What stands at a place, the newest first; empty where it isn't told."""
        ...

    def results(self, destination: str) -> list[PostResults]:
        """What a place's posts have earned so far; empty where it isn't told."""
        ...

    def trending_hashtags(self) -> dict[str, int]:
        """Hashtags used much of late, with how many posts; empty where it isn't told."""
        ...
