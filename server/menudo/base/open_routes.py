"""Routes for browsers that nobody is signed in at: a client's link, an invitation."""

from typing import Any

from django.conf import settings
from django.http import HttpRequest
from ninja.security import APIKeyCookie


class _OpenToAll(APIKeyCookie):
    """Lets everybody in, and still asks of what changes something that it comes from a page of ours (the write token): else another
    site could have whoever is signed in accept an invitation (OWASP ASVS 5.0, 3.5.1)."""

    param_name = settings.SESSION_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        return True


open_to_all = _OpenToAll()
