"""Mishaps at random, the database's own crashes among them: what runs beside it would go down with it, so it runs alone."""

import uuid
from pathlib import Path

import pytest
from tools.database import Cluster
from tools.stack import Stack

from bench import chaos


def test_mishaps_at_random_lose_nothing_and_send_nothing_twice(tmp_path_factory: pytest.TempPathFactory) -> None:
    """The short one; the long one is `./menudo bench chaos`. The count is against the stand-in's own record."""
    cluster = Cluster()
    cluster.start()
    name = f"menudo_chaos_{uuid.uuid4().hex[:8]}"
    cluster.make_database(name)
    stack = Stack(cluster, name, Path(tmp_path_factory.mktemp("chaos")), chaos.QUICK)
    try:
        stack.migrate()
        found = chaos.run_storm(stack, count=120, profiles=12, seconds=20, seed=7, crashes=1)
        assert (found.twice, found.lost, found.published + found.trouble) == (0, 0, 120), found
        assert found.kills and found.crashes, found
    finally:
        stack.stop()
        cluster.drop_database(name)
