"""Switch a relay on from now, or with the last few; switch it off."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.relays.actions.carry import carry
from menudo.relays.actions.keep import relay_of
from menudo.relays.gather import SOON, keep, lock_source, look_outside
from menudo.relays.models import Appeared, Relay
from menudo.relays.sources import latest_for


def switch(place: Here, id: int, on: bool, take: int = 0) -> Relay:
    """On: what appears from now on is carried, in this person's name, and `take` of the last items too; a pause of its own
    ends. Off: nothing more is, and what it asks waits still."""
    place.needs(May.PUBLISH)
    place.needs(May.WRITE)
    asked = relay_of(place, id)
    if on and asked.profile_id is not None:
        look_outside(asked.profile_id, SOON)
    with transaction.atomic():
        lock_source(place.brand.pk, asked.source)
        # Only now, when nobody reads the source: what it is found to hold from here on is this relay's too.
        now = clock.now()
        relay = relay_of(place, id, lock=True)
        relay.on = on
        relay.revision += 1
        if on:
            relay.by, relay.paused, relay.fails = place.user, "", 0
            relay.since = relay.on_at = now
            _take_in(relay, take)
        relay.save()
        words = f"switched a relay to {relay.target.handle} {'on' if on else 'off'}"
        record(place.brand.pk, place.actor, "switch_relay", "relay", relay.pk, words)
        tell(place.brand.pk, "relay", relay.pk)
    if on and take:
        carry(relay.pk)
    return Relay.objects.select_related("target", "brand", "by").get(pk=relay.pk)


def _take_in(relay: Relay, take: int) -> None:
    """The last `take` items are noted as its own; all else that is there already never is."""
    relay.taken = []
    found = latest_for(relay, take) if take else []
    if not found:
        return
    # Seen just before it began: for itself they are named, for other relays they are as old as they are.
    keep(relay.brand, found, clock.now() - timedelta(seconds=1))
    rows = Appeared.objects.filter(brand=relay.brand, source=relay.source, origin__in=[one.origin for one in found])
    relay.taken = list(rows.values_list("pk", flat=True))
    relay.since = min(one.at for one in found)
