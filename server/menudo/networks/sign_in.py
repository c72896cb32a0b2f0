"""OAuth 2.0 at a network: where its endpoints are, the trip there, and tokens (RFC 6749, 7636, 8414)."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from urllib.parse import urlsplit, urlunsplit

import httpx2
from authlib.integrations.base_client.errors import OAuthError
from authlib.integrations.httpx_client import OAuth2Client
from django.conf import settings

from menudo.base import clock
from menudo.base.fetch import FetchError
from menudo.base.numbers import parse_whole_number
from menudo.base.web_addresses import split_address
from menudo.networks.client import BoundedTransport, client_for, read_json, request, transport_for
from menudo.networks.networks_file import Network
from menudo.networks.registry import endpoint_names, queried_address

SCOPE = "create update delete media"
WELL_KNOWN = "/.well-known/oauth-authorization-server"
REDIRECT_PATH = "/connect/back"
# Ten years: what a network says beyond that says nothing.
_MAX_LIFETIME_SECONDS = 10 * 366 * 24 * 3600


# What people are sent to, and what is posted to.
_ADDRESSES = ("authorize", "token", "revoke")
_NOT_ANSWERING = "The network is not answering. Try again in a few minutes."
_NOT_SET_UP = "The network's sign-in is not set up the way Menudo needs it."


class NetworkError(Exception):
    """The network could not be asked, or said no; the text is for people."""


@dataclass(frozen=True, slots=True)
class Tokens:
    """What the token endpoint gave. `expires_at`: when the whole connection does, if the network says."""

    access: str
    refresh: str
    access_expires_at: datetime
    expires_at: datetime | None
    account: str


def _network_by_name(network: str) -> Network:
    """Raises NetworkError for a network that this installation doesn't know."""
    if network not in settings.NETWORKS:
        raise NetworkError("This installation isn't set up for that network.")
    found: Network = settings.NETWORKS[network]
    return found


def client_credentials(endpoints: dict[str, str]) -> dict[str, str]:
    """Who Menudo is at the network whose endpoints these are (RFC 6749, 2.3.1)."""
    if endpoints.get("site"):
        # A site knows nobody: to it, Menudo is its own address (IndieAuth, client identifiers).
        return {"client_id": settings.PUBLIC_URL + "/", "token_endpoint_auth_method": "none"}
    issuer = endpoints.get("issuer", "")
    known = next((one for one in settings.NETWORKS.values() if one.address == issuer), None) or Network(issuer)
    if known.client_secret:
        secret = {"client_secret": known.client_secret, "token_endpoint_auth_method": "client_secret_basic"}
        return {"client_id": known.client_id, **secret}
    return {"client_id": known.client_id, "token_endpoint_auth_method": "none"}


def discover(network: str) -> dict[str, str]:
    """A network's endpoints, by its server metadata (RFC 8414, 3), and which adapter they are for. Raises NetworkError."""
    known = _network_by_name(network)
    parts = urlsplit(known.address)
    address = urlunsplit((parts.scheme, parts.netloc, f"{WELL_KNOWN}{parts.path}", "", ""))
    try:
        response = request(client_for({}), "GET", address)
        response.raise_for_status()
    except (httpx2.HTTPError, FetchError) as error:
        raise NetworkError(_NOT_ANSWERING) from error
    endpoints = read_metadata(response, known.adapter)
    if endpoints.get("issuer") != known.address or not queried_address(endpoints):
        raise NetworkError(_NOT_SET_UP)
    return endpoints


