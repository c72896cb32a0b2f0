"""What every adapter to a network does. A network with another wire is one more file beside micropub.py."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Protocol

from menudo_core.media.showing import Person
from menudo_core.sending.decide import Answer


@dataclass(frozen=True, slots=True)
class RemoteProfile:
    """A profile that a sign-in manages, as the network tells it."""

    remote_id: str
    handle: str
    name: str
    kind: str
    url: str = ""
    followers: int | None = None
    facts: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Earned:
    """What a post has earned so far, by its address."""

    url: str
    reach: int
    reactions: int
    clicks: int


@dataclass(frozen=True, slots=True)
class Written:
    """A post that stands at a profile, as the network tells it; `at` in UTC. `media`: address, kind and alt text of each."""

    url: str
    at: datetime
    text: str
    link: str = ""
    form: str = "post"
    media: tuple[tuple[str, str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Attachment:
    """A medium at the network: the address its media endpoint gave, its alt text, and what lies over it.

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
class SentCard:
    """What stands for the link; `picture` is its address at the network, empty for none."""

    title: str
    description: str
    picture: str


@dataclass(frozen=True, slots=True)
class Outgoing:
    """A post as it goes through the wire. `fields` are the network's own, by name."""

    text: str
    media: Sequence[Attachment] = ()
    link: str = ""
    fields: Mapping[str, str] = field(default_factory=dict)
    form: str = "post"
    card: SentCard | None = None


@dataclass(frozen=True, slots=True)
class Known:
    """Whether the network acted on a key. `url` None: it did not. `told` False: it can't or won't say now."""

    told: bool
    url: str | None = None
    answer: Answer | None = None


class Upload(Protocol):
    """A file on its way, read as it is sent."""

    def read(self, size: int = -1, /) -> bytes: ...

    def seek(self, offset: int, whence: int = 0, /) -> int: ...

    def tell(self) -> int: ...


class Adapter(Protocol):
    """A network, for one sign-in. Calls never raise for what the network or the way to it does: they answer."""

    def profiles(self) -> list[RemoteProfile]: ...

    def known(self, key: str) -> Known: ...

    def send_media(self, file: Upload, name: str, content_type: str) -> Answer: ...

    def create(self, profile: str, key: str, post: Outgoing) -> Answer: ...

    def comment(self, profile: str, key: str, on: str, text: str) -> Answer: ...

    def update(self, url: str, text: str) -> Answer: ...

    def delete(self, url: str) -> Answer: ...

    def rising(self) -> dict[str, int]: ...

    def written(self, profile: str) -> list[Written]: ...

    def results(self, profile: str) -> list[Earned]: ...
