"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.relays.actions.carry import round_of_relays


@app.periodic(cron="* * * * *")
@app.task(
    name="round_of_relays", queue="sweep", queueing_lock="round_of_relays", lock="round_of_relays", pass_context=False
)
def relays(timestamp: int = 0) -> None:
    """Each minute: what appeared at the sources of relays is carried where they lead."""
    round_of_relays()
