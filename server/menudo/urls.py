"""Addresses: the API, sign-in, media, the live stream, and the web application for all else."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseBase
from django.urls import include, path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from menudo.api import api
from menudo.base.addresses import SERVER_PREFIXES
from menudo.base.problems import NotFoundError, ProblemError, on_problem, on_server_error
from menudo.base.sentences import say
from menudo.calendar.icalendar_feed import subscription_feed
from menudo.delivery.api_connect import oauth_callback
from menudo.health import health_check
from menudo.library.pictures import serve_picture
from menudo.live import live_stream
from menudo.metrics import metrics
from menudo.posts.outgoing_files import serve_outgoing
from menudo.signoff.api_links import serve_media as signed_media


def media_view(request: HttpRequest, brand: str, asset_id: int, part: str) -> HttpResponseBase:
    try:
        return serve_picture(request, brand, asset_id, part)
    except ProblemError as problem:
        return on_problem(request, problem)


def outgoing_media_view(request: HttpRequest, brand: str, asset_id: int) -> HttpResponseBase:
    try:
        return serve_outgoing(request, brand, asset_id)
    except ProblemError as problem:
        return on_problem(request, problem)


def link_media_view(request: HttpRequest, token: str, asset_id: int, part: str) -> HttpResponseBase:
    try:
        return signed_media(request, token, asset_id, part)
    except ProblemError as problem:
        return on_problem(request, problem)


def api_not_found(request: HttpRequest) -> HttpResponse:
    """An address of the API's that leads nowhere, told as the API tells things."""
    return on_problem(request, NotFoundError(say("api.no_address")))


@ensure_csrf_cookie
def web_application(request: HttpRequest) -> HttpResponseBase:
    """The web application: every address that isn't the server's own is a page of it."""
    index = settings.WEB_DIST / "index.html"
    if not index.is_file():
        return HttpResponse("The web application is not built. Run ./menudo demo or ./menudo serve.", status=503)
    response = FileResponse(index.open("rb"), content_type="text/html; charset=utf-8")
    response.headers["Cache-Control"] = "no-cache"
    return response


urlpatterns = [
    path("health", health_check),
    path("metrics", metrics),
    path("api/", api.urls),
    re_path(r"^api/", api_not_found),
    path("_allauth/", include("allauth.headless.urls")),
    path("accounts/", include("allauth.urls")),
    path("connect/back", oauth_callback),
    *(
        path(f"media/<slug:brand>/<int:asset_id>/{part}", media_view, {"part": part})
        for part in ("whole", "thumb", "shown", "frame")
    ),
    path("media/<slug:brand>/<int:asset_id>/sent", outgoing_media_view),
    *(
        path(f"media/sign/<str:token>/<int:asset_id>/{part}", link_media_view, {"part": part})
        for part in ("thumb", "shown", "frame")
    ),
    path("live/<slug:brand>", live_stream),
    path("feeds/calendar/<str:token>.ics", subscription_feed),
    re_path(rf"^(?!(?:{'|'.join(sorted(SERVER_PREFIXES))})(?:/|$)).*$", web_application),
]

handler500 = on_server_error
