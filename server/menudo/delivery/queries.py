"""What stands in the way of a brand's posts just now: pauses, what was missed, connections that end."""

from datetime import datetime, timedelta

from django.db.models import Q

from menudo.delivery import schemas
from menudo.delivery.actions.catch_up import missed_deliveries
from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.profiles.models import Connection
from menudo.profiles.queries import current_pauses
from menudo_core.profiles.expiry import WARNING_DAYS, days_left
from menudo_core.signoff.states import DeliveryState

_MAX_ROWS = 50


def obstacles(brand: Brand, now: datetime) -> schemas.ObstaclesOut:
    """Everything of it, in a fixed number of statements."""
    waiting = missed_deliveries(brand.pk)
    return schemas.ObstaclesOut(
        pauses=current_pauses(brand),
        missed=[
            schemas.MissedOut(
                delivery=d.pk,
                handle=d.profile.handle,
                headline=d.headline,
                due_at=d.due_at,
                held_for=d.held_for,
            )
            for d in waiting[:_MAX_ROWS]
            if d.due_at
        ],
        expiring=expiring_connections(brand, now),
        by_hand=Delivery.objects.filter(brand=brand, state=DeliveryState.HAND, post__deleted_at__isnull=True).count(),
    )


def expiring_connections(brand: Brand, now: datetime) -> list[schemas.ExpiringConnectionOut]:
    """Connections that end within the longest warning, and those that have ended and still have profiles."""
    soon = Q(state=Connection.State.CONNECTED, expires_at__lte=now + timedelta(days=max(WARNING_DAYS)))
    rows = Connection.objects.filter(soon | Q(state=Connection.State.ENDED), brand=brand).prefetch_related("profiles")
    return [
        schemas.ExpiringConnectionOut(
            connection=c.pk,
            network=c.network,
            account=c.account,
            handles=[p.handle for p in c.profiles.all()],
            expires_at=c.expires_at,
            days=days_left(c.expires_at, now) if c.expires_at else 0,
            ended=c.state == Connection.State.ENDED,
        )
        for c in rows.order_by("expires_at", "id")
        if c.profiles.all()
    ]
