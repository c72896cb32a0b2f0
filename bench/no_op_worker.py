"""The reference: Procrastinate itself, with a job that does nothing."""

import asyncio
import os

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "menudo.settings")
django.setup()

from django.conf import settings
from procrastinate.contrib.django import app


@app.task(name="bench_no_op", queue="bench")
def do_nothing() -> None:
    """Nothing, in a thread, as our own jobs are."""


async def main() -> None:
    with app.replace_connector(app.connector.get_worker_connector()):  # type: ignore[attr-defined]
        async with app.open_async():
            await app.run_worker_async(queues=["bench"], concurrency=settings.WORKER_CONCURRENCY)


if __name__ == "__main__":
    asyncio.run(main())
