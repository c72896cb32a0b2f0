"""/health: whether the database and the workers are there, and what broke lately. No network is asked."""

from dataclasses import asdict

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, JsonResponse

from menudo.notices.failures import recent_failures

_HEARTBEAT_GRACE = 3 * settings.HEARTBEAT_SECONDS
# A worker process works two kinds of queues, and has a heart for each: see delivery/management/commands/work.py.
_HEARTS = 2


def health_check(request: HttpRequest) -> JsonResponse:
    """200 when the database answers and a worker's heart beats; else 503. What broke within the hour is told, not judged."""
    database, hearts, beat = _database_status()
    workers = -(-hearts // _HEARTS)
    well = database and workers > 0
    body = {
        "database": "fine" if database else "gone",
        "workers": workers,
        "last_heartbeat_seconds": beat,
        "broke": [asdict(failures) for failures in recent_failures()] if database else [],
        "well": well,
    }
    return JsonResponse(body, status=200 if well else 503)


def _database_status() -> tuple[bool, int, float | None]:
    try:
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT count(*) FILTER (WHERE last_heartbeat > now() - make_interval(secs => %s)), "
                "extract(epoch FROM now() - max(last_heartbeat)) FROM procrastinate_workers",
                [_HEARTBEAT_GRACE],
            )
            alive, beat = cursor.fetchone()
    except DatabaseError:
        return False, 0, None
    return True, int(alive), None if beat is None else round(float(beat), 1)
