"""The API: every room's routes, and errors as problem details."""

from django.core.exceptions import RequestDataTooBig
from django.db import DataError
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.security import django_auth

from menudo.base import problems
from menudo.base.openapi import MenudoAPI

api = MenudoAPI(
    title="Menudo",
    version="1",
    description=(
        "Plan, compose, adapt and schedule posts. Errors are problem details (RFC 9457) whose `errors` point to "
        "the fields; writes to posts and deliveries say which revision they began from (If-Match)."
    ),
    auth=django_auth,
    docs_url=None,
)
for _module in (
    "people.api",
    "installation.api",
    "people.api_history",
    "notices.api",
    "labels.api",
    "profiles.api",
    "library.api",
    "library.api_sayings",
    "brandsheet.api",
    "posts.api",
    "posts.api_bench",
    "posts.api_plan",
    "talk.api",
    "signoff.api",
    "signoff.api_links",
    "delivery.api",
    "delivery.api_trouble",
    "delivery.api_connect",
    "calendar.api",
    "calendar.api_views",
    "insight.api",
    "plans.api",
    "rotas.api",
    "rotas.api_fill",
    "feeds.api",
    "catalogue.api",
    "relays.api",
    "starters.api",
):
    api.add_router("", f"menudo.{_module}.router")

api.add_exception_handler(problems.ProblemError, problems.on_problem)  # type: ignore[arg-type]
api.add_exception_handler(ValidationError, problems.on_validation)  # type: ignore[arg-type]
api.add_exception_handler(AuthenticationError, problems.on_authentication)  # type: ignore[arg-type]
api.add_exception_handler(DataError, problems.on_data_error)  # type: ignore[arg-type]
api.add_exception_handler(RequestDataTooBig, problems.on_too_big)  # type: ignore[arg-type]
api.add_exception_handler(HttpError, problems.on_http)  # type: ignore[arg-type]
