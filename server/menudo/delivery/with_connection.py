"""Through the wire with a token that works, and what a network knows of a key."""

from collections.abc import Callable
from datetime import datetime

import structlog

from menudo.delivery.actions.end_connection import end_connection
from menudo.networks import sign_in
from menudo.networks.protocol import Adapter
from menudo.networks.registry import open_adapter
from menudo.profiles.actions.refresh_token import working_token
from menudo.profiles.models import Connection, Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.sending.decision import NetworkResponse, Outcome

log = structlog.get_logger(__name__)


def with_connection(connection: Connection, act: Callable[[Adapter], NetworkResponse]) -> NetworkResponse:
    """Act through the wire with a token that works; a refused one is renewed once, and a connection that ended is said so."""
    try:
        token = working_token(connection)
        response = act(open_adapter(connection.endpoints, token))
        if response.outcome is Outcome.NOT_AUTHORISED:
            token = working_token(connection, refused=token)
            response = act(open_adapter(connection.endpoints, token))
    except sign_in.ConnectionEndedError:
        response = NetworkResponse(Outcome.NOT_AUTHORISED)
    except sign_in.NetworkError as error:
        return NetworkResponse(Outcome.DOWN, str(error))
    if response.outcome is Outcome.NOT_AUTHORISED:
        end_connection(Connection.objects.get(pk=connection.pk))
    return response


def find_by_key(adapter: Adapter, profile: Profile, key: str, since: datetime) -> NetworkResponse | None:
    """What the network says of the key of an earlier try, not before `since`; None: it did not act on it, so it can be
    sent."""
    if not sheet_for(profile.brand_id, profile.network).wire.knows_keys:
        return NetworkResponse(Outcome.UNSURE)
    found = adapter.find_by_key(profile.remote_id, key, since)
    if not found.answered:
        refused = found.response is None or found.response.outcome in (Outcome.REFUSED, Outcome.DONE)
        return NetworkResponse(Outcome.UNSURE) if refused else found.response
    if found.url:
        log.info("delivery.found_at_network")
        return NetworkResponse(Outcome.DONE, url=found.url)
    return None
