"""What a relay would do: a sample of the last items, exactly as they would be posted, and its doings in a sentence."""

from collections import Counter
from datetime import datetime
from zoneinfo import ZoneInfo

from menudo.people.context import BrandContext
from menudo.relays import schemas
from menudo.relays.actions.poll_sources import SOON, poll_remote_profile
from menudo.relays.adaptation import RelayedContent, preview_item
from menudo.relays.evaluation import UNMET, VERDICT_LABELS, seen_origins
from menudo.relays.models import Relay, SourceItem
from menudo.relays.serializers import load_conditions, load_item, load_item_data, title_for
from menudo.relays.sources import latest_for, source_item
from menudo_core.networks.fixes import FIX_LABELS
from menudo_core.relays.conditions import first_unmet

_SAMPLE_SIZE = 10


def sample_relay(context: BrandContext, relay: Relay, now: datetime) -> list[schemas.SampleOut]:
    """The last ten items, the newest first; each with what it would become, in the turns that its messages would take.
    Nothing is kept, fetched or drawn, but for asking a profile's network what else stands there."""
    zone = ZoneInfo(context.brand.zone)
    if relay.profile_id is not None:
        poll_remote_profile(relay.profile_id, SOON)
    used: Counter[str] = Counter(relay.message_counts)
    last, out = relay.last_message, []
    for found in reversed(latest_for(relay, _SAMPLE_SIZE)):
        row = source_item(context.brand.pk, found, now)
        words = _skip_reason(relay, row, zone)
        made = preview_item(relay, row, zone, used, last)
        shown = _sample_out(row, words, made)
        if made is not None and not words:
            used[str(made.message.id)] += 1
            last = made.message.id
        out.append(shown)
    return out[::-1]


def _skip_reason(relay: Relay, source_item: SourceItem, zone: ZoneInfo) -> str:
    item = load_item(source_item)
    missed = first_unmet(load_conditions(relay.conditions), item, zone)
    if missed is not None:
        return UNMET[missed.value]
    if relay.target_id in item.trail:
        return VERDICT_LABELS["been_there"]
    return VERDICT_LABELS["twice"] if seen_origins(relay.target_id, item) else ""


def _sample_out(source_item: SourceItem, words: str, made: RelayedContent | None) -> schemas.SampleOut:
    data = load_item_data(source_item.data)
    sample = schemas.SampleOut(
        title=title_for(data),
        occurred_at=source_item.occurred_at,
        fires=False,
        reason=words or "All its messages would be used up.",
        text="",
        first_comment="",
        link="",
        fields={},
        media=[],
        fixes=[],
        findings=[],
    )
    if made is None:
        return sample
    content, adapted = made.adapted.content, made.adapted
    if not words and adapted.blocking_findings:
        words = f"It could not be posted. {adapted.blocking_findings[0].message}"
    far = [*data.pictures, *data.videos]
    media = [
        schemas.SampleMedium(asset=asset_id, address="")
        if asset_id > 0
        else schemas.SampleMedium(asset=None, address="banner" if data.banner else far[-asset_id - 1])
        for asset_id in content.media
    ]
    return sample.model_copy(
        update={
            "fires": not words,
            "reason": words,
            "text": content.text,
            "first_comment": content.first_comment,
            "link": content.link,
            "fields": dict(content.fields),
            "media": media,
            "fixes": [FIX_LABELS[m] for m in adapted.fixes],
            "findings": [schemas.SampleFinding(level=f.level, message=f.message) for f in adapted.findings],
        }
    )


_HOW = {"at_once": "at once", "slot": "at the next free slot"}


def describe_relay(relay: Relay) -> str:
    """What a relay does, in a sentence that its cell is read out by."""
    c, parts = load_conditions(relay.conditions), []
    if c.has:
        parts.append("with a " + " and a ".join(sorted(c.has)))
    if c.required_words:
        parts.append("that says " + " or ".join(c.required_words))
    if c.excluded_words:
        parts.append("without " + " or ".join(c.excluded_words))
    if c.tags:
        parts.append("tagged " + " or ".join(c.tags))
    if c.kinds:
        parts.append("of the kind " + " or ".join(sorted(c.kinds)))
    if c.languages:
        parts.append("in " + " or ".join(sorted(c.languages)))
    if c.hours:
        parts.append(f"between {c.hours.start:%H:%M} and {c.hours.end:%H:%M}")
    which = "everything" if not parts else "what comes " + ", ".join(parts)
    how = _HOW.get(relay.timing) or f"{relay.delay_minutes} minutes later"
    asks = {"goes": f"goes out {how}", "asks": f"asks first, then goes out {how}", "tells": "only tells you"}[
        relay.confirmation
    ]
    limits = [f"{relay.daily_limit} a day at most"] if relay.daily_limit else []
    if relay.hours_from and relay.hours_until:
        limits.append(f"from {relay.hours_from:%H:%M} until {relay.hours_until:%H:%M}")
    return f"Of {which}: {asks}" + (f" ({', '.join(limits)})." if limits else ".")
