"""What a relay would do: a sample of the last items, exactly as they would be posted, and its doings in a sentence."""

from collections import Counter
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from menudo.people.here import Here
from menudo.relays.gather import SOON, look_outside
from menudo.relays.judging import UNMET, WORDS, had_by
from menudo.relays.kept import conditions_of, item_of, title_of
from menudo.relays.models import Appeared, Relay
from menudo.relays.shaping import Made, preview
from menudo.relays.sources import latest_for
from menudo_core.networks.mends import WORDS as MEND_WORDS
from menudo_core.relays.conditions import unmet

_LAST = 10


def sample(place: Here, relay: Relay, now: datetime) -> list[dict[str, Any]]:
    """The last ten items, the newest first; each with what it would become, in the turns that its messages would take.
    Nothing is kept, fetched or drawn, but for asking a profile's network what else stands there."""
    zone = ZoneInfo(place.brand.zone)
    if relay.profile_id is not None:
        look_outside(relay.profile_id, SOON)
    used: Counter[str] = Counter(relay.used)
    last, out = relay.last, []
    for one in reversed(latest_for(relay, _LAST)):
        appeared = Appeared(
            brand=place.brand, source=one.source, origin=one.origin, at=one.at, seen=now, trail=sorted(one.trail),
            addresses=list(one.addresses), data=one.data, event=one.event,
        )  # fmt: skip
        words = _why_not(relay, appeared, zone)
        made = preview(relay, appeared, zone, used, last)
        shown = _shown(appeared, words, made)
        if made is not None and not words:
            used[str(made.message.id)] += 1
            last = made.message.id
        out.append(shown)
    return out[::-1]


def _why_not(relay: Relay, appeared: Appeared, zone: ZoneInfo) -> str:
    item = item_of(appeared)
    missed = unmet(conditions_of(relay.conditions), item, zone)
    if missed is not None:
        return UNMET[missed.value]
    if relay.target_id in item.trail:
        return WORDS["been_there"]
    return WORDS["twice"] if had_by(relay.target_id, item) else ""


def _shown(appeared: Appeared, words: str, made: Made | None) -> dict[str, Any]:
    data = appeared.data
    base = {"title": title_of(data), "at": appeared.at}
    if made is None:
        blank = {"text": "", "first_comment": "", "link": "", "fields": {}, "media": [], "mends": [], "findings": []}
        return {**base, "fires": False, "words": words or "All its messages would be used up.", **blank}
    content, shaped = made.shaped.content, made.shaped
    if not words and shaped.stops:
        words = f"It could not be posted. {shaped.stops[0].words}"
    far = [*data.get("pictures", ()), *data.get("videos", ())]
    media = [
        {"asset": id, "address": ""} if id > 0 else {"asset": None, "address": "banner" if data.get("banner") else far[-id - 1]}
        for id in content.media
    ]  # fmt: skip
    return {
        **base, "fires": not words, "words": words, "text": content.text, "first_comment": content.first_comment,
        "link": content.link, "fields": dict(content.fields), "media": media,
        "mends": [MEND_WORDS[m] for m in shaped.mends],
        "findings": [{"level": f.level, "words": f.words} for f in shaped.findings],
    }  # fmt: skip


_HOW = {"at_once": "at once", "slot": "at the next free slot"}


def sentence(relay: Relay) -> str:
    """What a relay does, in a sentence that its cell is read out by."""
    c, parts = conditions_of(relay.conditions), []
    if c.has:
        parts.append("with a " + " and a ".join(sorted(c.has)))
    if c.words:
        parts.append("that says " + " or ".join(c.words))
    if c.but:
        parts.append("without " + " or ".join(c.but))
    if c.tags:
        parts.append("tagged " + " or ".join(c.tags))
    if c.kinds:
        parts.append("of the kind " + " or ".join(sorted(c.kinds)))
    if c.languages:
        parts.append("in " + " or ".join(sorted(c.languages)))
    if c.hours:
        parts.append(f"between {c.hours.start:%H:%M} and {c.hours.end:%H:%M}")
    which = "everything" if not parts else "what comes " + ", ".join(parts)
    how = _HOW.get(relay.how) or f"{relay.minutes} minutes later"
    asks = {"goes": f"goes out {how}", "asks": f"asks first, then goes out {how}", "tells": "only tells you"}[
        relay.asks
    ]
    limits = [f"{relay.per_day} a day at most"] if relay.per_day else []
    if relay.goes_from and relay.goes_until:
        limits.append(f"from {relay.goes_from:%H:%M} until {relay.goes_until:%H:%M}")
    return f"Of {which}: {asks}" + (f" ({', '.join(limits)})." if limits else ".")
