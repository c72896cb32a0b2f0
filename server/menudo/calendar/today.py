"""The morning page: what goes out, what waits for a person, what is in trouble."""

from collections.abc import Iterable
from datetime import datetime, time
from typing import Any

from django.db.models import Q

from menudo.people.here import Here
from menudo.posts.models import Delivery, FirstComment
from menudo_core.signoff.states import DeliveryState, PostState
from menudo_core.timing.walltimes import day_bounds

_MOST = 60
_TROUBLE = [DeliveryState.TROUBLE, DeliveryState.MISSED]
# Published, but its first comment failed alone.
ALONE = Q(comment__state=FirstComment.State.TROUBLE)


def today(place: Here, now: datetime) -> dict[str, Any]:
    """Everything of it, in four statements."""
    zone = place.zone
    day = now.astimezone(zone).date()
    start, end = day_bounds(datetime.combine(day, time()), zone, 1)
    mine = (
        Delivery.objects.filter(brand=place.brand, post__binned__isnull=True)
        .select_related("profile", "comment")
        .order_by("due_at", "id")
    )
    going = mine.filter(due_at__gte=start, due_at__lt=end).exclude(
        state__in=[DeliveryState.UNPLANNED, DeliveryState.OFF, DeliveryState.HAND, *_TROUBLE]
    )
    held = mine.filter(state=DeliveryState.HELD, held_for="signoff").exclude(post__state=PostState.SIGNED)
    return {
        "date": day,
        "zone": zone.key,
        "going_out": _items(going, place),
        "by_hand": _items(mine.filter(state=DeliveryState.HAND), place),
        "trouble": _items(mine.filter(Q(state__in=_TROUBLE) | ALONE), place),
        "to_sign": _items(held, place),
    }


def _items(rows: Iterable[Delivery], place: Here) -> list[dict[str, Any]]:
    out = []
    for row in list(rows[:_MOST]):  # type: ignore[index]
        wall = row.due_at.astimezone(place.zone) if row.due_at else None
        comment: FirstComment | None = getattr(row, "comment", None)
        alone = comment is not None and comment.state == FirstComment.State.TROUBLE
        state, reason = (
            ("in_trouble", f"Its first comment: {comment.reason}") if comment and alone else (row.state, row.reason)
        )
        out.append(
            {
                "delivery": row.pk, "post": row.post_id, "handle": row.profile.called or row.profile.handle,
                "network": row.profile.network, "state": state, "time": wall.isoformat(timespec="minutes")[:16] if wall else "",
                "headline": row.headline, "reason": reason,
            }
        )  # fmt: skip
    return out
