"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.engine import outward, soon
from menudo.catalogue.actions.read_catalogue import read_catalogue as read_now
from menudo.catalogue.models import Catalogue


@app.task(name="read_catalogue", queue="sweep", pass_context=False)
def read_catalogue(catalogue: int) -> None:
    """Ask one catalogue's site what there is."""
    read_now(catalogue)


@app.periodic(cron="* * * * *")
@app.task(name="read_catalogues", queue="sweep", queueing_lock="read_catalogues", pass_context=False)
def read_catalogues(timestamp: int) -> None:
    """Each minute: a job for every catalogue that is due."""
    due = Catalogue.objects.filter(next_at__lte=clock.now()).exclude(address="").order_by("next_at")
    for id in due.values_list("pk", flat=True)[:100]:
        soon("read_catalogue", f"catalogue:{id}", outward(id), catalogue=id)
