"""A database, and programs if wanted, for one benchmark; gone afterwards."""

import os
import tempfile
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import psycopg
from tools.database import Cluster
from tools.stack import Stack


@contextmanager
def temporary_stack(name: str) -> Iterator[Stack]:
    """A stack with a migrated database; nothing of it is started. This process's Django is pointed at it."""
    cluster = Cluster()
    cluster.start()
    database = f"menudo_bench_{name}_{uuid.uuid4().hex[:6]}"
    cluster.make_database(database)
    with tempfile.TemporaryDirectory() as folder:
        stack = Stack(
            cluster, database, Path(folder), {"MENUDO_LOG_LEVEL": "WARNING", "MENUDO_WORKER_CONCURRENCY": "4"}
        )
        try:
            stack.migrate()
            for key in (
                "MENUDO_DATABASE_URL",
                "MENUDO_STANDIN_URL",
                "MENUDO_NETWORKS",
                "MENUDO_FETCH_ALLOWED",
                "MENUDO_PUBLIC_URL",
                "MENUDO_MEDIA",
                "MENUDO_DB_POOL",
            ):
                os.environ[key] = stack.env[key]
            yield stack
        finally:
            from django.db import connections

            for one in connections.all(initialized_only=True):
                one.close()
                one.close_pool()  # type: ignore[attr-defined]
            stack.stop()
            cluster.drop_database(database)


def fetch_one(db: psycopg.Connection, statement: str) -> tuple[Any, ...]:
    """The one row that a statement always answers."""
    row = db.execute(statement.encode()).fetchone()
    assert row is not None, statement
    return row
