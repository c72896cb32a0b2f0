"""Switch a relay on from now, or with the last few; switch it off."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.relays.actions.poll_sources import SOON, lock_source, poll_remote_profile, save_items
from menudo.relays.actions.run_relay import run_relay
from menudo.relays.actions.save_relay import relay_of
from menudo.relays.models import Relay, SourceItem
from menudo.relays.sources import latest_for


def switch_relay(context: BrandContext, relay_id: int, on: bool, take: int = 0) -> Relay:
    """On: what appears from now on is carried, in this person's name, and `take` of the last items too; a pause of its own
    ends. Off: nothing more is, and what it asks waits still."""
    context.require(Capability.PUBLISH)
    context.require(Capability.WRITE)
    asked = relay_of(context, relay_id)
    if on and asked.profile_id is not None:
        poll_remote_profile(asked.profile_id, SOON)
    with transaction.atomic():
        lock_source(context.brand.pk, asked.source)
        # Only now, when nobody reads the source: what it is found to hold from here on is this relay's too.
        now = clock.now()
        relay = relay_of(context, relay_id, lock=True)
        relay.active = on
        relay.revision += 1
        if on:
            relay.run_as, relay.paused_reason, relay.failure_count = context.user, "", 0
            relay.carries_since = relay.activated_at = now
            _take_earlier_items(relay, take)
        relay.save()
        record_event(
            context.brand.pk,
            context.actor,
            "switch_relay",
            "relay",
            relay.pk,
            say("relay.on" if on else "relay.off", profile=relay.target.handle),
        )
        publish_change(context.brand.pk, "relay", relay.pk)
    if on and take:
        run_relay(relay.pk)
    return Relay.objects.select_related("target", "brand", "run_as").get(pk=relay.pk)


def _take_earlier_items(relay: Relay, take: int) -> None:
    """The last `take` items are noted as its own; all else that is there already never is."""
    relay.earlier_item_ids = []
    found = latest_for(relay, take) if take else []
    if not found:
        return
    # Seen just before it began: for itself they are named, for other relays they are as old as they are.
    save_items(relay.brand, found, clock.now() - timedelta(seconds=1))
    rows = SourceItem.objects.filter(brand=relay.brand, source=relay.source, origin__in=[one.origin for one in found])
    relay.earlier_item_ids = list(rows.values_list("pk", flat=True))
    relay.carries_since = min(one.at for one in found)
