"""What gunicorn is told beside its arguments."""

import gc
from typing import Any

from prometheus_client import multiprocess


def child_exit(server: Any, worker: Any) -> None:
    """The live streams of a process that ended are counted no more."""
    multiprocess.mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]


def post_worker_init(worker: Any) -> None:
    """What was loaded stays: the garbage collector needn't look through it again and again, which takes a quarter of a second in the
    midst of a request that makes many objects."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 20)
