"""What every adapter to a network does. A network with another wire is one more file beside micropub.py."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Protocol

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
class Attachment:
    """A medium at the network: the address its media endpoint gave, and its alt text."""

    url: str
    kind: str
    alt: str


@dataclass(frozen=True, slots=True)
class Known:
    """Whether the network acted on a key. `url` None: it did not. `told` False: it can't or won't say now."""

    told: bool
    url: str | None = None
    answer: Answer | None = None


class Adapter(Protocol):
    """A network, for one sign-in. Calls never raise for what the network or the way to it does: they answer."""

    def profiles(self) -> list[RemoteProfile]: ...

    def known(self, key: str) -> Known: ...

    def send_media(self, data: bytes, name: str, content_type: str) -> Answer: ...

    def create(
        self, profile: str, key: str, text: str, media: Sequence[Attachment], fields: Mapping[str, str] | None = None
    ) -> Answer: ...
