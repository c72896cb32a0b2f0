"""Errors as people and programs need them: problem details (RFC 9457) with pointers to the fields."""

import json
import sys
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import structlog
from django.core.exceptions import RequestDataTooBig
from django.db import DataError, OperationalError
from django.http import HttpRequest, HttpResponse
from ninja.errors import AuthenticationError, HttpError, ValidationError
from pydantic import Field

from menudo.base.refusals import SENTENCES
from menudo.base.schemas import Schema
from menudo.base.sentences import Sentence, render

log = structlog.get_logger(__name__)
_RETRY_SECONDS = 2


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing wrong with one field; `pointer` is a JSON pointer into what was sent (RFC 6901).

    `detail` is a sentence of ours (`base/refusals/`), or the words of somebody else, as the core or a network, which have a `kind` alone.
    """

    pointer: str
    detail: Sentence | str
    kind: str = "invalid"

    @property
    def message(self) -> str:
        return render_detail(self.detail)

    @property
    def code(self) -> str:
        return self.detail.code if isinstance(self.detail, Sentence) else self.kind

    @property
    def params(self) -> Mapping[str, Any]:
        return self.detail.params if isinstance(self.detail, Sentence) else {}


def render_detail(detail: Sentence | str) -> str:
    """Its words."""
    return detail if isinstance(detail, str) else render(SENTENCES, detail)


class ProblemError(Exception):
    """Raised by actions and reads; answered as problem details."""

    status = 400
    code = "problem"
    title = "That can't be done."

    def __init__(self, detail: Sentence | str = "", faults: list[Fault] | None = None, **extra: Any) -> None:
        self.detail = detail or (faults[0].detail if faults else "")
        self.words = render_detail(self.detail) or self.title
        self.faults = faults or []
        self.extra = extra
        super().__init__(self.words)


class InvalidError(ProblemError):
    status, code, title = 422, "invalid", "Something that was sent isn't right."

    @classmethod
    def at(cls, pointer: str, detail: Sentence | str, kind: str = "invalid") -> "InvalidError":
        return cls(faults=[Fault(pointer, detail, kind)])


class NotFoundError(ProblemError):
    status, code, title = 404, "not_found", "There is nothing here, or it isn't yours to see."


class ForbiddenError(ProblemError):
    status, code, title = 403, "forbidden", "You may not do that in this brand."


class ConflictError(ProblemError):
    status, code, title = 409, "conflict", "That can't be done in its present state."


class StaleRevisionError(ProblemError):
    """The writer began from an older revision. `present` is what stands now."""

    status, code, title = 412, "stale", "Someone changed this since you opened it."


class RevisionRequiredError(ProblemError):
    status, code, title = 428, "needs_revision", "Say which revision you began from (If-Match)."


class RateLimitError(ProblemError):
    status, code, title = 429, "too_many", "Too many tries. Wait a minute, then try again."


class FaultOut(Schema):
    pointer: str
    detail: str
    code: str
    params: dict[str, Any] = Field(default_factory=dict)


class ProblemOut(Schema):
    """Problem details (RFC 9457). `code` and `params` are what `detail` is made of; empty where the words are somebody else's."""

    type: str
    title: str
    status: int
    detail: str
    code: str = ""
    params: dict[str, Any] = Field(default_factory=dict)
    errors: list[FaultOut] = Field(default_factory=list)
    present: dict[str, Any] | None = None


def problem_response(
    status: int, kind: str, title: str, detail: Sentence | str, faults: list[Fault] | None = None, **extra: Any
) -> HttpResponse:
    """A problem-details response."""
    body = {
        "type": f"urn:menudo:problem:{kind}",
        "title": title,
        "status": status,
        "detail": render_detail(detail) or title,
        **(
            {"code": detail.code, "params": detail.params}
            if isinstance(detail, Sentence)
            else {"code": "", "params": {}}
        ),
        "errors": [
            {"pointer": f.pointer, "detail": f.message, "code": f.code, "params": f.params} for f in faults or []
        ],
        **extra,
    }
    # Words may quote what was sent, lone surrogates and all: those leave as their JSON escapes.
    return HttpResponse(json.dumps(body, default=str), status=status, content_type="application/problem+json")


def on_problem(request: HttpRequest, error: ProblemError) -> HttpResponse:
    return problem_response(error.status, error.code, error.title, error.detail, error.faults, **error.extra)


_PLAIN_MESSAGES = {
    "missing": "This is missing.",
    "string_unicode": "The text holds half of a character (a lone surrogate). Type it again.",
    "string_too_long": "This is too long: at most {max_length} characters.",
    "too_long": "These are too many: at most {max_length}.",
    "json_invalid": "What was sent is not JSON.",
    "greater_than_equal": "This is {ge} at least.",
    "less_than_equal": "This is {le} at most.",
}


def on_validation(request: HttpRequest, error: ValidationError) -> HttpResponse:
    faults = [Fault(_pointer(e.get("loc", ())), _plain_message(e), str(e.get("type", "invalid"))) for e in error.errors]
    words = faults[0].message if faults else InvalidError.title
    return problem_response(422, "invalid", InvalidError.title, words, faults)


def _plain_message(error: dict[str, Any]) -> str:
    words = _PLAIN_MESSAGES.get(str(error.get("type")))
    return words.format(**error.get("ctx", {})) if words else str(error.get("msg", ""))


def on_authentication(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return problem_response(
        401, "signed_out", "You are signed out.", "Sign in, then do it again. What you typed is still here."
    )


def on_http(request: HttpRequest, error: HttpError) -> HttpResponse:
    return problem_response(error.status_code, "http", "That request can't be taken.", str(error))


def on_data_error(request: HttpRequest, error: DataError) -> HttpResponse:
    """What the database can't hold, where nothing that looks at a field said so before: the last word, not the first."""
    log.warning("request.refused", path=request.path, error=str(error)[:200])
    words = "Something in it can't be kept: a number too large, or a character that no text can hold."
    return problem_response(422, "invalid", InvalidError.title, words)


def busy_response() -> HttpResponse:
    """For what can be done in a moment, and not now (RFC 9110, 15.6.4)."""
    response = problem_response(503, "busy", "Menudo has much to do just now. Try again in a moment.", "")
    response["Retry-After"], response["Cache-Control"] = str(_RETRY_SECONDS), "no-store"
    return response


def on_server_error(request: HttpRequest) -> HttpResponse:
    """Django's handler for what nobody caught. What only the database didn't do just now can be asked again: no connection was free in
    time, it is being started again, two waited for each other."""
    if isinstance(sys.exc_info()[1], OperationalError):
        return busy_response()
    response = problem_response(500, "server_error", "Something went wrong in Menudo itself. It has been noted.", "")
    response["Cache-Control"] = "no-store"
    return response


def on_too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
    """A body beyond what is read at all."""
    return _too_big()


def _too_big() -> HttpResponse:
    return problem_response(413, "too_big", "That is too much at once.", "What was sent is too big. Send less at once.")


def too_big_body() -> bytes:
    """The same, for what is refused before there is a request."""
    return _too_big().content


def _pointer(loc: tuple[Any, ...]) -> str:
    parts = [str(part) for part in loc]
    if parts and parts[0] in ("body", "query", "path", "header", "form", "file"):
        where, parts = parts[0], parts[1:]
        if where == "body" and len(parts) > 1:
            parts = parts[1:]
        elif where != "body":
            return f"{where}:{'/'.join(parts)}"
    return "/" + "/".join(part.replace("~", "~0").replace("/", "~1") for part in parts)
