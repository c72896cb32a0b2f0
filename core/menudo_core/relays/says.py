"""What relays say, by the kind of their source."""

from enum import StrEnum

from menudo_core.catalogue.events import Happened
from menudo_core.catalogue.said import MESSAGES
from menudo_core.feeds.messages import CATALOGUE_NAMES, NAMES


class SourceKind(StrEnum):
    """The letter that a source's key begins with."""

    PROFILE = "p"
    FEED = "f"
    CATALOGUE = "c"
    LABEL = "l"


def names_for(kind: SourceKind) -> tuple[str, ...]:
    """The placeholders that mean something for a source of this kind."""
    return (*NAMES, *CATALOGUE_NAMES) if kind is SourceKind.CATALOGUE else NAMES


def standard_message(kind: SourceKind, event: Happened | None = None) -> str:
    """What is said unless it is told otherwise; of a catalogue by its event."""
    if kind is SourceKind.CATALOGUE:
        return MESSAGES[event or Happened.OWN]
    return "{title}\n\n{summary 220}" if kind is SourceKind.FEED else "{text}"
