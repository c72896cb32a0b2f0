"""The distributed engine: jobs put in line by their task's name, so that no app has to import those above it."""

from typing import Any

from django.db import transaction
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued


def soon(task: str, once: str = "", lane: str = "", **arguments: Any) -> bool:
    """A job for the task, in the caller's transaction, unless one named `once` (the task's name) waits already. Jobs in a
    `lane` (`once`) run one at a time, so that many slow ones never fill a worker. Whether it was put in line."""
    name = once or task
    try:
        # A savepoint: being told that one waits already mustn't spoil what the caller does.
        with transaction.atomic():
            app.configure_task(task, queue="sweep", lock=lane or name, queueing_lock=name).defer(**arguments)
    except AlreadyEnqueued:
        return False
    return True


def outward(id: int) -> str:
    """The lane for fetching from sites that may be slow: two at a time at most."""
    return f"outward:{id % 2}"
