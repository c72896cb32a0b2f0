"""Routes for results: better times, and tags by what they earned, so far."""

from zoneinfo import ZoneInfo

from django.http import HttpRequest
from ninja import Router

from menudo.insight.hashtags import hashtag_suggestions
from menudo.insight.models import Reading
from menudo.insight.schemas import BetterHour, BetterOut, SuggestionOut, TagsIn
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.profiles.models import Slot
from menudo.profiles.queries import profile_of
from menudo.profiles.schemas import SlotOut
from menudo_core.insight.posting_times import better_posting_times, suggested_slots
from menudo_core.timing.slots import Slot as CoreSlot

router = Router(tags=["results"])
_MOST, _OFFERED, _APART_HOURS = 5000, 6, 4


@router.get(
    "/brands/{brand}/profiles/{profile_id}/posting-times",
    response=BetterOut,
    operation_id="postingTimes",
)
def get_posting_times(request: HttpRequest, brand: str, profile_id: int) -> BetterOut:
    """Times that did better, by reactions, and how sure that is."""
    context = brand_context(request, brand)
    profile = profile_of(context, profile_id)
    rows = (
        Reading.objects.filter(brand=context.brand, profile=profile)
        .order_by("-published_at")
        .values_list("published_at", "reactions")
    )
    found = better_posting_times(
        [(at, float(n)) for at, n in rows[:_MOST]], ZoneInfo(profile.zone or context.brand.zone)
    )
    taken = [CoreSlot(s.weekday, s.at) for s in Slot.objects.filter(profile=profile)]
    slots = suggested_slots(found, _OFFERED, _APART_HOURS, taken)
    return BetterOut(
        posts=found.posts,
        why_not=found.unavailable_reason,
        hours=[
            BetterHour(
                weekday=c.weekday,
                hour=c.hour,
                posts=c.posts,
                estimate=c.estimate,
                low=c.low,
                high=c.high,
                lift=c.lift,
                sure=c.is_significant,
            )
            for c in found.cells
        ],
        suggested_slots=[SlotOut(weekday=s.weekday, at=s.at, label=None) for s in slots],
    )


@router.post("/brands/{brand}/hashtags", response=list[SuggestionOut], operation_id="hashtags")
def suggest_hashtags(request: HttpRequest, brand: str, data: TagsIn) -> list[SuggestionOut]:
    """Hashtags that suit a text, the best first, each with why."""
    found = hashtag_suggestions(brand_context(request, brand, Capability.WRITE), data.text, data.campaign)
    return [SuggestionOut(tag=s.tag, why=list(s.why)) for s in found]
