"""From where, and when last, each session was used."""

from collections.abc import Callable
from time import monotonic

from allauth.account.adapter import get_adapter
from allauth.usersessions.models import UserSession
from django.http import HttpRequest, HttpResponse

_EVERY_SECONDS = 60
_MOST_KEPT = 10_000


class SessionActivityMiddleware:
    """Notes a session's use when it comes from elsewhere than before, else once a minute: at each request it would be a statement that
    writes. Each process notes for itself."""

    sync_capable = True
    async_capable = False

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        # By session: from where, and until when it is known.
        self._noted: dict[str, tuple[tuple[str, str], float]] = {}

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.session.session_key and request.user.is_authenticated:
            self._note(request, request.session.session_key)
        return self.get_response(request)

    def _note(self, request: HttpRequest, session_key: str) -> None:
        place = (get_adapter().get_client_ip(request), request.META.get("HTTP_USER_AGENT", ""))
        known, until = self._noted.get(session_key, (None, 0.0))
        if known == place and monotonic() < until:
            return
        UserSession.objects.create_from_request(request)
        if len(self._noted) >= _MOST_KEPT:
            self._noted.clear()
        self._noted[session_key] = (place, monotonic() + _EVERY_SECONDS)
