"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.starters.actions.supply import supply_all


@app.periodic(cron="7 * * * *")
@app.task(name="supply_starters", queue="sweep", queueing_lock="supply_starters", pass_context=False)
def starters(timestamp: int) -> None:
    """Each hour: those that are over go, and new ones come."""
    supply_all()
