"""Pauses: windows of time in which nothing goes out."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True, slots=True)
class Pause:
    """A window [since, until) of UTC instants. `until` None: until somebody ends it."""

    since: datetime
    until: datetime | None = None

    def covers(self, instant: datetime) -> bool:
        """Whether something due at `instant` is stopped by this pause."""
        return self.since <= instant and (self.until is None or instant < self.until)


def pause_at(pauses: Iterable[Pause], instant: datetime) -> Pause | None:
    """The pause that stops what is due at `instant`: of several, the one that lasts longest; None: none does."""
    standing = [pause for pause in pauses if pause.covers(instant)]
    return max(standing, key=lambda p: (p.until is None, p.until or p.since), default=None)
