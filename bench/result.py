"""What a benchmark says."""

import statistics
import time
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any


@dataclass(frozen=True)
class Result:
    """`ratio` is ours over the reference, in the same unit; `holds` says whether the bound does; `ran` says what was run."""

    name: str
    ours: float
    reference: float
    unit: str
    ratio: float
    bound: str
    holds: bool
    ran: str

    def as_dict(self) -> dict[str, Any]:
        return asdict(self)


def measure_pair(ours: Callable[[], Any], reference: Callable[[], Any], rounds: int) -> tuple[float, float, float]:
    """Median seconds of each, and the median of the ratios pair by pair: a machine whose speed drifts drifts for both."""
    ours(), reference()
    pairs = [(_time_once(ours), _time_once(reference)) for _ in range(rounds)]
    ratio = statistics.median(a / b for a, b in pairs)
    return statistics.median(a for a, _ in pairs), statistics.median(b for _, b in pairs), ratio


def _time_once(work: Callable[[], Any]) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start
