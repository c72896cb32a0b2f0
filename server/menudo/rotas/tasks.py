"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.rotas.actions.carry_out import carry_out_all


@app.periodic(cron="*/10 * * * *")
@app.task(name="carry_out_rotas", queue="sweep", queueing_lock="carry_out_rotas", pass_context=False)
def carry_out_rotas(timestamp: int) -> None:
    """Every ten minutes: posts of the turns whose slots are near."""
    carry_out_all()
