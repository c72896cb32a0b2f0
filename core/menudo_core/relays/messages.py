"""What relays say, by the kind of their source."""

from enum import StrEnum

from menudo_core.catalogue.events import EventKind
from menudo_core.catalogue.formatting import STANDARD_MESSAGES
from menudo_core.feeds.messages import CATALOGUE_PLACEHOLDERS, FEED_PLACEHOLDERS


class SourceKind(StrEnum):
    """The letter that a source's key begins with."""

    PROFILE = "p"
    FEED = "f"
    CATALOGUE = "c"
    LABEL = "l"


def placeholders_for(kind: SourceKind) -> tuple[str, ...]:
    """The placeholders that mean something for a source of this kind."""
    return (*FEED_PLACEHOLDERS, *CATALOGUE_PLACEHOLDERS) if kind is SourceKind.CATALOGUE else FEED_PLACEHOLDERS


def standard_message(kind: SourceKind, event: EventKind | None = None) -> str:
    """What is said unless it is told otherwise; of a catalogue by its event."""
    if kind is SourceKind.CATALOGUE:
        return STANDARD_MESSAGES[event or EventKind.OWN]
    return "{title}\n\n{summary 220}" if kind is SourceKind.FEED else "{text}"
