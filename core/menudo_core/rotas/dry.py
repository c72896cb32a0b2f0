"""How far a rota reaches before it runs dry."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from menudo_core.rotas.rota import Laid, Why

_DRY = {Why.RESTING, Why.USED_UP}


@dataclass(frozen=True, slots=True)
class Dry:
    """The first day that stays empty for want of turns, how many whole weeks ahead that is, and why."""

    day: date
    weeks: int
    why: Why


def runs_dry(laid: Sequence[Laid], today: date) -> Dry | None:
    """When a rota runs dry on a profile; None: not within what was laid. What is silent by its own rules isn't dry."""
    for one in laid:
        if one.why in _DRY:
            return Dry(one.spot.day, max((one.spot.day - today).days, 0) // 7, one.why)
    return None
