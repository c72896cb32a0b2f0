"""How signing in and one's account differ from allauth's defaults."""

import hashlib
import json
import re
from collections.abc import Callable
from smtplib import SMTPException
from typing import Any

import structlog
from allauth.account.adapter import DefaultAccountAdapter
from allauth.account.models import EmailAddress
from allauth.core.exceptions import ImmediateHttpResponse
from django.core.cache import cache
from django.db import transaction
from django.http import HttpRequest, HttpResponse, HttpResponseBase, JsonResponse

from menudo.notices.mail_server import can_send_mail
from menudo.people.second_factor import CodeUsedError

log = structlog.get_logger(__name__)
_ADDRESS = re.compile(r"^/_allauth/\w+/v1/account/email$")
# What would send a mail that somebody waits for.
_MAILS = re.compile(r"^/_allauth/\w+/v1/(account/email|auth/password/request)$")
_UNREADABLE = {"code": "invalid", "message": "What was sent can't be read."}
_UNKNOWN_ACCOUNT = "account/email/unknown_account"
_DAY_SECONDS = 24 * 3600
_NO_MAIL = "This installation sends no mail. Ask whoever manages it."


class AccountAdapter(DefaultAccountAdapter):  # type: ignore[misc]  # allauth is untyped
    """People come by invitation: nobody signs up by themselves."""

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        return False

    def send_mail(self, template_prefix: str, email: str, context: dict[str, Any]) -> None:
        """To an address that nobody has an account with, a note goes once a day at most: nobody is pestered by way of Menudo."""
        if template_prefix == _UNKNOWN_ACCOUNT:
            address = hashlib.sha256(email.strip().lower().encode()).hexdigest()
            if not cache.add(f"unknown-account:{address}", "told", _DAY_SECONDS):
                return
        super().send_mail(template_prefix, email, context)


class AtomicAccountRequestsMiddleware:
    """What one does to one's account is done whole or not at all, its mail included: an address that nobody could be asked
    to confirm is not kept."""

    sync_capable = True
    async_capable = False

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_view(
        self, request: HttpRequest, view: Callable[..., HttpResponseBase], args: Any, kwargs: Any
    ) -> HttpResponseBase | None:
        if not request.path.startswith("/_allauth/"):
            return None
        if _is_too_deep(request):
            return JsonResponse({"status": 400, "errors": [_UNREADABLE]}, status=400)
        if request.method == "POST" and _MAILS.match(request.path) and not can_send_mail():
            return JsonResponse({"status": 503, "errors": [{"code": "mail", "message": _NO_MAIL}]}, status=503)
        if taken := _address_taken_response(request):
            return taken
        try:
            with transaction.atomic():
                return view(request, *args, **kwargs)
        except ImmediateHttpResponse as answered:
            # allauth's own middleware looks for it around views alone, and this one is called before.
            response: HttpResponseBase = answered.response
            return response
        except CodeUsedError:
            error = {
                "param": "code",
                "code": "incorrect_code",
                "message": "That code has served. Wait for the next one.",
            }
            return JsonResponse({"status": 400, "errors": [error]}, status=400)
        except (SMTPException, OSError) as error:
            log.warning("mail.failed", error=str(error)[:200])
            words = "The mail could not be sent just now, so nothing was changed. Try again in a moment."
            return JsonResponse({"status": 503, "errors": [{"code": "mail", "message": words}]}, status=503)


def _is_too_deep(request: HttpRequest) -> bool:
    """Whether its JSON is nested deeper than it can be read: what else is wrong with it, allauth says itself."""
    try:
        json.loads(request.body or b"{}")
    except RecursionError:
        return True
    except ValueError:
        return False
    return False


def _address_taken_response(request: HttpRequest) -> JsonResponse | None:
    """An address that another account has isn't taken over, and isn't written to in this one's name."""
    if request.method != "POST" or not _ADDRESS.match(request.path) or not request.user.is_authenticated:
        return None
    try:
        body = json.loads(request.body or b"{}")
        email = str(body.get("email", "")).strip() if isinstance(body, dict) else ""
    except ValueError:
        return None
    others = EmailAddress.objects.filter(email__iexact=email, verified=True).exclude(user=request.user.pk)
    if not email or "\0" in email or not others.exists():
        return None
    error = {"param": "email", "code": "taken", "message": "Another account has this address. Choose another."}
    return JsonResponse({"status": 400, "errors": [error]}, status=400)
