"""What holds for every request: an id that its logs and its response carry, and how long it took."""

import re
import time
import uuid
from collections.abc import Callable

import structlog
from django.http import HttpRequest, HttpResponse

from menudo.base.metrics import REQUEST_SECONDS

HEADER = "X-Request-ID"
_METHODS = frozenset({"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"})
_GIVEN = re.compile(r"[A-Za-z0-9_-]{8,64}")


class RequestIdMiddleware:
    """Takes a proxy's id, where it sent one that can be one, else makes one."""

    sync_capable = True
    async_capable = False

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        given = request.headers.get(HEADER, "")
        request_id = given if _GIVEN.fullmatch(given) else uuid.uuid4().hex
        begun = time.perf_counter()
        with structlog.contextvars.bound_contextvars(request_id=request_id):
            response = self.get_response(request)
        # By the route's pattern, and methods that there are: what anybody may send would be endless.
        route = request.resolver_match.route if request.resolver_match else ""
        if not response.streaming:
            seconds = time.perf_counter() - begun
            method = request.method if request.method in _METHODS else "other"
            REQUEST_SECONDS.labels(method, route, response.status_code).observe(seconds)
        response.headers[HEADER] = request_id
        return response
