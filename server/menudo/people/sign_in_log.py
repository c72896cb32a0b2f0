"""What is logged of signing in, for those who look for what is amiss (OWASP ASVS 5.0, 16.3.1): who, from where, and what came of it."""

import hashlib
from typing import Any

import structlog
from allauth.account import signals as account
from allauth.account.adapter import get_adapter
from allauth.mfa import signals as mfa
from django.contrib.auth import signals as auth
from django.core.exceptions import PermissionDenied
from django.dispatch import Signal, receiver
from django.http import HttpRequest

log = structlog.get_logger(__name__)

_TOLD: dict[Signal, str] = {
    auth.user_logged_in: "sign_in.done",
    auth.user_logged_out: "sign_in.ended",
    account.password_changed: "account.password_changed",
    account.password_reset: "account.password_reset",
    account.email_changed: "account.address_changed",
    mfa.authenticator_added: "account.second_factor_added",
    mfa.authenticator_removed: "account.second_factor_removed",
    mfa.authenticator_reset: "account.recovery_codes_made",
    mfa.authentication_failed: "sign_in.code_refused",
}


@receiver(list(_TOLD))
def _log_event(signal: Signal, request: HttpRequest | None = None, user: Any = None, **_: Any) -> None:
    log.info(_TOLD[signal], user=getattr(user, "pk", None), address=_address_of(request))


@receiver(auth.user_login_failed)
def _log_failure(credentials: dict[str, Any], request: HttpRequest | None = None, **_: Any) -> None:
    """Which account was tried is told by a mark of its address: the same for the same, and readable by nobody."""
    email = str(credentials.get("email", "")).strip().lower()
    log.warning(
        "sign_in.refused",
        account=hashlib.sha256(email.encode("utf-8", "replace")).hexdigest()[:12],
        address=_address_of(request),
    )


def _address_of(request: HttpRequest | None) -> str:
    """Whose connection it is, as guesses are counted; empty where there is none."""
    if request is None:
        return ""
    try:
        return str(get_adapter().get_client_ip(request))
    except PermissionDenied:
        return ""
