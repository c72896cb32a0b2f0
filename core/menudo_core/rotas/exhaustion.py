"""How far a rota reaches before it runs dry."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from menudo_core.rotas.rota import Assignment, EmptyReason

_EXHAUSTED_REASONS = {EmptyReason.RESTING, EmptyReason.USED_UP}


@dataclass(frozen=True, slots=True)
class Exhaustion:
    """The first day that stays empty for want of turns, how many whole weeks ahead that is, and why."""

    day: date
    weeks: int
    reason: EmptyReason


def find_exhaustion(assignments: Sequence[Assignment], today: date) -> Exhaustion | None:
    """When a rota runs dry on a profile; None: not within what was laid. What is silent by its own rules isn't dry."""
    for one in assignments:
        if one.empty_reason in _EXHAUSTED_REASONS:
            return Exhaustion(one.slot.day, max((one.slot.day - today).days, 0) // 7, one.empty_reason)
    return None
