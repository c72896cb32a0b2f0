"""Send many that are in trouble again: all of a cause, for instance."""

from collections.abc import Sequence

from menudo.base.problems import Conflict, Fault, Forbidden, Invalid, Stale
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.retry import retry
from menudo.posts.models import Delivery


def retry_many(place: Here, wanted: Sequence[tuple[int, int]]) -> tuple[int, list[tuple[int, str]]]:
    """Each (delivery, revision). How many are being sent again; which are left, and why. Each is a transaction of its own.

    Raises Invalid when none could be.
    """
    place.needs(May.PUBLISH)
    rows = {
        d.pk: d
        for d in Delivery.objects.filter(brand=place.brand, pk__in=[id for id, _ in wanted], post__binned__isnull=True)
    }
    done, left = 0, []
    for id, revision in wanted:
        row = rows.get(id)
        if row is None:
            left.append((id, "It isn't there any more."))
            continue
        try:
            retry(place, row, revision)
            done += 1
        except (Conflict, Forbidden) as error:
            left.append((id, error.words))
        except Stale:
            left.append((id, "Somebody did something about it meanwhile."))
    if not done:
        raise Invalid(faults=[Fault(f"/deliveries/{n}", words, "left") for n, (_, words) in enumerate(left)])
    return done, left
