"""Set out to a network to connect profiles there."""

import secrets
from datetime import timedelta

from django.conf import settings

from menudo.base import clock
from menudo.base.problems import Conflict, Invalid
from menudo.base.sealed import seal
from menudo.base.tokens import hashed
from menudo.networks import sign_in
from menudo.networks.sites import discover_site
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Brand, User
from menudo.profiles.models import ConnectLink, PendingConnection
from menudo.profiles.sheets import can_connect
from menudo_core.networks.load import shipped

TRIP = timedelta(minutes=20)
SITE = settings.OPEN_SITE
# In the session: which of the brand's pages each trip comes back to.
RETURN_PAGES = "return_pages"
# As many trips may be under way from one browser; older ones are forgotten.
TRIPS_MOST = 20


def with_trip(trips: dict[str, str], trip: str, page: str) -> dict[str, str]:
    """The trips that a session remembers, with another; the oldest give way."""
    return dict([*trips.items(), (trip, page)][-TRIPS_MOST:])


def set_out(place: Here, network: str, address: str = "") -> tuple[str, str]:
    """Begin a trip for a person: the address at the network to send them to, and the state's hash. Raises Invalid, Conflict."""
    place.needs(May.MANAGE_PROFILES)
    return _begin(place.brand, network, address, place.user, None)


def set_out_by_link(link: ConnectLink, network: str, address: str = "") -> tuple[str, str]:
    """Begin a client's trip: the address to send them to, and the state's hash, for their browser's session to hold."""
    if network not in {want["network"] for want in link.wants}:
        raise Invalid.at("/network", "This link doesn't ask for that network.")
    return _begin(link.brand, network, address, None, link)


def _begin(brand: Brand, network: str, address: str, user: User | None, link: ConnectLink | None) -> tuple[str, str]:
    sheet = shipped().get(network)
    if sheet is None or not can_connect(sheet):
        raise Invalid.at("/network", "There is no such network to connect.")
    address = address.strip()
    if network == SITE and not address:
        raise Invalid.at("/address", "Write the site's address, for instance https://garden.example.org.")
    try:
        endpoints = discover_site(address) if network == SITE else sign_in.discover(network)
    except sign_in.NetworkError as error:
        if network == SITE:
            raise Invalid.at("/address", str(error), "site") from error
        raise Conflict(str(error)) from error
    state, verifier = secrets.token_urlsafe(32), secrets.token_urlsafe(64)
    PendingConnection.objects.filter(ends__lt=clock.now()).delete()
    PendingConnection.objects.create(
        state_hash=hashed(state), verifier=seal(verifier), brand=brand, user=user, link=link, network=network, address=address,
        endpoints=endpoints, ends=clock.now() + TRIP,
    )  # fmt: skip
    return sign_in.address_to_go_to(endpoints, state, verifier), hashed(state)
