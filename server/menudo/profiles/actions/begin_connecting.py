"""Set out to a network to connect profiles there."""

import secrets
from datetime import timedelta
from typing import TypeVar

from django.conf import settings

from menudo.base import clock
from menudo.base.problems import ConflictError, InvalidError
from menudo.base.sealing import seal
from menudo.base.sentences import say
from menudo.base.tokens import hash_token
from menudo.networks import sign_in
from menudo.networks.sites import discover_site
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Brand, User
from menudo.profiles.models import ConnectLink, PendingConnection
from menudo.profiles.sheets import can_connect
from menudo_core.networks.load import shipped_sheets

_Kept = TypeVar("_Kept")
SESSION_KEY = timedelta(minutes=20)
SITE = settings.OPEN_SITE
# In the session: which of the brand's pages each trip comes back to.
RETURN_PAGES = "return_pages"
# As many trips may be under way from one browser; older ones are forgotten.
MAX_PENDING = 20


def add_pending(trips: dict[str, _Kept], trip: str, page: _Kept) -> dict[str, _Kept]:
    """The trips that a session remembers, with another; the oldest give way."""
    return dict([*trips.items(), (trip, page)][-MAX_PENDING:])


def begin_connecting(context: BrandContext, network: str, address: str = "") -> tuple[str, str]:
    """Begin a trip for a person: the address at the network to send them to, and the state's hash. Raises InvalidError, ConflictError."""
    context.require(Capability.MANAGE_PROFILES)
    return _create_pending(context.brand, network, address, context.user, None)


def begin_by_link(link: ConnectLink, network: str, address: str = "") -> tuple[str, str]:
    """Begin a client's trip: the address to send them to, and the state's hash, for their browser's session to hold."""
    if network not in {want["network"] for want in link.requested}:
        raise InvalidError.at("/network", say("link.other_network"))
    return _create_pending(link.brand, network, address, None, link)


def _create_pending(
    brand: Brand, network: str, address: str, user: User | None, link: ConnectLink | None
) -> tuple[str, str]:
    sheet = shipped_sheets().get(network)
    if sheet is None or not can_connect(sheet):
        raise InvalidError.at("/network", say("network.none_to_connect"))
    address = address.strip()
    if network == SITE and not address:
        raise InvalidError.at("/address", say("site.addressless"))
    try:
        endpoints = discover_site(address) if network == SITE else sign_in.discover(network)
    except sign_in.NetworkError as error:
        if network == SITE:
            raise InvalidError.at("/address", str(error), "site") from error
        raise ConflictError(str(error)) from error
    state, verifier = secrets.token_urlsafe(32), secrets.token_urlsafe(64)
    PendingConnection.objects.filter(expires_at__lt=clock.now()).delete()
    PendingConnection.objects.create(
        state_hash=hash_token(state),
        verifier=seal(verifier),
        brand=brand,
        user=user,
        link=link,
        network=network,
        address=address,
        endpoints=endpoints,
        expires_at=clock.now() + SESSION_KEY,
    )
    return sign_in.authorization_address(endpoints, state, verifier), hash_token(state)
