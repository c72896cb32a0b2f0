"""The distributed engine: jobs put in line by their task's name, so that no app has to import those above it."""

from typing import Any
from urllib.parse import urlsplit

from django.db import transaction
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

# Work that waits on others' machines has a queue, and workers' hands, of its own: nothing of ours waits behind it.
OUTWARD = "outward"


def enqueue(task: str, once: str = "", lane: str = "", queue: str = "sweep", **arguments: Any) -> bool:
    """A job for the task, in the caller's transaction, unless one named `once` (the task's name) waits already. Jobs in a
    `lane` (`once`) run one at a time. Whether it was put in line."""
    name = once or task
    try:
        # A savepoint: being told that one waits already mustn't spoil what the caller does.
        with transaction.atomic():
            app.configure_task(task, queue=queue, lock=lane or name, queueing_lock=name).defer(**arguments)
    except AlreadyEnqueued:
        return False
    return True


def enqueue_outward(task: str, once: str, address: str, **arguments: Any) -> bool:
    """A job that asks the machine at `address` for something. Its host is its lane: one that hangs holds up its own only."""
    host = urlsplit(address).netloc.rpartition("@")[2].lower()
    return enqueue(task, once, f"outward:{host[:200]}", OUTWARD, **arguments)
