"""The second factor: its secrets are sealed, and a code serves once."""

import json
from typing import Any

from allauth.account.internal.flows.login import AUTHENTICATION_METHODS_SESSION_KEY
from allauth.mfa import app_settings, signals
from allauth.mfa.adapter import DefaultMFAAdapter
from allauth.mfa.models import Authenticator
from cryptography.fernet import InvalidToken
from django.core.cache import cache
from django.dispatch import receiver
from django.http import HttpRequest

from menudo.base.sealing import reseal, seal, unseal

# How long a code is taken at all (RFC 6238, 5.2): its own step, and the tolerated ones on either side.
_CODE_SECONDS = app_settings.TOTP_PERIOD * (2 * app_settings.TOTP_TOLERANCE + 1)


class CodeUsedError(Exception):
    """The code was right, and has served already."""


class MfaAdapter(DefaultMFAAdapter):  # type: ignore[misc]  # allauth is untyped
    def encrypt(self, text: str) -> str:
        return seal(text)

    def decrypt(self, encrypted_text: str) -> str:
        try:
            return unseal(encrypted_text)
        except InvalidToken:
            # Of before they were sealed.
            return encrypted_text


def reseal_secrets(data: dict[str, Any]) -> dict[str, Any]:
    """An authenticator's data under the first key; what was never sealed is sealed."""

    def sealed(value: str) -> str:
        try:
            return reseal(value)
        except InvalidToken:
            return seal(value)

    codes = {"migrated_codes": [sealed(code) for code in data["migrated_codes"]]} if "migrated_codes" in data else {}
    return {**data, **{name: sealed(data[name]) for name in ("secret", "seed") if name in data}, **codes}


@receiver(signals.authenticator_added)
def _claim_first_code(request: HttpRequest, authenticator: Authenticator, **_: Any) -> None:
    """The code by which it was switched on has served."""
    if authenticator.type == Authenticator.Type.TOTP:
        _claim(authenticator.user_id, _code_of(request))


@receiver(signals.authenticator_used)
def _claim_code(request: HttpRequest, authenticator: Authenticator, **_: Any) -> None:
    """Raises CodeUsedError for a code that has served, for as long as it would be taken: allauth itself remembers it for one step."""
    if authenticator.type == Authenticator.Type.TOTP and not _claim(authenticator.user_id, _code_of(request)):
        request.session[AUTHENTICATION_METHODS_SESSION_KEY] = request.session[AUTHENTICATION_METHODS_SESSION_KEY][:-1]
        raise CodeUsedError


def _claim(user: int, code: str) -> bool:
    return bool(cache.add(f"second-factor:{user}:{code}", "used", _CODE_SECONDS))


def _code_of(request: HttpRequest) -> str:
    try:
        body = json.loads(request.body)
    except ValueError:
        return ""
    return "".join(str(body.get("code", "")).split()) if isinstance(body, dict) else ""
