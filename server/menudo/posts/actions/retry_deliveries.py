"""Send many that are in trouble again: all of a cause, for instance."""

from collections.abc import Sequence

from menudo.base.problems import ConflictError, Fault, ForbiddenError, InvalidError, StaleRevisionError
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.retry_delivery import retry_delivery
from menudo.posts.models import Delivery


def retry_deliveries(context: BrandContext, wanted: Sequence[tuple[int, int]]) -> tuple[int, list[tuple[int, str]]]:
    """Each (delivery, revision). How many are being sent again; which are left, and why. Each is a transaction of its own.

    Raises InvalidError when none could be.
    """
    context.require(Capability.PUBLISH)
    rows = {
        d.pk: d
        for d in Delivery.objects.filter(
            brand=context.brand, pk__in=[delivery_id for delivery_id, _ in wanted], post__deleted_at__isnull=True
        )
    }
    done, left = 0, []
    for delivery_id, revision in wanted:
        row = rows.get(delivery_id)
        if row is None:
            left.append((delivery_id, "It isn't there any more."))
            continue
        try:
            retry_delivery(context, row, revision)
            done += 1
        except (ConflictError, ForbiddenError) as error:
            left.append((delivery_id, error.words))
        except StaleRevisionError:
            left.append((delivery_id, "Somebody did something about it meanwhile."))
    if not done:
        raise InvalidError(faults=[Fault(f"/deliveries/{n}", words, "left") for n, (_, words) in enumerate(left)])
    return done, left
