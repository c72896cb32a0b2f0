"""The day strip: the next 24 hours."""

from collections import Counter
from datetime import datetime, timedelta
from itertools import takewhile
from zoneinfo import ZoneInfo

from menudo.calendar import schemas_today
from menudo.delivery.troubles import troubled_deliveries
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.walltimes import full_hours

_DAY = timedelta(hours=24)
_OFF_THE_STRIP = [DeliveryState.UNPLANNED, DeliveryState.OFF, DeliveryState.PUBLISHED]


def next_day_strip(context: BrandContext, now: datetime) -> schemas_today.StripOut:
    """The next 24 hours from `now`: one statement for the ticks and one for the trouble before them."""
    zone = context.zone
    # What is still going out, and what stands in trouble since midnight, is on the strip; older trouble is counted.
    rows = (
        Delivery.objects.filter(
            brand=context.brand,
            due_at__gte=now - timedelta(minutes=15),
            due_at__lt=now + _DAY,
            post__deleted_at__isnull=True,
        )
        .exclude(state__in=_OFF_THE_STRIP)
        .order_by("due_at", "id")
        .values_list("id", "post_id", "state", "due_at", "headline", "profile__handle")
    )
    stacks: Counter[int] = Counter()
    ticks: list[schemas_today.TickOut] = []
    for delivery, post, state, due_at, headline, handle in rows:
        if due_at is None:
            continue
        quarter = int((due_at - now) / timedelta(minutes=15))
        words = f"{due_at.astimezone(zone):%H:%M} {handle}, {state.replace('_', ' ')}: {headline or 'no text'}"
        share = max((due_at - now) / _DAY, 0.0)
        ticks.append(
            schemas_today.TickOut(
                delivery=delivery, post=post, state=state, share=share, stack=stacks[quarter], summary=words
            )
        )
        stacks[quarter] += 1
    trouble = troubled_deliveries(context.brand).filter(due_at__lt=now).count()
    wall_now = now.astimezone(zone)
    return schemas_today.StripOut(
        now=now,
        zone=zone.key,
        clock=f"{wall_now:%H:%M %a}",
        hours=_full_hours(now, zone),
        ticks=ticks,
        trouble=trouble,
    )


def _full_hours(now: datetime, zone: ZoneInfo) -> list[schemas_today.HourOut]:
    """The full hours of the next 24, as real instants: a day with a clock change shows it."""
    found = takewhile(lambda at: at < now + _DAY, full_hours(now - timedelta(minutes=1), zone))
    return [
        schemas_today.HourOut(share=(at - now) / _DAY, label=f"{at.astimezone(zone):%H}") for at in found if at >= now
    ]
