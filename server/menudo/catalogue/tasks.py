"""Background jobs: each a thin call of an action."""

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.engine import OUTWARD, enqueue_outward
from menudo.catalogue.actions.poll_catalogue import poll_catalogue as read_now
from menudo.catalogue.models import Catalogue
from menudo.notices.failures import failure_boundary
from menudo.notices.periodic import EACH_MINUTE, register_periodic

_AT_ONCE = 100


@app.task(name="read_catalogue", queue=OUTWARD, pass_context=False)
def poll_catalogue(catalogue: int) -> None:
    """Ask one catalogue's site what there is."""
    with failure_boundary("read_catalogue", f"catalogue {catalogue}"):
        read_now(catalogue)


def poll_due_catalogues() -> None:
    """A job for every catalogue that is due."""
    due = Catalogue.objects.filter(next_at__lte=clock.now()).exclude(address="").order_by("next_at")
    for catalogue_id, address in due.values_list("pk", "address")[:_AT_ONCE]:
        enqueue_outward("read_catalogue", f"catalogue:{catalogue_id}", address, catalogue=catalogue_id)


register_periodic("read_catalogues", EACH_MINUTE, poll_due_catalogues)
