"""The networks' authorisation server: code with PKCE (S256 only), rotating refresh tokens, revocation.

Built on Authlib. Tokens are kept as hashes; a connection ends 90 days after it was given.
"""

import hashlib
import json
import secrets
import time
from dataclasses import dataclass
from typing import Any

from authlib.integrations.flask_oauth2 import AuthorizationServer
from authlib.oauth2.rfc6749 import ClientMixin, TokenMixin
from authlib.oauth2.rfc6749.errors import InvalidGrantError, InvalidRequestError
from authlib.oauth2.rfc6749.grants import AuthorizationCodeGrant, RefreshTokenGrant
from authlib.oauth2.rfc7009 import RevocationEndpoint
from authlib.oauth2.rfc7636 import CodeChallenge
from flask import Flask, current_app, g

from menudo_standin.store import Store

CONNECTION_DAYS = 90
ACCESS_SECONDS = 3600


def hash_token(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()


def current_store() -> Store:
    found: Store = current_app.config["STORE"]
    return found


class Client(ClientMixin):  # type: ignore[misc]  # authlib is untyped
    """Menudo, as the networks know it: a public client with one address to come back to."""

    def __init__(self, redirect: str, client_id: str) -> None:
        self.redirect, self.id = redirect, client_id

    def get_client_id(self) -> str:
        return self.id

    def get_default_redirect_uri(self) -> str:
        return self.redirect

    def get_allowed_scope(self, scope: str) -> str:
        return " ".join(s for s in (scope or "").split() if s in ("create", "update", "delete", "media"))

    def check_redirect_uri(self, redirect_uri: str) -> bool:
        return redirect_uri == self.redirect

    def check_client_secret(self, client_secret: str) -> bool:
        return False

    def check_endpoint_auth_method(self, method: str, endpoint: str) -> bool:
        return method == "none"

    def check_response_type(self, response_type: str) -> bool:
        return response_type == "code"

    def check_grant_type(self, grant_type: str) -> bool:
        return grant_type in ("authorization_code", "refresh_token")


@dataclass
class Grant:
    """An account and the profiles chosen of it."""

    id: int
    chosen: list[str]


@dataclass
class Code:
    row: Any

    def get_redirect_uri(self) -> str:
        return str(self.row["redirect"])

    def get_scope(self) -> str:
        return str(self.row["scope"])

    @property
    def code_challenge(self) -> str:
        return str(self.row["challenge"])

    @property
    def code_challenge_method(self) -> str:
        return str(self.row["method"])


@dataclass
class Token(TokenMixin):  # type: ignore[misc]  # authlib is untyped
    row: Any

    def check_client(self, client: ClientMixin) -> bool:
        return bool(self.row["client"] == client.get_client_id())

    def get_scope(self) -> str:
        return str(self.row["scope"])

    def is_revoked(self) -> bool:
        return bool(self.row["revoked"])


class CodeGrant(AuthorizationCodeGrant):  # type: ignore[misc]  # authlib is untyped
    TOKEN_ENDPOINT_AUTH_METHODS = ["none"]

    def save_authorization_code(self, code: str, request: Any) -> None:
        data = request.payload.data
        current_store().execute(
            "INSERT INTO code VALUES (?,?,?,?,?,?,?,?,?,?)",
            hash_token(code),
            g.network,
            request.user.id,
            request.client.get_client_id(),
            request.payload.redirect_uri or request.client.get_default_redirect_uri(),
            request.payload.scope or "",
            data.get("code_challenge", ""),
            data.get("code_challenge_method", "plain"),
            json.dumps(request.user.chosen),
            time.time() + 300,
        )

    def query_authorization_code(self, code: str, client: ClientMixin) -> Code | None:
        row = current_store().fetch_one(
            "SELECT * FROM code WHERE code = ? AND network = ? AND client = ?",
            hash_token(code),
            g.network,
            client.get_client_id(),
        )
        return Code(row) if row and row["ends"] > time.time() else None

    def delete_authorization_code(self, authorization_code: Code) -> None:
        # One caller only gets the code, whoever else holds it (RFC 6749, 10.5).
        if not current_store().execute("DELETE FROM code WHERE code = ?", authorization_code.row["code"]):
            raise InvalidGrantError("The code has been used.")

    def authenticate_user(self, authorization_code: Code) -> Grant:
        return Grant(authorization_code.row["account"], json.loads(authorization_code.row["chosen"]))


class OnlyS256(CodeChallenge):  # type: ignore[misc]  # authlib is untyped
    """PKCE is required, and plain is refused (RFC 9700, 2.1.1)."""

    SUPPORTED_CODE_CHALLENGE_METHOD = ["S256"]
    DEFAULT_CODE_CHALLENGE_METHOD = "S256"

    def validate_code_challenge(self, grant: Any, redirect_uri: str) -> None:
        super().validate_code_challenge(grant, redirect_uri)
        if not grant.request.payload.data.get("code_challenge"):
            raise InvalidRequestError("Missing 'code_challenge'")


class Refresh(RefreshTokenGrant):  # type: ignore[misc]  # authlib is untyped
    TOKEN_ENDPOINT_AUTH_METHODS = ["none"]
    INCLUDE_NEW_REFRESH_TOKEN = True

    def authenticate_refresh_token(self, refresh_token: str) -> Token | None:
        row = current_store().fetch_one(
            "SELECT * FROM token WHERE refresh = ? AND network = ?", hash_token(refresh_token), g.network
        )
        if row is None or row["revoked"] or row["connection_ends"] < time.time():
            return None
        g.connection_ends = row["connection_ends"]
        return Token(row)

    def authenticate_user(self, refresh_token: Token) -> Grant:
        return Grant(refresh_token.row["account"], json.loads(refresh_token.row["chosen"]))

    def revoke_old_credential(self, refresh_token: Token) -> None:
        current_store().execute("UPDATE token SET revoked = 1 WHERE refresh = ?", refresh_token.row["refresh"])


class Revocation(RevocationEndpoint):  # type: ignore[misc]  # authlib is untyped
    CLIENT_AUTH_METHODS = ["none"]

    def query_token(self, token_string: str, token_type_hint: str) -> Token | None:
        row = current_store().fetch_one(
            "SELECT * FROM token WHERE (access = ? OR refresh = ?) AND network = ?",
            hash_token(token_string),
            hash_token(token_string),
            g.network,
        )
        return Token(row) if row else None

    def revoke_token(self, token: Token, request: Any) -> None:
        current_store().execute("UPDATE token SET revoked = 1 WHERE access = ?", token.row["access"])


def issue_tokens(
    network: str,
    account: int,
    chosen: list[str],
    client: str,
    scope: str,
    connection_ends: float,
    access_seconds: int = ACCESS_SECONDS,
) -> dict[str, Any]:
    """A new pair of tokens, kept as hashes."""
    access, refresh, now = secrets.token_urlsafe(32), secrets.token_urlsafe(32), time.time()
    current_store().execute(
        "INSERT INTO token VALUES (?,?,?,?,?,?,?,?,?,0)",
        hash_token(access),
        hash_token(refresh),
        network,
        account,
        client,
        scope,
        json.dumps(chosen),
        now + access_seconds,
        connection_ends,
    )
    login = current_store().fetch_one("SELECT login FROM account WHERE id = ?", account)
    return {
        "token_type": "Bearer",
        "access_token": access,
        "refresh_token": refresh,
        "expires_in": access_seconds,
        "scope": scope,
        "account": login["login"] if login else "",
        "connection_expires_in": int(connection_ends - now),
    }


def token_of_header(header: str) -> Any | None:
    """The token row that an Authorization header speaks for; None when it is unknown, revoked or over."""
    kind, _, token = header.partition(" ")
    if kind.lower() != "bearer" or not token:
        return None
    row = current_store().fetch_one(
        "SELECT * FROM token WHERE access = ? AND network = ?", hash_token(token.strip()), g.network
    )
    now = time.time()
    if row is None or row["revoked"] or row["access_ends"] < now or row["connection_ends"] < now:
        return None
    return row


def make_server(app: Flask, redirect: str) -> AuthorizationServer:
    """The authorisation server of every network on this port; `g.network` says which one."""
    # The networks know Menudo by a name; open sites, which know nobody, by its address (as IndieAuth has it).
    clients = {
        client_id: Client(redirect, client_id) for client_id in ("menudo", redirect.removesuffix("connect/back"))
    }

    def generate(
        grant_type: str, client: ClientMixin, user: Grant | None = None, scope: str = "", **_: Any
    ) -> dict[str, Any]:
        ends = getattr(g, "connection_ends", None) or time.time() + CONNECTION_DAYS * 86_400
        return issue_tokens(
            g.network,
            user.id if user else 0,
            user.chosen if user else [],
            client.get_client_id(),
            scope or "",
            ends,
            app.config["ACCESS_SECONDS"],
        )

    server = AuthorizationServer(app, query_client=clients.get, save_token=lambda token, request: None)
    server.register_token_generator("default", generate)
    server.register_grant(CodeGrant, [OnlyS256(required=True)])
    server.register_grant(Refresh)
    server.register_endpoint(Revocation)
    return server
