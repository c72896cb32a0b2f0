"""Conditional writes: a write says which revision it began from (RFC 9110, 13.1.1 If-Match)."""

import re
from typing import Any

from django.http import HttpRequest

from menudo.base.problems import NeedsRevision, Stale

_TAG = re.compile(r'^(?:W/)?"(\d{1,18})"$')


def began_from(request: HttpRequest) -> int:
    """The revision in If-Match. Raises NeedsRevision when there is none or it isn't one of ours."""
    found = _TAG.match(request.headers.get("If-Match", "").strip())
    if found is None:
        raise NeedsRevision()
    return int(found.group(1))


def unchanged(began: int, present: int, state: dict[str, Any] | None = None) -> None:
    """Raises Stale with the present state when the revision has moved on."""
    if began != present:
        raise Stale(present=state or {"revision": present})
