"""/metrics: how much waits, how late it is, and what became of it; in the text format of Prometheus, for those who have the token."""

import os
from collections.abc import Iterator

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import constant_time_compare
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, generate_latest, multiprocess
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.registry import Collector

from menudo.base.problems import NotFoundError, on_problem

_STATES = "SELECT state, count(*) FROM posts_delivery GROUP BY state"
_LATE = """
    SELECT count(*) FILTER (WHERE not_before IS NOT NULL), coalesce(extract(epoch FROM max(now() - due_at)), 0)
    FROM posts_delivery WHERE state = 'planned' AND due_at < now()
"""
_QUEUES = "SELECT queue_name, count(*) FROM procrastinate_jobs WHERE status = 'todo' AND coalesce(scheduled_at, now()) <= now() GROUP BY queue_name"
_HEARTS = "SELECT count(*), coalesce(extract(epoch FROM max(now() - last_heartbeat)), 0) FROM procrastinate_workers"


class DatabaseCollector(Collector):
    """What the database knows: asked when somebody asks, four statements."""

    def collect(self) -> Iterator[GaugeMetricFamily]:
        up = GaugeMetricFamily("menudo_database_up", "1: the database answers.")
        try:
            found = list(self._measure())
        except DatabaseError:
            found = []
        up.add_metric([], float(bool(found)))
        yield up
        yield from found

    def _measure(self) -> Iterator[GaugeMetricFamily]:
        with connection.cursor() as cursor:
            states = GaugeMetricFamily("menudo_deliveries", "Deliveries by state.", labels=["state"])
            cursor.execute(_STATES)
            for state, count in cursor.fetchall():
                states.add_metric([state], count)
            yield states
            cursor.execute(_LATE)
            retrying, late = cursor.fetchone()
            yield GaugeMetricFamily("menudo_deliveries_retrying", "Due deliveries that wait for another try.", retrying)
            yield GaugeMetricFamily("menudo_delivery_lag_seconds", "How late the latest due delivery is.", float(late))
            queues = GaugeMetricFamily("menudo_queue_depth", "Jobs that could be done now, by queue.", labels=["queue"])
            cursor.execute(_QUEUES)
            for queue, count in cursor.fetchall():
                queues.add_metric([queue], count)
            yield queues
            cursor.execute(_HEARTS)
            workers, oldest = cursor.fetchone()
            yield GaugeMetricFamily("menudo_worker_hearts", "Workers' hearts that are known.", workers)
            yield GaugeMetricFamily(
                "menudo_heartbeat_age_seconds", "How long ago the slowest of them beat.", float(oldest)
            )


def metrics(request: HttpRequest) -> HttpResponse:
    """Nothing is here for who hasn't the token."""
    given = request.headers.get("Authorization", "")
    if not settings.METRICS_TOKEN or not constant_time_compare(given, f"Bearer {settings.METRICS_TOKEN}"):
        return on_problem(request, NotFoundError())
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        processes = CollectorRegistry()
        multiprocess.MultiProcessCollector(processes)  # type: ignore[no-untyped-call]
    else:
        processes = REGISTRY
    database = CollectorRegistry()
    database.register(DatabaseCollector())
    return HttpResponse(generate_latest(processes) + generate_latest(database), content_type=CONTENT_TYPE_LATEST)
