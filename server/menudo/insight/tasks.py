"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.insight.actions.read_results import read_results as read_now


@app.periodic(cron="29 * * * *")
@app.task(name="read_results", queue="sweep", queueing_lock="read_results", pass_context=False)
def read_results(timestamp: int) -> None:
    """Each hour: what our posts have earned."""
    read_now()
