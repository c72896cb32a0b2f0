"""Addresses: the API, sign-in, media, the live stream, and the web application for all else."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseBase
from django.urls import include, path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from menudo.api import api
from menudo.base.addresses import SERVER_PREFIXES
from menudo.base.problems import NotFound, Problem, on_problem
from menudo.calendar.ics import feed
from menudo.delivery.trips import back
from menudo.health import health
from menudo.library.pictures import picture
from menudo.live import live
from menudo.posts.files import sent
from menudo.signoff.by_link import media as signed_media


def media(request: HttpRequest, brand: str, id: int, part: str) -> HttpResponseBase:
    try:
        return picture(request, brand, id, part)
    except Problem as problem:
        return on_problem(request, problem)


def sent_media(request: HttpRequest, brand: str, id: int) -> HttpResponseBase:
    try:
        return sent(request, brand, id)
    except Problem as problem:
        return on_problem(request, problem)


def link_media(request: HttpRequest, token: str, id: int, part: str) -> HttpResponseBase:
    try:
        return signed_media(request, token, id, part)
    except Problem as problem:
        return on_problem(request, problem)


def nowhere(request: HttpRequest) -> HttpResponse:
    """An address of the API's that leads nowhere, told as the API tells things."""
    return on_problem(request, NotFound("There is no such address in the API."))


@ensure_csrf_cookie
def web(request: HttpRequest) -> HttpResponseBase:
    """The web application: every address that isn't the server's own is a page of it."""
    index = settings.WEB_DIST / "index.html"
    if not index.is_file():
        return HttpResponse("The web application is not built. Run ./menudo demo or ./menudo serve.", status=503)
    response = FileResponse(index.open("rb"), content_type="text/html; charset=utf-8")
    response.headers["Cache-Control"] = "no-cache"
    return response


urlpatterns = [
    path("health", health),
    path("api/", api.urls),
    re_path(r"^api/", nowhere),
    path("_allauth/", include("allauth.headless.urls")),
    path("accounts/", include("allauth.urls")),
    path("connect/back", back),
    *(
        path(f"media/<slug:brand>/<int:id>/{part}", media, {"part": part})
        for part in ("whole", "thumb", "shown", "frame")
    ),
    path("media/<slug:brand>/<int:id>/sent", sent_media),
    *(
        path(f"media/sign/<str:token>/<int:id>/{part}", link_media, {"part": part})
        for part in ("thumb", "shown", "frame")
    ),
    path("live/<slug:brand>", live),
    path("feeds/calendar/<str:token>.ics", feed),
    re_path(rf"^(?!(?:{'|'.join(sorted(SERVER_PREFIXES))})(?:/|$)).*$", web),
]
