"""The API: every room's routes, and errors as problem details."""

from functools import cache

from django.core.exceptions import RequestDataTooBig
from django.db import DataError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.security import django_auth

from menudo.base import problems
from menudo.brandsheet.api import router as brandsheet
from menudo.calendar.api import router as calendar
from menudo.calendar.api_views import router as views
from menudo.catalogue.api import router as catalogue
from menudo.delivery.api import router as delivery
from menudo.delivery.api_connect import router as trips
from menudo.delivery.api_trouble import router as trouble
from menudo.feeds.api import router as feeds
from menudo.insight.api import router as insight
from menudo.installation.api import router as installation
from menudo.labels.api import router as labels
from menudo.library.api import router as library
from menudo.library.api_sayings import router as sayings
from menudo.notices.api import router as notices
from menudo.people.api import router as people
from menudo.people.api_history import router as history
from menudo.plans.api import router as plans
from menudo.posts.api import router as posts
from menudo.posts.api_bench import router as bench
from menudo.posts.api_plan import router as planning
from menudo.profiles.api import router as profiles
from menudo.relays.api import router as relays
from menudo.rotas.api import router as rotas
from menudo.rotas.api_fill import router as filling
from menudo.signoff.api import router as signoff
from menudo.signoff.api_links import router as by_link
from menudo.starters.api import router as starters
from menudo.talk.api import router as talk

api = NinjaAPI(
    title="Menudo",
    version="1",
    description=(
        "Plan, compose, adapt and schedule posts. Errors are problem details (RFC 9457) whose `errors` point to "
        "the fields; writes to posts and deliveries say which revision they began from (If-Match)."
    ),
    auth=django_auth,
    docs_url=None,
)
rooms = (
    people, installation, history, notices, labels, profiles, library, sayings, brandsheet, posts, bench, planning, talk, signoff, by_link, delivery, trouble, trips, calendar, views, insight, plans, rotas, filling, feeds, catalogue, relays, starters,
)  # fmt: skip
for room in rooms:
    api.add_router("", room)
# It takes seconds to describe so many routes, and they never change while the program runs.
_described = cache(api.get_openapi_schema)
api.get_openapi_schema = lambda **_: _described()  # type: ignore[assignment, method-assign]

api.add_exception_handler(problems.ProblemError, problems.on_problem)  # type: ignore[arg-type]
api.add_exception_handler(ValidationError, problems.on_validation)  # type: ignore[arg-type]
api.add_exception_handler(AuthenticationError, problems.on_authentication)  # type: ignore[arg-type]
api.add_exception_handler(DataError, problems.on_data_error)  # type: ignore[arg-type]
api.add_exception_handler(RequestDataTooBig, problems.on_too_big)  # type: ignore[arg-type]
api.add_exception_handler(HttpError, problems.on_http)  # type: ignore[arg-type]
