"""The API: every room's routes, and errors as problem details."""

from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.security import django_auth

from menudo.base import problems
from menudo.brandsheet.api import router as brandsheet
from menudo.calendar.api import router as calendar
from menudo.delivery.api import router as delivery
from menudo.delivery.trips import router as trips
from menudo.library.api import router as library
from menudo.notices.api import router as notices
from menudo.people.api import router as people
from menudo.posts.api import router as posts
from menudo.profiles.api import router as profiles
from menudo.signoff.api import router as signoff

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
for room in (people, notices, profiles, library, brandsheet, posts, signoff, delivery, trips, calendar):
    api.add_router("", room)

api.add_exception_handler(problems.Problem, problems.on_problem)  # type: ignore[arg-type]
api.add_exception_handler(ValidationError, problems.on_validation)  # type: ignore[arg-type]
api.add_exception_handler(AuthenticationError, problems.on_authentication)  # type: ignore[arg-type]
api.add_exception_handler(HttpError, problems.on_http)  # type: ignore[arg-type]
