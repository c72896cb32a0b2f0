"""What time it is. One place, so that the demo's world can live on a fixed day (MENUDO_DEMO_DATE)."""

from datetime import datetime

from django.conf import settings
from django.db.models.expressions import Combinable
from django.db.models.functions import Now
from django.utils import timezone


def now() -> datetime:
    """The present instant, UTC."""
    return timezone.now() + settings.CLOCK_OFFSET


def db_now() -> Combinable:
    """The present instant by the database's clock, the same for all workers."""
    return Now() + settings.CLOCK_OFFSET if settings.CLOCK_OFFSET else Now()


def to_engine_time(at: datetime) -> datetime:
    """An instant of ours by the clock that the job engine goes by."""
    return at - settings.CLOCK_OFFSET


def from_engine_time(at: datetime) -> datetime:
    """An instant of the job engine's clock by ours."""
    return at + settings.CLOCK_OFFSET
