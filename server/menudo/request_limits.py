"""How much each request may send."""

import re
from http.cookies import CookieError, SimpleCookie
from importlib import import_module
from typing import Any

from asgiref.sync import sync_to_async
from django.conf import settings
from django.contrib.auth import SESSION_KEY
from django.db import connections

from menudo.catalogue.actions.save_catalogue import MAX_BYTES as CATALOGUE_BYTES
from menudo.feeds.actions.follow_feed import MAX_OPML_BYTES
from menudo.plans.plan_parser import MAX_BYTES as PLAN_BYTES
from menudo.rotas.actions.import_turns import MAX_TABLE_BYTES

# Of the form around a file.
_FORM_BYTES = 100_000
# Where nothing is meant to be sent.
_PLAIN_BYTES = 64_000
_CHANGING = ("POST", "PUT", "PATCH")


def _route(pattern: str, most: int) -> tuple[re.Pattern[str], int]:
    return re.compile(rf"/api/brands/[^/]+/{pattern}"), most + _FORM_BYTES


def _file_routes() -> list[tuple[re.Pattern[str], int]]:
    """The routes that take a file, with the most bytes of each."""
    return [
        _route("assets", max(settings.UPLOAD_MOST_BYTES, settings.UPLOAD_MOST_VIDEO_BYTES)),
        _route("zips", settings.ZIP_MOST_BYTES),
        _route(r"plans(/read)?", PLAN_BYTES),
        _route(r"catalogues/(\d+/)?file(/\w+)?", CATALOGUE_BYTES),
        _route(r"rotas/\d+/table", MAX_TABLE_BYTES),
        _route("feeds/opml", MAX_OPML_BYTES),
    ]


async def body_limit(scope: dict[str, Any]) -> int:
    """The most bytes of a request's body. A file is taken of who is signed in alone; whether they may is the route's to say."""
    path: str = scope["path"]
    if scope["method"] in _CHANGING:
        for pattern, most in _file_routes():
            if pattern.fullmatch(path):
                return most if await _is_signed_in(scope) else settings.DATA_UPLOAD_MAX_MEMORY_SIZE
    if path.startswith(("/api/", "/_allauth/", "/accounts/")):
        return settings.DATA_UPLOAD_MAX_MEMORY_SIZE
    return _PLAIN_BYTES


@sync_to_async
def _is_signed_in(scope: dict[str, Any]) -> bool:
    cookies: SimpleCookie = SimpleCookie()
    try:
        cookies.load(b";".join(value for name, value in scope["headers"] if name == b"cookie").decode("latin-1"))
    except CookieError:
        return False
    found = cookies.get(settings.SESSION_COOKIE_NAME)
    if found is None:
        return False
    try:
        return SESSION_KEY in import_module(settings.SESSION_ENGINE).SessionStore(found.value)
    finally:
        # Before there is a request, nobody gives its connection back.
        connections.close_all()
