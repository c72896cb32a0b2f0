"""A connection has ended: its profiles must be reconnected, and what is planned for them is held, not failed."""

from django.db import transaction

from menudo.base.clock import db_now
from menudo.base.sentences import say
from menudo.notices.actions.notify import notify
from menudo.notices.failures import failure_boundary
from menudo.people.capabilities import Capability
from menudo.people.queries import members_with
from menudo.posts.change.recompute_holds import recompute_holds
from menudo.profiles.actions.refresh_token import mark_connection_ended
from menudo.profiles.models import Connection


def end_connection(connection: Connection) -> None:
    """Mark it ended, hold what hangs on it, and tell those who manage profiles."""
    with transaction.atomic():
        mark_connection_ended(connection)
        recompute_holds(connection.brand_id, connection.profiles.values_list("pk", flat=True))
        handles = ", ".join(connection.profiles.values_list("handle", flat=True)[:6])
        notify(
            profile_managers(connection.brand_id),
            connection.brand_id,
            "connection",
            f"ended:{connection.pk}:{connection.expires_at}",
            say("connection.ended_notice", whose=handles or connection.account),
            f"/{connection.brand.slug}/profiles",
        )


def end_expired_connections() -> int:
    """End every connection whose time is over, before anything is sent into a closed door. How many."""
    over = Connection.objects.select_related("brand").filter(state=Connection.State.CONNECTED, expires_at__lte=db_now())
    for connection in over:
        with failure_boundary(
            "end_connections", f"connection {connection.pk}", connection.brand_id, connection.account
        ):
            end_connection(connection)
    return len(over)


def profile_managers(brand: int) -> list[int]:
    """Who manages profiles in a brand."""
    return members_with(brand, Capability.MANAGE_PROFILES)
