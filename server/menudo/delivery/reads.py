"""What stands in the way of a brand's posts just now: pauses, what was missed, connections that end."""

from datetime import datetime, timedelta
from typing import Any

from django.db.models import Q

from menudo.delivery.actions.catch_up import missed
from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.profiles.models import Connection
from menudo.profiles.reads import pauses
from menudo_core.profiles.endings import WARN_DAYS, days_left
from menudo_core.signoff.states import DeliveryState

_MOST = 50


def standing(brand: Brand, now: datetime) -> dict[str, Any]:
    """Everything of it, in a fixed number of statements."""
    waiting = missed(brand.pk)
    return {
        "pauses": pauses(brand),
        "missed": [
            {
                "delivery": d.pk,
                "handle": d.profile.handle,
                "headline": d.headline,
                "due_at": d.due_at,
                "held_for": d.held_for,
            }
            for d in waiting[:_MOST]
        ],
        "endings": endings(brand, now),
        "by_hand": Delivery.objects.filter(brand=brand, state=DeliveryState.HAND, post__binned__isnull=True).count(),
    }


def endings(brand: Brand, now: datetime) -> list[dict[str, Any]]:
    """Connections that end within the longest warning, and those that have ended and still have profiles."""
    soon = Q(state=Connection.State.CONNECTED, ends__lte=now + timedelta(days=max(WARN_DAYS)))
    rows = Connection.objects.filter(soon | Q(state=Connection.State.ENDED), brand=brand).prefetch_related("profiles")
    return [
        {
            "connection": c.pk, "network": c.network, "account": c.account, "handles": [p.handle for p in c.profiles.all()],
            "ends": c.ends, "days": days_left(c.ends, now) if c.ends else 0, "ended": c.state == Connection.State.ENDED,
        }
        for c in rows.order_by("ends", "id")
        if c.profiles.all()
    ]  # fmt: skip
