"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.engine import OUTWARD, outward
from menudo.catalogue.actions.read_catalogue import read_catalogue as read_now
from menudo.catalogue.models import Catalogue
from menudo.notices.mishaps import boundary
from menudo.notices.periodic import EACH_MINUTE, periodic

_AT_ONCE = 100


@app.task(name="read_catalogue", queue=OUTWARD, pass_context=False)
def read_catalogue(catalogue: int) -> None:
    """Ask one catalogue's site what there is."""
    with boundary("read_catalogue", f"catalogue {catalogue}"):
        read_now(catalogue)


def read_due() -> None:
    """A job for every catalogue that is due."""
    due = Catalogue.objects.filter(next_at__lte=clock.now()).exclude(address="").order_by("next_at")
    for id, address in due.values_list("pk", "address")[:_AT_ONCE]:
        outward("read_catalogue", f"catalogue:{id}", address, catalogue=id)


periodic("read_catalogues", EACH_MINUTE, read_due)
