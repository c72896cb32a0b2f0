"""Call many deliveries off in one step, with one Undo."""

from collections.abc import Sequence

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.schedule import snapshot, take_off, write_deliveries
from menudo.posts.actions.shift import Moved
from menudo.posts.locking import lock_deliveries
from menudo.posts.models import Delivery
from menudo_core.signoff.states import Event, NotPossible


def call_off_many(place: Here, ids: Sequence[int]) -> Moved:
    """They won't go out; they stay on the calendar as called off. Raises Invalid when none could be."""
    place.needs(May.PUBLISH)
    done = Moved()
    before: dict[str, dict] = {}
    with transaction.atomic():
        rows = lock_deliveries(Delivery.objects.filter(brand=place.brand, pk__in=ids))
        for delivery in rows.values():
            kept = snapshot(delivery)
            try:
                if delivery.reason_code == "unsure":
                    raise NotPossible("It may have gone out. Say first whether it is there.")
                take_off(delivery, Event.CALL_OFF)
            except NotPossible as error:
                done.left.append((delivery.pk, f"{delivery.profile.handle}: {error}"))
                continue
            before[str(delivery.pk)] = kept
            done.moved.append(delivery.pk)
        if not done.moved:
            words = done.left[0][1] if done.left else "None of them is there any more."
            raise Invalid(faults=[Fault("/deliveries", words, "left")])
        write_deliveries([rows[id] for id in done.moved])
        words = f"called {len(done.moved)} deliver{'y' if len(done.moved) == 1 else 'ies'} off"
        done.undo = record(place.brand.pk, place.actor, "call_off", "delivery", done.moved[0], words, before).pk
        tell(place.brand.pk, "delivery", 0)
    return done
