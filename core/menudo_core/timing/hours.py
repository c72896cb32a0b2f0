"""Hours of the wall."""

from dataclasses import dataclass
from datetime import time


@dataclass(frozen=True, slots=True)
class Hours:
    """From `start` until `end` (not included), over midnight where `start` is later. The same time twice is none at all."""

    start: time
    end: time

    def contains(self, at: time) -> bool:
        if self.start <= self.end:
            return self.start <= at < self.end
        return at >= self.start or at < self.end
