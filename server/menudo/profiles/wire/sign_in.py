"""OAuth 2.0 at a network: where its endpoints are, the trip there, and tokens (RFC 6749, 7636, 8414)."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache
from typing import Any
from urllib.parse import urlsplit, urlunsplit

import httpx
from authlib.integrations.base_client.errors import OAuthError
from authlib.integrations.httpx_client import OAuth2Client
from django.conf import settings

from menudo.base import clock

CLIENT_ID = "menudo"
SCOPE = "create update delete media"
REDIRECT_PATH = "/connect/back"


class NetworkError(Exception):
    """The network could not be asked, or said no; the text is for people."""


@dataclass(frozen=True, slots=True)
class Tokens:
    """What the token endpoint gave. `ends`: when the whole connection does, if the network says."""

    access: str
    refresh: str
    access_ends: datetime
    ends: datetime | None
    account: str


def client() -> httpx.Client:
    """The one client of this process to the networks, kept so that connections are used again."""
    return _client(settings.WIRE_TIMEOUT)


@cache
def _client(timeout: float) -> httpx.Client:
    return httpx.Client(timeout=timeout, follow_redirects=False, trust_env=False)


def issuer_of(network: str) -> str:
    """The address of a network's authorisation server."""
    return f"{settings.STANDIN_URL}/{network}"


def discover(issuer: str) -> dict[str, str]:
    """The network's endpoints, by its server metadata (RFC 8414, 3). Raises NetworkError."""
    parts = urlsplit(issuer)
    address = urlunsplit((parts.scheme, parts.netloc, f"/.well-known/oauth-authorization-server{parts.path}", "", ""))
    try:
        response = client().get(address)
        response.raise_for_status()
        found = response.json()
    except (httpx.HTTPError, ValueError) as error:
        raise NetworkError("The network is not answering. Try again in a few minutes.") from error
    if found.get("issuer") != issuer or "S256" not in found.get("code_challenge_methods_supported", []):
        raise NetworkError("The network's sign-in is not set up the way Menudo needs it.")
    names = {
        "issuer": "issuer",
        "authorize": "authorization_endpoint",
        "token": "token_endpoint",
        "revoke": "revocation_endpoint",
        "micropub": "micropub_endpoint",
        "media": "media_endpoint",
    }
    return {name: str(found[key]) for name, key in names.items() if key in found}


def address_to_go_to(endpoints: dict[str, str], state: str, verifier: str) -> str:
    """Where the person is sent: the network's authorisation page, with an S256 challenge (RFC 7636, 4.2)."""
    url, _ = _session().create_authorization_url(endpoints["authorize"], state=state, code_verifier=verifier)
    return str(url)


def exchange(endpoints: dict[str, str], code: str, verifier: str) -> Tokens:
    """Tokens for the code that came back. Raises NetworkError."""
    return _tokens(
        lambda s: s.fetch_token(endpoints["token"], grant_type="authorization_code", code=code, code_verifier=verifier)
    )


def refresh(endpoints: dict[str, str], refresh_token: str) -> Tokens:
    """New tokens for a refresh token. Raises NetworkError, or Ended when the network has ended the connection."""
    return _tokens(lambda s: s.refresh_token(endpoints["token"], refresh_token=refresh_token))


class Ended(NetworkError):
    """The network no longer knows this sign-in."""


def _session() -> OAuth2Client:
    return OAuth2Client(
        CLIENT_ID,
        token_endpoint_auth_method="none",  # noqa: S106
        scope=SCOPE,
        redirect_uri=settings.PUBLIC_URL + REDIRECT_PATH,
        code_challenge_method="S256",
        timeout=settings.WIRE_TIMEOUT,
        trust_env=False,
    )


def _tokens(ask: Any) -> Tokens:
    session = _session()
    try:
        token = ask(session)
    except OAuthError as error:
        if error.error == "invalid_grant":
            raise Ended("The network has ended this connection.") from error
        raise NetworkError(f"The network said no: {error.description or error.error}.") from error
    except (httpx.HTTPError, ValueError) as error:
        raise NetworkError("The network is not answering. Try again in a few minutes.") from error
    finally:
        session.close()
    now = clock.now()
    ends = token.get("connection_expires_in")
    return Tokens(
        access=token["access_token"],
        refresh=token.get("refresh_token", ""),
        access_ends=now + timedelta(seconds=int(token.get("expires_in", 3600))),
        ends=now + timedelta(seconds=int(ends)) if ends else None,
        account=str(token.get("account", "")),
    )
