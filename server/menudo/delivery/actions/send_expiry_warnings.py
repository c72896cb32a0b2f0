"""Warn of connections that end soon: 14, 3 and 1 days before."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.clock import db_now
from menudo.base.sentences import say
from menudo.delivery.actions.end_connection import profile_managers
from menudo.notices.actions.notify import notify
from menudo.notices.failures import failure_boundary
from menudo.profiles.models import Connection
from menudo_core.profiles.expiry import WARNING_DAYS, days_left, due_warning


def send_expiry_warnings() -> int:
    """Give every warning that is due, once each. How many."""
    soon = Connection.objects.select_related("brand").filter(
        state=Connection.State.CONNECTED, expires_at__lte=db_now() + timedelta(days=max(WARNING_DAYS))
    )
    given = 0
    for connection in soon:
        with failure_boundary(
            "warn_of_endings", f"connection {connection.pk}", connection.brand_id, connection.account
        ):
            given += _warn_about(connection)
    return given


def _warn_about(connection: Connection) -> bool:
    now = clock.now()
    due = due_warning(connection.expires_at, now, connection.warned_days) if connection.expires_at else None
    if due is None or connection.expires_at is None:
        return False
    with transaction.atomic():
        if not Connection.objects.filter(pk=connection.pk, warned_days=connection.warned_days).update(warned_days=due):
            return False
        left = days_left(connection.expires_at, now)
        handles = ", ".join(connection.profiles.values_list("handle", flat=True)[:6])
        told = say("connection.ending", whose=handles or connection.account, count=left)
        key = f"ends:{connection.pk}:{connection.expires_at}:{due}"
        path = f"/{connection.brand.slug}/profiles"
        notify(profile_managers(connection.brand_id), connection.brand_id, "connection", key, told, path)
    return True
