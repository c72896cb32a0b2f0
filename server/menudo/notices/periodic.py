"""Steps that Menudo takes by itself, each a task of its own with a boundary around it."""

from collections.abc import Callable

from procrastinate.contrib.django import app

from menudo.notices.failures import failure_boundary

EACH_MINUTE = "* * * * *"


def register_periodic(name: str, cron: str, act: Callable[[], object]) -> None:
    """Take the step by the clock (`cron`, UTC); never twice at once, and never twice in line."""

    def run(timestamp: int = 0) -> None:
        with failure_boundary(name):
            act()

    run.__doc__ = act.__doc__
    task = app.task(name=name, queue="sweep", queueing_lock=name, lock=name, pass_context=False)(run)
    app.periodic(cron=cron)(task)
