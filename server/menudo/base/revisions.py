"""Conditional writes: a write says which revision it began from (RFC 9110, 13.1.1 If-Match)."""

import re

from django.http import HttpRequest
from pydantic import BaseModel

from menudo.base.problems import RevisionRequiredError, StaleRevisionError

_TAG = re.compile(r'^(?:W/)?"(\d{1,18})"$')


def if_match_revision(request: HttpRequest) -> int:
    """The revision in If-Match. Raises RevisionRequiredError when there is none or it isn't one of ours."""
    found = _TAG.match(request.headers.get("If-Match", "").strip())
    if found is None:
        raise RevisionRequiredError()
    return int(found.group(1))


def require_unchanged(started_from: int, current: int, state: BaseModel | None = None) -> None:
    """Raises StaleRevisionError with the present state when the revision has moved on."""
    if started_from != current:
        raise StaleRevisionError(present=state.model_dump(mode="json") if state else {"revision": current})
