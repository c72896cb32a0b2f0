"""/health: whether the database, the workers and the stand-in are there."""

from typing import Any

import httpx
from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, JsonResponse

_ALIVE = 3 * settings.HEARTBEAT_SECONDS


def health(request: HttpRequest) -> JsonResponse:
    """200 when the database answers and a worker's heart beats; else 503. The stand-in is told, not judged."""
    database, workers, beat = _database()
    body: dict[str, Any] = {
        "database": "fine" if database else "gone",
        "workers": workers,
        "last_heartbeat_seconds": beat,
        "stand_in": _stand_in(),
    }
    body["well"] = database and workers > 0
    return JsonResponse(body, status=200 if body["well"] else 503)


def _database() -> tuple[bool, int, float | None]:
    try:
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT count(*) FILTER (WHERE last_heartbeat > now() - make_interval(secs => %s)), "
                "extract(epoch FROM now() - max(last_heartbeat)) FROM procrastinate_workers",
                [_ALIVE],
            )
            alive, beat = cursor.fetchone()
    except DatabaseError:
        return False, 0, None
    return True, int(alive), None if beat is None else round(float(beat), 1)


def _stand_in() -> str:
    try:
        return (
            "fine"
            if httpx.get(f"{settings.STANDIN_URL}/health", timeout=2, trust_env=False).status_code == 200
            else "ill"
        )
    except httpx.HTTPError:
        return "not there"
