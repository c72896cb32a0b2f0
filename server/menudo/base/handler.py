"""How a request is answered: whole, in one thread."""

from asgiref.sync import sync_to_async
from django.core.handlers.asgi import ASGIHandler
from django.http import HttpRequest, HttpResponseBase

from menudo.base.admission import Admission


class Handler(ASGIHandler):
    """Django's own goes over to a thread and back for every layer that isn't asynchronous, and none of ours is: so all of them, and the view,
    are run in one go. What streams is still sent by the event loop. Requests are admitted before (see `admission.py`)."""

    def __init__(self) -> None:
        super().__init__()
        self._admitted = Admission(sync_to_async(self.get_response))

    def load_middleware(self, is_async: bool = False) -> None:
        super().load_middleware(is_async=False)

    async def get_response_async(self, request: HttpRequest) -> HttpResponseBase:
        return await self._admitted(request)
