"""A token that works, refreshed when it must be; and what to do when there is none."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.sealing import seal, unseal
from menudo.base.sentences import say
from menudo.history.actions.record_event import MENUDO, record_event
from menudo.networks import sign_in
from menudo.profiles.models import Connection, Profile

_REFRESH_EARLY = timedelta(seconds=60)


def working_token(connection: Connection, refused: str = "") -> str:
    """The connection's access token. `refused`: one the network just turned away, so a new one is fetched.

    Refresh tokens rotate (RFC 9700, 4.14.2), so two workers must not both use one: the row is
    locked, and the second finds the first one's new token. Raises sign_in.ConnectionEndedError or NetworkError.
    """
    present = unseal(connection.access_token)
    if present != refused and connection.access_expires_at - _REFRESH_EARLY > clock.now():
        return present
    with transaction.atomic():
        row = Connection.objects.select_for_update(no_key=True).get(pk=connection.pk)
        present = unseal(row.access_token)
        if present != refused and row.access_expires_at - _REFRESH_EARLY > clock.now():
            return present
        if row.state == Connection.State.ENDED or not row.refresh_token:
            raise sign_in.ConnectionEndedError("The network has ended this connection.")
        tokens = sign_in.refresh_tokens(row.endpoints, unseal(row.refresh_token))
        row.access_token, row.access_expires_at = seal(tokens.access), tokens.access_expires_at
        row.refresh_token = seal(tokens.refresh) if tokens.refresh else row.refresh_token
        row.expires_at = tokens.expires_at or row.expires_at
        row.save(update_fields=["access_token", "access_expires_at", "refresh_token", "expires_at"])
        return tokens.access


def mark_connection_ended(connection: Connection) -> None:
    """The network has ended the connection: its profiles must be reconnected."""
    with transaction.atomic():
        changed = Connection.objects.filter(pk=connection.pk, state=Connection.State.CONNECTED).update(
            state=Connection.State.ENDED
        )
        if not changed:
            return
        for profile in connection.profiles.filter(state__in=[Profile.State.CONNECTED, Profile.State.NOT_READY]):
            Profile.objects.filter(pk=profile.pk).update(state=Profile.State.RECONNECT)
            record_event(
                profile.brand_id,
                MENUDO,
                "ended",
                "profile",
                profile.pk,
                say("connection.ended", profile=profile.handle),
            )
            publish_change(profile.brand_id, "profile", profile.pk)
