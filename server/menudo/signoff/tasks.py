"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.signoff.actions.look_again import look_again
from menudo.signoff.actions.remind import remind


@app.periodic(cron="*/5 * * * *")
@app.task(name="remind_signers", queue="sweep", queueing_lock="remind_signers", pass_context=False)
def remind_signers(timestamp: int) -> None:
    """Every five minutes: what is held for no reason any more, and what should have been answered by now and isn't."""
    look_again()
    remind()
