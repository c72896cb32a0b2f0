"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.relays.actions.carry import round_of_relays
from menudo.relays.actions.forget import forget


@app.periodic(cron="* * * * *")
@app.task(
    name="round_of_relays", queue="sweep", queueing_lock="round_of_relays", lock="round_of_relays", pass_context=False
)
def relays(timestamp: int = 0) -> None:
    """Each minute: what appeared at the sources of relays is carried where they lead."""
    round_of_relays()


@app.periodic(cron="47 3 * * *")
@app.task(name="forget_appeared", queue="sweep", queueing_lock="forget_appeared", pass_context=False)
def forget_appeared(timestamp: int) -> None:
    """Each night: what appeared long ago and became no post is forgotten."""
    forget(clock.now())
