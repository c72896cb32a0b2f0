"""What people are told of relays."""

from django.db.models import F

from menudo.base import clock
from menudo.base.live import tell
from menudo.people.actions.tell_planners import tell_planners
from menudo.relays.kept import title_of
from menudo.relays.models import Appeared, Leg, Relay


def pause(relay: Relay, words: str) -> None:
    """It carries nothing more until somebody has looked; those who plan are told."""
    Relay.objects.filter(pk=relay.pk).update(paused=words[:300], revision=F("revision") + 1)
    key = f"relay:{relay.pk}:{clock.now():%Y%m%d%H}"
    told = f"A relay to {relay.target.handle} paused itself. {words}"
    tell_planners(relay.brand, "trouble", key, told, f"relays?open={relay.pk}")
    tell(relay.brand_id, "relay", relay.pk)


def ask(relay: Relay, leg: Leg, appeared: Appeared) -> None:
    """A question, or with a relay that only tells a word of it; each leads to where it can be answered."""
    title = title_of(appeared.data)
    if leg.verdict == Leg.Asked.TOLD:
        words, path = f"New at {appeared.data.get('source') or 'a source'}: {title}", f"relays/log?relay={relay.pk}"
    else:
        words, path = f"Shall this go out on {relay.target.handle}? {title}", f"relays/asked?leg={leg.pk}"
    tell_planners(relay.brand, "ask", f"leg:{leg.pk}", words, path)
