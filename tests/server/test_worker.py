"""The worker itself, running: what its jobs put in line is of their own transactions."""

import os
import signal
from pathlib import Path

import psycopg
import pytest
from django.db import connection, transaction
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from menudo.base.engine import enqueue
from menudo.delivery.actions.create_comment import enqueue_comment
from menudo.delivery.management.commands.work import Command

FAR, JOBS = 999_999, ["comment", "nothing_of_the_kind"]
seen: list[int] = []


@app.task(name="probe_of_the_worker", queue="send", pass_context=False)
def probe() -> None:
    """Puts a job in line, looks whether others see it already, thinks better of it, and has the worker end."""
    try:
        connection.ensure_connection()
        line = psycopg.connect(connection.connection.info.dsn, password=connection.settings_dict["PASSWORD"])
        with line, transaction.atomic():
            enqueue_comment(FAR)
            enqueue("nothing_of_the_kind")
            counted = line.execute(
                "SELECT count(*) FROM procrastinate_jobs WHERE task_name = ANY(%s)", [JOBS]
            ).fetchone()
            seen.append(counted[0])
            transaction.set_rollback(True)
    finally:
        os.kill(os.getpid(), signal.SIGTERM)


@pytest.fixture
def ran(world) -> list[int]:
    """A worker has run until its job asked it to end."""
    seen.clear()
    app.configure_task("probe_of_the_worker", queue="send").defer()
    Command().handle()
    return seen


def test_what_a_job_puts_in_line_begins_when_its_transaction_is_through_and_not_at_all_when_that_fails(ran):
    assert ran == [0]
    assert not ProcrastinateJob.objects.filter(task_name__in=JOBS).exists()


def test_nothing_puts_jobs_in_line_but_the_engine():
    """The tasks' own app would do so outside the transaction where a worker runs."""
    server = Path(__file__).parents[2] / "server" / "menudo"
    texts = {file.name: file.read_text() for file in server.rglob("*.py")}
    assert [name for name, text in texts.items() if "configure_task(" in text or "batch_defer_jobs" in text] == [
        "engine.py"
    ]
