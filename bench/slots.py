"""A year of slots, 50 profiles × 14 a week, to UTC, beside dateutil.rrule."""

import random
from datetime import UTC, datetime, time
from zoneinfo import ZoneInfo

from dateutil import rrule

from bench.result import Result, measure_pair
from menudo_core.timing.slots import Slot, slots_between

ZONES = ["Europe/Madrid", "America/New_York", "Australia/Lord_Howe", "Asia/Kathmandu", "America/Santiago"]
START, END = datetime(2026, 1, 1, tzinfo=UTC), datetime(2027, 1, 1, tzinfo=UTC)
WEEKDAYS = (rrule.MO, rrule.TU, rrule.WE, rrule.TH, rrule.FR, rrule.SA, rrule.SU)


def measure() -> Result:
    dice = random.Random(7)
    timetables = []
    for n in range(50):
        slots = {Slot(k % 7, time(dice.randrange(6, 23), dice.choice((0, 15, 30, 45)))) for k in range(14)}
        timetables.append((sorted(slots), ZoneInfo(ZONES[n % len(ZONES)])))

    def ours() -> int:
        return sum(len(slots_between(slots, START, END, zone)) for slots, zone in timetables)

    def reference() -> int:
        count = 0
        for slots, zone in timetables:
            for slot in slots:
                first = datetime.combine(START.date(), slot.at, zone)
                rule = rrule.rrule(
                    rrule.WEEKLY,
                    byweekday=WEEKDAYS[slot.weekday],
                    dtstart=first,
                    until=datetime(2026, 12, 31, 23, 59, tzinfo=zone),
                )
                count += sum(bool(at.astimezone(UTC)) for at in rule)
        return count

    a, b, ratio = measure_pair(ours, reference, 5)
    made = ours()
    return Result(
        "slots",
        a,
        b,
        "seconds",
        ratio,
        "<= 1/5 of rrule",
        ratio <= 0.2,
        f"{made} slots of 50 profiles in 5 zones, to UTC; 5 pairs",
    )
