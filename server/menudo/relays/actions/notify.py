"""What people are told of relays."""

from django.db.models import F

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.sentences import say
from menudo.people.actions.notify_planners import notify_planners
from menudo.relays.models import Firing, Relay, SourceItem
from menudo.relays.serializers import load_item_data, title_for


def pause_relay(relay: Relay, words: str) -> None:
    """It carries nothing more until somebody has looked; those who plan are told."""
    Relay.objects.filter(pk=relay.pk).update(paused_reason=words[:300], revision=F("revision") + 1)
    key = f"relay:{relay.pk}:{clock.now():%Y%m%d%H}"
    message = say("relay.paused", profile=relay.target.handle, reason=words)
    notify_planners(relay.brand, "trouble", key, message, f"relays?open={relay.pk}")
    publish_change(relay.brand_id, "relay", relay.pk)


def ask_about(relay: Relay, firing: Firing, source_item: SourceItem) -> None:
    """A question, or with a relay that only tells a word of it; each leads to where it can be answered."""
    data = load_item_data(source_item.data)
    title = title_for(data)
    if firing.verdict == Firing.Asked.TOLD:
        told = say("asked.told_of_source", source=data.source, title=title)
        if not data.source:
            told = say("asked.told_of_some_source", title=title)
        path = f"relays/log?relay={relay.pk}"
    else:
        told = say("asked.about_source", profile=relay.target.handle, title=title)
        path = f"relays/asked?leg={firing.pk}"
    notify_planners(relay.brand, "ask", f"leg:{firing.pk}", told, path)
