"""The headers that every page and answer carries."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

_POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
    "connect-src 'self'; font-src 'self'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)
_ANSWERS = ("/api/", "/_allauth/", "/connect/")


class SecurityHeadersMiddleware:
    """Adds the content security policy. Chakra writes style elements, so styles may be inline; scripts may not."""

    sync_capable = True
    async_capable = False

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        if request.path.startswith(_ANSWERS):
            # What one person is told is kept by no browser and no proxy (OWASP ASVS 5.0, 14.3.2).
            response.headers.setdefault("Cache-Control", "no-store")
        response.headers.setdefault("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
        return response