def read_metadata(response: httpx2.Response, adapter: str = "micropub") -> dict[str, str]:
    """The endpoints that server metadata name (RFC 8414, 2), the adapter's among them. Raises NetworkError; S256 is asked
    for (RFC 7636, 4.2)."""
    try:
        found = read_json(response)
    except ValueError as error:
        raise NetworkError(_NOT_ANSWERING) from error
    if not isinstance(found, dict) or "S256" not in found.get("code_challenge_methods_supported", []):
        raise NetworkError(_NOT_SET_UP)
    names = {
        "issuer": "issuer",
        "authorize": "authorization_endpoint",
        "token": "token_endpoint",
        "revoke": "revocation_endpoint",
        **endpoint_names(adapter),
    }
    endpoints = {"adapter": adapter, **{name: str(found[key]) for name, key in names.items() if key in found}}
    if any(not split_address(endpoints[name]) for name in _ADDRESSES if name in endpoints):
        raise NetworkError(_NOT_SET_UP)
    # RFC 9207, 2.3: who says that their answers say whose they are is held to it.
    says = found.get("authorization_response_iss_parameter_supported") is True
    return {**endpoints, "says_issuer": "yes"} if says else endpoints


def authorization_address(endpoints: dict[str, str], state: str, verifier: str) -> str:
    """Where the person is sent: the network's authorisation page, with an S256 challenge (RFC 7636, 4.2)."""
    more = {"me": endpoints["site"]} if endpoints.get("site") else {}
    url, _ = open_session(endpoints).create_authorization_url(
        endpoints["authorize"], state=state, code_verifier=verifier, **more
    )
    return str(url)


def exchange_code(endpoints: dict[str, str], code: str, verifier: str) -> Tokens:
    """Tokens for the code that came back. Raises NetworkError."""
    return request_tokens(
        endpoints,
        lambda s: s.fetch_token(endpoints["token"], grant_type="authorization_code", code=code, code_verifier=verifier),
    )


def refresh_tokens(endpoints: dict[str, str], refresh_token: str) -> Tokens:
    """New tokens for a refresh token. Raises NetworkError, or ConnectionEndedError when the network has ended the connection."""
    return request_tokens(endpoints, lambda s: s.refresh_token(endpoints["token"], refresh_token=refresh_token))


class ConnectionEndedError(NetworkError):
    """The network no longer knows this sign-in."""


def revoke_token(endpoints: dict[str, str], token: str) -> None:
    """Tell the network that the connection is no longer wanted (RFC 7009). It may not be there to hear it: no matter."""
    if "revoke" not in endpoints:
        return
    session = open_session(endpoints)
    try:
        session.revoke_token(endpoints["revoke"], token=token, token_type_hint="refresh_token")  # noqa: S106
    except (httpx2.HTTPError, OAuthError, FetchError, ValueError, RecursionError):
        return
    finally:
        session.close()


def open_session(endpoints: dict[str, str]) -> OAuth2Client:
    site = bool(endpoints.get("site"))
    return OAuth2Client(
        **client_credentials(endpoints),
        scope=SCOPE,
        redirect_uri=settings.PUBLIC_URL + REDIRECT_PATH,
        code_challenge_method="S256",
        timeout=settings.WIRE_TIMEOUT,
        trust_env=False,
        transport=BoundedTransport(transport_for(site)),
    )


def request_tokens(endpoints: dict[str, str], ask: Any) -> Tokens:
    session = open_session(endpoints)
    try:
        token = ask(session)
    except OAuthError as error:
        if error.error == "invalid_grant":
            raise ConnectionEndedError("The network has ended this connection.") from error
        raise NetworkError(f"The network said no: {error.description or error.error}.") from error
    except (httpx2.HTTPError, FetchError, ValueError, RecursionError) as error:
        raise NetworkError(_NOT_ANSWERING) from error
    finally:
        session.close()
    if not isinstance(token.get("access_token"), str):
        raise NetworkError("The network's answer can't be read.")
    now = clock.now()
    lasts = parse_whole_number(token.get("expires_in"), _MAX_LIFETIME_SECONDS)
    ends = parse_whole_number(token.get("connection_expires_in"), _MAX_LIFETIME_SECONDS)
    refreshed = token.get("refresh_token")
    return Tokens(
        access=token["access_token"],
        refresh=refreshed if isinstance(refreshed, str) else "",
        access_expires_at=now + timedelta(seconds=3600 if lasts is None else lasts),
        expires_at=now + timedelta(seconds=ends) if ends else None,
        # Accounts of two sites may be called alike: a site's sign-in is known by its address.
        account=str(endpoints.get("site") or token.get("account", "")),
    )
