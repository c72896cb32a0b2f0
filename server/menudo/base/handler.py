"""How a request is answered: whole, in one thread."""

from asgiref.sync import sync_to_async
from django.core.handlers.asgi import ASGIHandler
from django.http import HttpRequest, HttpResponseBase
from django.urls import get_resolver

from menudo.base.admission import Admission


class Handler(ASGIHandler):
    """Django's own goes over to a thread and back for every layer that isn't asynchronous, and none of ours is: so all of them, and the view,
    are run in one go. What streams is still sent by the event loop. Requests are admitted before (see `admission.py`).

    Every route is loaded with it. Django loads them with the first request, which then waits for the whole API to be imported, in each
    process anew and while it already takes requests."""

    def __init__(self) -> None:
        super().__init__()
        get_resolver().url_patterns  # noqa: B018
        self._admitted = Admission(sync_to_async(self.get_response))

    def load_middleware(self, is_async: bool = False) -> None:
        super().load_middleware(is_async=False)

    async def get_response_async(self, request: HttpRequest) -> HttpResponseBase:
        return await self._admitted(request)
