"""The reference: Procrastinate itself, with a job that does nothing."""

import asyncio
import os
import sys

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
            # Who asks afterwards when each was done has them kept.
            delete = "never" if "keep" in sys.argv else "successful"
            await app.run_worker_async(queues=["bench"], concurrency=settings.WORKER_CONCURRENCY, delete_jobs=delete)


if __name__ == "__main__":
    asyncio.run(main())
