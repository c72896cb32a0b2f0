"""The morning page: what goes out, what waits for a person, what is in trouble."""

from datetime import datetime, time

from django.db.models import QuerySet

from menudo.calendar import schemas_today
from menudo.delivery.models import FirstComment
from menudo.delivery.troubles import troubled_deliveries
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery
from menudo_core.signoff.states import DeliveryState, PostState
from menudo_core.timing.walltimes import day_bounds

_MAX_ITEMS = 60
_TROUBLE = [DeliveryState.TROUBLE, DeliveryState.MISSED]


def today_page(context: BrandContext, now: datetime) -> schemas_today.TodayOut:
    """Everything of it, in four statements."""
    zone = context.zone
    day = now.astimezone(zone).date()
    start, end = day_bounds(datetime.combine(day, time()), zone, 1)
    mine = (
        Delivery.objects.filter(brand=context.brand, post__deleted_at__isnull=True)
        .select_related("profile", "comment")
        .order_by("due_at", "id")
    )
    going = mine.filter(due_at__gte=start, due_at__lt=end).exclude(
        state__in=[DeliveryState.UNPLANNED, DeliveryState.OFF, DeliveryState.HAND, *_TROUBLE]
    )
    held = mine.filter(state=DeliveryState.HELD, held_for="signoff").exclude(post__state=PostState.SIGNED)
    return schemas_today.TodayOut(
        date=day,
        zone=zone.key,
        going_out=_today_items(going, context),
        by_hand=_today_items(mine.filter(state=DeliveryState.HAND), context),
        trouble=_today_items(
            troubled_deliveries(context.brand).select_related("profile", "comment").order_by("due_at", "id"), context
        ),
        pending_signoffs=_today_items(held, context),
    )


def _today_items(rows: QuerySet[Delivery], context: BrandContext) -> list[schemas_today.TodayItem]:
    out = []
    for row in rows[:_MAX_ITEMS]:
        wall_time = row.due_at.astimezone(context.zone) if row.due_at else None
        comment: FirstComment | None = getattr(row, "comment", None)
        alone = comment is not None and comment.state == FirstComment.State.TROUBLE
        state, reason = (
            ("in_trouble", f"Its first comment: {comment.reason}") if comment and alone else (row.state, row.reason)
        )
        out.append(
            schemas_today.TodayItem(
                delivery=row.pk,
                post=row.post_id,
                handle=row.profile.display_name or row.profile.handle,
                network=row.profile.network,
                state=state,
                time=wall_time.isoformat(timespec="minutes")[:16] if wall_time else "",
                headline=row.headline,
                reason=reason,
            )
        )
    return out
