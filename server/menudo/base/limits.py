"""How often something may be tried from one address; the rates stand in the settings (ACCOUNT_RATE_LIMITS)."""

from allauth.account import app_settings
from allauth.core.internal import ratelimit
from django.http import HttpRequest

from menudo.base.problems import RateLimitError


def count_attempt(request: HttpRequest, action: str) -> None:
    """Count one try, a read as well as a write. Raises RateLimitError beyond the action's rate."""
    if (
        ratelimit.consume(request, app="account", action=action, config=app_settings.RATE_LIMITS, limit_get=True)
        is None
    ):
        raise RateLimitError()
