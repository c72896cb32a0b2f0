"""What stands on a calendar by its count, where there is more than can be read."""

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, datetime
from typing import Any
from zoneinfo import ZoneInfo

from django.contrib.postgres.fields import ArrayField
from django.db.models import Count, DateTimeField, F, Q, QuerySet, Value

from menudo.base.rows import PlainInteger
from menudo.calendar import schemas
from menudo.delivery.troubles import TROUBLE_STATES
from menudo.posts.models import Delivery
from menudo_core.timing.walltimes import day_parts

_HOURS = 24


def count_by_profile(rows: QuerySet[Delivery], first: date, days: int, zone: ZoneInfo) -> list[schemas.LaneCountOut]:
    """How many stand on each profile's days, from `first` in `zone`. One statement."""
    found: dict[int, list[int]] = defaultdict(lambda: [0] * days)
    for profile, day, count, _trouble in _counted(rows, day_parts(first, days, zone), "profile_id"):
        found[profile][day] = count
    return [schemas.LaneCountOut(profile=profile, days=counts) for profile, counts in found.items()]


def heaps_by_network(
    rows: QuerySet[Delivery], first: date, days: int, zone: ZoneInfo, hourly: bool = False
) -> list[schemas.HeapOut]:
    """How many of each network stand on each day from `first` in `zone`, or in each hour of it; earliest first. One statement."""
    counted = _counted(rows, day_parts(first, days, zone, _HOURS if hourly else 1), "profile__network")
    return [_heap_of(part, network, count, trouble, hourly) for network, part, count, trouble in counted]


def heaps_by_brand(
    rows: QuerySet[Delivery], first: date, days: int, zones: dict[int, ZoneInfo]
) -> dict[int, list[schemas.HeapOut]]:
    """The same for several brands, each in its own zone: a statement for each zone."""
    found: dict[int, list[schemas.HeapOut]] = defaultdict(list)
    for zone in dict.fromkeys(zones.values()):
        here = rows.filter(brand__in=[brand for brand, theirs in zones.items() if theirs == zone])
        starts = day_parts(first, days + 1, zone)
        counted = _counted(
            here.filter(due_at__gte=starts[0], due_at__lt=starts[-1]), starts[:-1], "brand_id", "profile__network"
        )
        for brand, network, day, count, trouble in counted:
            found[brand].append(_heap_of(day, network, count, trouble, hourly=False))
    return found


def _heap_of(part: int, network: str, count: int, trouble: int, hourly: bool) -> schemas.HeapOut:
    day, hour = divmod(part, _HOURS) if hourly else (part, None)
    return schemas.HeapOut(day=day, hour=hour, network=network, count=count, trouble=trouble)


def _counted(rows: QuerySet[Delivery], starts: Sequence[datetime], *by: str) -> list[tuple[Any, ...]]:
    """What it is counted by, which part of the window (from nought; each begins at one of `starts`), how many, and of these in
    trouble. Which part an instant lies in is found by its bounds: no zone but Python's has a say."""
    part = _Bucket(F("due_at"), Value(list(starts), output_field=ArrayField(DateTimeField())))
    trouble = Count("pk", filter=Q(state__in=TROUBLE_STATES))
    counted = rows.order_by().values(*by).annotate(part=part).annotate(count=Count("pk"), trouble=trouble)
    return list(counted.order_by("part", *by).values_list(*by, "part", "count", "trouble"))


class _Bucket(PlainInteger):
    """By PostgreSQL's width_bucket over ascending bounds: which of them is the last that is reached, from nought."""

    function = "width_bucket"
    template = "(%(function)s(%(expressions)s) - 1)"
