"""What stands on the calendar between two instants."""

from collections.abc import Collection
from datetime import date, datetime, time
from zoneinfo import ZoneInfo

from django.db.models import QuerySet

from menudo.posts.models import Delivery, Post
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.walltimes import day_bounds


def calendar_deliveries(brands: Collection[int], start: datetime, end: datetime) -> QuerySet[Delivery]:
    """What stands on the brands' calendars in [start, end), earliest first."""
    found = not_binned(Delivery.objects.filter(brand__in=brands, due_at__gte=start, due_at__lt=end), brands)
    return found.exclude(state=DeliveryState.UNPLANNED).order_by("due_at", "id")


def not_binned(rows: QuerySet[Delivery], brands: Collection[int]) -> QuerySet[Delivery]:
    """Deliveries of the brands without those of posts in the bin. It holds few of ever so many posts: they are left out by name,
    which costs a tenth of looking at each delivery's post."""
    return rows.exclude(post__in=Post.objects.filter(brand__in=brands, deleted_at__isnull=False).values("pk"))


def window_bounds(first: date, days: int, zone: ZoneInfo) -> tuple[datetime, datetime]:
    """When `days` days from `first` begin and end in `zone` (UTC)."""
    return day_bounds(datetime.combine(first, time()), zone, days)
