"""The worker: sends what is due. Any number may run, on any number of machines."""

import asyncio
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from procrastinate.contrib.django import app

from menudo.delivery.actions.end_connection import end_those_over
from menudo.delivery.actions.pause import tell_pauses_over
from menudo.delivery.actions.sweep import look_again, miss, sweep
from menudo.delivery.actions.warn import warn


class Command(BaseCommand):
    help = "Run a worker until it is told to stop (SIGTERM or ctrl-C): it finishes what it is sending first."

    def handle(self, *args: Any, **options: Any) -> None:
        # A worker that died may have left something: look at once, not at the next full minute.
        sweep(grace=timedelta(seconds=0))
        miss()
        end_those_over()
        warn()
        tell_pauses_over()
        look_again()
        asyncio.run(self._run())

    async def _run(self) -> None:
        with app.replace_connector(app.connector.get_worker_connector()):  # type: ignore[attr-defined]
            async with app.open_async():
                await app.run_worker_async(
                    install_signal_handlers=True,
                    shutdown_graceful_timeout=settings.LEASE.total_seconds() / 2,
                    update_heartbeat_interval=settings.HEARTBEAT_SECONDS,
                )
