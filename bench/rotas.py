"""A year of a rota: 50 profiles × 200 posts, 14 slots a week, against a second; and how it grows."""

import statistics
import time
from datetime import UTC, datetime
from datetime import time as wall
from zoneinfo import ZoneInfo

from bench.result import Result
from menudo_core.rotas.assignment import assign_turns
from menudo_core.rotas.rota import Order, Rota, RotaSlot, Season, Turn
from menudo_core.timing.slots import Slot, slots_between

START, END = datetime(2026, 1, 1, tzinfo=UTC), datetime(2027, 1, 1, tzinfo=UTC)
ZONE = ZoneInfo("Europe/Madrid")


def measure() -> Result:
    slots = [Slot(k % 7, wall(8 + k % 12, 15 * (k % 4))) for k in range(14)]
    spots = [RotaSlot(at, at.astimezone(ZONE).date()) for at in slots_between(slots, START, END, ZONE)]
    ours, assigned = _time_year(50, 200, spots)
    grown = [
        (profiles, posts, _time_year(profiles, posts, spots)[0])
        for profiles, posts in ((100, 200), (50, 400), (50, 50))
    ]
    growth = "; ".join(f"{a} × {b}: {seconds:.2f} s" for a, b, seconds in grown)
    ran = f"{assigned} turns laid out for 50 profiles × 200 posts, shuffled, a tenth in season, rest 45 days; growth: {growth}"
    return Result("rotas", ours, 1.0, "s", ours, "<= 1 s", ours <= 1.0, ran)


def _time_year(profiles: int, posts: int, spots: list[RotaSlot]) -> tuple[float, int]:
    """Seconds, the middle one of five goes, and how many turns were laid out."""
    spring = (Season((3, 1), (5, 31)),)
    turns = [Turn(n, wordings=1 + n % 3, seasons=spring if n % 10 == 0 else ()) for n in range(posts)]
    rota = Rota(Order.SHUFFLE, seed=3, rest_days=45)
    took, count = [], 0
    for _ in range(5):
        start = time.perf_counter()
        count = sum(one.turn is not None for n in range(profiles) for one in assign_turns(rota, turns, n, spots))
        took.append(time.perf_counter() - start)
    return statistics.median(took), count
