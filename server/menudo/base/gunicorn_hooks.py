"""What gunicorn is told beside its arguments."""

from typing import Any

from prometheus_client import multiprocess


def child_exit(server: Any, worker: Any) -> None:
    """The live streams of a process that ended are counted no more."""
    multiprocess.mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]
