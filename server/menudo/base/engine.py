"""The distributed engine: jobs put in line by their task's name, so that no app has to import those above it."""

from collections.abc import Iterable
from datetime import datetime
from typing import Any
from urllib.parse import urlsplit

from django.db import transaction
from procrastinate import App
from procrastinate.contrib.django.django_connector import DjangoConnector
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.exceptions import AlreadyEnqueued

from menudo.base.clock import from_engine_time, to_engine_time

# What is put in line is of the caller's transaction, also where a worker runs: there the tasks' own app has another line to the
# database, on which a job would begin before what it is about is there, and stay when that isn't.
_app = App(connector=DjangoConnector())

# Work that waits on others' machines has a queue, and workers' hands, of its own: nothing of ours waits behind it.
OUTWARD = "outward"


def enqueue(task: str, once: str = "", lane: str = "", queue: str = "sweep", **arguments: Any) -> bool:
    """A job for the task, in the caller's transaction, unless one named `once` (the task's name) waits already. Jobs in a
    `lane` (`once`) run one at a time. Whether it was put in line."""
    name = once or task
    try:
        # A savepoint: being told that one waits already mustn't spoil what the caller does.
        with transaction.atomic():
            _app.configure_task(task, queue=queue, lock=lane or name, queueing_lock=name).defer(**arguments)
    except AlreadyEnqueued:
        return False
    return True


def enqueue_outward(task: str, once: str, address: str, **arguments: Any) -> bool:
    """A job that asks the machine at `address` for something. Its host is its lane: one that hangs holds up its own only."""
    host = urlsplit(address).netloc.rpartition("@")[2].lower()
    return enqueue(task, once, f"outward:{host[:200]}", OUTWARD, **arguments)


def defer_job(task: str, queue: str, at: datetime | None = None, **arguments: Any) -> None:
    """A job for the task, in the caller's transaction: at once, or not before the instant `at`."""
    defer_jobs(task, queue, [(at, arguments)])


def waiting_jobs(task: str) -> list[tuple[datetime | None, dict[str, Any]]]:
    """The jobs of a task that nobody has begun: not before which instant, and with which arguments."""
    rows = ProcrastinateJob.objects.filter(task_name=task, status="todo").values_list("scheduled_at", "args")
    return [(at and from_engine_time(at), arguments) for at, arguments in rows]


def defer_jobs(task: str, queue: str, jobs: Iterable[tuple[datetime | None, dict[str, Any]]]) -> None:
    """Many of them (instant, arguments): one statement."""
    job = _app.configure_task(task, queue=queue).job
    rows = [
        job.evolve(scheduled_at=to_engine_time(at) if at else None, task_kwargs=arguments) for at, arguments in jobs
    ]
    if rows:
        _app.job_manager.batch_defer_jobs(rows)
