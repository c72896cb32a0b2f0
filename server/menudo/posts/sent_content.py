"""What went out."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime

from menudo_core.networks.content import Content


@dataclass(frozen=True, slots=True)
class SentContent:
    """A wording as it was sent: with each medium's hash (SHA-256) by asset id, whatever becomes of it in the library, and when
    its text was changed at the network since."""

    content: Content
    hashes: Mapping[int, str] = field(default_factory=dict)
    changed_at: datetime | None = None
