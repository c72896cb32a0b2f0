"""What the rules say of a version."""

from dataclasses import dataclass
from enum import StrEnum


class Level(StrEnum):
    STOPS = "stops"
    ADVICE = "advice"


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing that is wrong or could be better, at its field.

    `field` is a path from the version: `text`, `media`, `media/2`, `fields/title`.
    `limit` and `actual` are numbers or short words for the interface; `message` is the
    whole sentence, which says what to do.
    """

    level: Level
    rule: str
    field: str
    message: str
    limit: str = ""
    actual: str = ""


def blocks(findings: "list[Finding]") -> bool:
    """Whether any finding would have the network refuse."""
    return any(finding.level is Level.STOPS for finding in findings)
