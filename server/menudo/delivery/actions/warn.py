"""Warn of connections that end soon: 14, 3 and 1 days before."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.clock import db_now
from menudo.delivery.actions.end_connection import managers
from menudo.notices.actions.notify import notify
from menudo.notices.mishaps import boundary
from menudo.profiles.models import Connection
from menudo_core.profiles.endings import WARN_DAYS, days_left, to_warn


def warn() -> int:
    """Give every warning that is due, once each. How many."""
    soon = Connection.objects.select_related("brand").filter(
        state=Connection.State.CONNECTED, ends__lte=db_now() + timedelta(days=max(WARN_DAYS))
    )
    given = 0
    for connection in soon:
        with boundary("warn_of_endings", f"connection {connection.pk}", connection.brand_id, connection.account):
            given += _warn_of(connection)
    return given


def _warn_of(connection: Connection) -> bool:
    now = clock.now()
    due = to_warn(connection.ends, now, connection.warned) if connection.ends else None
    if due is None or connection.ends is None:
        return False
    with transaction.atomic():
        if not Connection.objects.filter(pk=connection.pk, warned=connection.warned).update(warned=due):
            return False
        left = days_left(connection.ends, now)
        handles = ", ".join(connection.profiles.values_list("handle", flat=True)[:6])
        words = f"The connection of {handles or connection.account} ends in {left} {'day' if left == 1 else 'days'}: reconnect it before"
        key = f"ends:{connection.pk}:{connection.ends}:{due}"
        path = f"/{connection.brand.slug}/profiles"
        notify(managers(connection.brand_id), connection.brand_id, "connection", key, words, path)
    return True
