"""The worker: sends what is due. Any number may run, on any number of machines."""

import asyncio
import contextlib
import signal
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from procrastinate.contrib.django import app

from menudo.base.engine import OUTWARD
from menudo.delivery.actions.sweep import sweep_overdue
from menudo.delivery.tasks import STEPS
from menudo.notices.failures import failure_boundary

# What is ours, and what waits on others' machines: neither ever takes the other's hands.
HANDS = {("send", "sweep"): settings.WORKER_CONCURRENCY, (OUTWARD,): settings.OUTWARD_CONCURRENCY}


class Command(BaseCommand):
    help = "Run a worker until it is told to stop (SIGTERM or ctrl-C): it finishes what it is sending first."

    def handle(self, *args: Any, **options: Any) -> None:
        # A worker that died may have left something: look at once, not at the next full minute. What breaks here is told,
        # and keeps no worker from starting.
        with failure_boundary("sweep"):
            sweep_overdue(grace=timedelta(seconds=0))
        for name, step in STEPS.items():
            if step is not sweep_overdue:
                with failure_boundary(name):
                    step()
        asyncio.run(self._run())

    async def _run(self) -> None:
        loop = asyncio.get_running_loop()
        # The usual pool has fewer threads than there are hands.
        loop.set_default_executor(ThreadPoolExecutor(sum(HANDS.values()) + 4, "hand"))
        with app.replace_connector(app.connector.get_worker_connector()):  # type: ignore[attr-defined]
            async with app.open_async():
                tasks = [asyncio.create_task(self._work(queues, hands)) for queues, hands in HANDS.items()]
                for sign in (signal.SIGTERM, signal.SIGINT):
                    loop.add_signal_handler(sign, self._stop, tasks)
                done, left = await asyncio.wait(tasks, return_when=asyncio.FIRST_COMPLETED)
                # Whichever ends, the other ends with it: half a worker would be missed by nobody.
                self._stop(list(left))
                await asyncio.gather(*left, return_exceptions=True)
                for task in done:
                    with contextlib.suppress(asyncio.CancelledError):
                        task.result()

    @staticmethod
    def _stop(tasks: list[asyncio.Task[None]]) -> None:
        for task in tasks:
            # Being told once is being asked to finish what is at hand; twice would break it off.
            if not task.cancelling():
                task.cancel()

    @staticmethod
    async def _work(queues: tuple[str, ...], hands: int) -> None:
        await app.run_worker_async(
            queues=list(queues),
            concurrency=hands,
            install_signal_handlers=False,
            shutdown_graceful_timeout=settings.LEASE.total_seconds() / 2,
            update_heartbeat_interval=settings.HEARTBEAT_SECONDS,
        )
