"""Through the wire with a token that works, and what a network knows of a key."""

from collections.abc import Callable

import structlog

from menudo.delivery.actions.end_connection import end_connection
from menudo.profiles.actions.token import working_token
from menudo.profiles.models import Connection
from menudo.profiles.sheets import sheet_for
from menudo.profiles.wire import sign_in
from menudo.profiles.wire.micropub import Micropub
from menudo_core.sending.decide import Answer, Outcome

log = structlog.get_logger(__name__)


def through(connection: Connection, act: Callable[[Micropub], Answer]) -> Answer:
    """Act through the wire with a token that works; a refused one is renewed once, and a connection that ended is said so."""
    try:
        token = working_token(connection)
        answer = act(Micropub(sign_in.client_for(connection.endpoints), connection.endpoints, token))
        if answer.outcome is Outcome.NOT_AUTHORISED:
            token = working_token(connection, refused=token)
            answer = act(Micropub(sign_in.client_for(connection.endpoints), connection.endpoints, token))
    except sign_in.Ended:
        answer = Answer(Outcome.NOT_AUTHORISED)
    except sign_in.NetworkError as error:
        return Answer(Outcome.DOWN, str(error))
    if answer.outcome is Outcome.NOT_AUTHORISED:
        end_connection(Connection.objects.get(pk=connection.pk))
    return answer


def was_it_done(adapter: Micropub, brand: int, network: str, key: str) -> Answer | None:
    """What the network says of the key of an earlier try; None: it did not act on it, so it can be sent."""
    if not sheet_for(brand, network).wire.knows_keys:
        return Answer(Outcome.UNSURE)
    known = adapter.known(key)
    if not known.told:
        refused = known.answer is None or known.answer.outcome in (Outcome.REFUSED, Outcome.DONE)
        return Answer(Outcome.UNSURE) if refused else known.answer
    if known.url:
        log.info("found_there_already")
        return Answer(Outcome.DONE, url=known.url)
    return None
