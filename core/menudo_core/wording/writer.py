"""What a writer is: it makes proposals, which a person takes or leaves. The built-in one is in builtin.py."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Protocol

from menudo_core.networks.content import Card
from menudo_core.text.clusters import Unit, measure
from menudo_core.text.links import weighted_length


class TaskKind(StrEnum):
    """What is wished for."""

    SHORTEN = "shorten"
    LENGTHEN = "lengthen"
    FORMAL = "formal"
    PLAIN = "plain"
    VARY = "vary"
    FROM_LINK = "from_link"


@dataclass(frozen=True, slots=True)
class Voice:
    """Who speaks, from the brand sheet. Levels go from 0 to 4; `language` is a BCP 47 tag, empty when not said."""

    brand: str = ""
    about: str = ""
    topics: tuple[str, ...] = ()
    use: tuple[str, ...] = ()
    avoid: tuple[str, ...] = ()
    salesy: int = 1
    emoji: int = 1
    language: str = ""


@dataclass(frozen=True, slots=True)
class WritingTask:
    """What a writer gets: the text, the limit it has to keep to (None: none) as its network counts, and the link's card."""

    kind: TaskKind
    text: str
    limit: int | None = None
    unit: Unit = Unit.CLUSTERS
    link_weight: int | None = None
    link: str = ""
    card: Card | None = None
    voice: Voice = field(default_factory=Voice)

    def size(self, text: str) -> int:
        return weighted_length(text, self.unit, self.link_weight) if text else measure("", self.unit)


class CannotWriteError(Exception):
    """The writer has nothing to propose; the text says why, for people."""


class Writer(Protocol):
    """Makes up to three proposals, all different and none of them the text itself; the same for the same seed.

    Raises CannotWriteError.
    """

    def propose(self, task: WritingTask, seed: int) -> Sequence[str]: ...
