"""A first timetable for a new profile, by what its network is for. Common practice, no published source."""

from datetime import time

from menudo_core.timing.slots import Slot

_WORKDAYS, _ALL = range(5), range(7)
# By a network's kind of post: weekdays and wall times, to begin with and to be changed by whoever knows better.
_BY_USE: dict[str, tuple[tuple[range | tuple[int, ...], tuple[time, ...]], ...]] = {
    "short": ((_WORKDAYS, (time(9), time(13), time(18))), ((5, 6), (time(11),))),
    "page": ((_WORKDAYS, (time(12, 30),)), ((5, 6), (time(11),))),
    "photo": ((_ALL, (time(18, 30),)),),
    "professional": (((1, 2, 3), (time(8, 30),)),),
    "board": (((0, 2, 5), (time(20),)),),
    "video": (((3,), (time(17),)), ((6,), (time(11),))),
    "listing": (((0, 3), (time(10),)),),
}
_DEFAULT = ((_WORKDAYS, (time(12),)),)


def default_slots(use: str) -> list[Slot]:
    """Slots for a profile of a network used so (a rule sheet's `use`); one a workday at noon where that isn't known."""
    return sorted(Slot(day, at) for days, times in _BY_USE.get(use, _DEFAULT) for day in days for at in times)
