"""What no address may hold."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from menudo.base.problems import Fault, InvalidError, on_problem
from menudo.base.sentences import say


class RejectNulMiddleware:
    """Refuses an address of the API with NUL in it, at its field: PostgreSQL keeps no text with it, nor looks for any."""

    sync_capable = True
    async_capable = False

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path.startswith("/api/"):
            names = [name for name, values in request.GET.lists() if "\0" in name or any("\0" in v for v in values)]
            if names or "\0" in request.path:
                pointers = [f"query:{name}".replace("\0", "") for name in names] or ["path:"]
                return on_problem(request, InvalidError(faults=[Fault(p, say("address.nul")) for p in pointers]))
        return self.get_response(request)
