"""Routes for the calendar, the day strip and the profiles page."""

import json
from datetime import date, datetime
from typing import Annotated, Any

from django.db.models import Count, Max, Q
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import InvalidError
from menudo.calendar import queries
from menudo.calendar.all_brands import all_brand_lanes
from menudo.calendar.filters import FilterParams
from menudo.calendar.pending import pending_items
from menudo.calendar.schemas import AdviceOut, AllOut, StripOut, TodayOut, WindowOut
from menudo.calendar.spacing import with_advice
from menudo.calendar.today import today_page
from menudo.people.context import BrandContext, brand_context, current_user
from menudo.profiles.models import Profile
from menudo.profiles.pauses import is_usable
from menudo.profiles.queries import brand_profiles, current_pauses, spacing_out, unmet_conditions_of
from menudo.profiles.schemas import ProfileOut
from menudo.profiles.sheets import sheets_of
from menudo.talk.schemas import AssignedOut
from menudo_core.networks.sheet import RuleSheet
from menudo_core.profiles.expiry import WARNING_DAYS, days_left
from menudo_core.signoff.states import DeliveryState

router = Router(tags=["calendar"])
MAX_DAYS = 62
_PLANNED = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]
_LAST_DATE = date(9000, 1, 1)


class FilterIn(Schema):
    """The filter of every view: ids and names with commas; empty is all."""

    sets: str = Field(default="", max_length=2000, description="profile sets")
    profiles: str = Field(default="", max_length=5000)
    networks: str = Field(default="", max_length=2000)
    states: str = Field(default="", max_length=300, description="of deliveries")
    labels: str = Field(default="", max_length=2000)
    campaigns: str = Field(default="", max_length=2000)
    people: str = Field(default="", max_length=2000, description="authors")
    words: str = Field(default="", max_length=200, description="in title, text or card")


@router.get("/brands/{brand}/calendar", response=WindowOut, operation_id="calendar")
def get_window(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14,
) -> HttpResponse:
    """A window of the calendar, by default 14 days from today in the brand's zone."""
    context = brand_context(request, brand)
    now = clock.now()
    first = require_in_range(first or now.astimezone(context.zone).date())
    found = queries.calendar_window(context, first, days, now, FilterParams(**narrow.model_dump()).to_filter(context))
    return _json_response(found)


def _json_response(found: dict[str, Any]) -> HttpResponse:
    """Thousands of cards: written as they are read, and held against the schema by a test instead of at each answer."""
    return HttpResponse(json.dumps(found, default=str), content_type="application/json")


@router.get("/brands/{brand}/calendar/advice", response=list[AdviceOut], operation_id="spacing")
def list_advice(
    request: HttpRequest, brand: str, first: date | None = None, days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14
) -> list[dict[str, Any]]:
    """Gaps, crowding and repetition among what is still to come, each with why and a proposed time."""
    context, now = brand_context(request, brand), clock.now()
    return with_advice(context, require_in_range(first or now.astimezone(context.zone).date()), days, now)


def require_in_range(first: date) -> date:
    if not date(1970, 1, 2) <= first <= _LAST_DATE:
        raise InvalidError.at("query:first", "The calendar runs from 1970 to 9000.", "far")
    return first


@router.get("/calendar", response=AllOut, operation_id="allBrands")
def get_all_brands(
    request: HttpRequest, first: date | None = None, days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14
) -> HttpResponse:
    """The calendar across all my brands, each in its own zone."""
    now = clock.now()
    return _json_response(all_brand_lanes(current_user(request), require_in_range(first or now.date()), days, now))


@router.get("/brands/{brand}/today", response=TodayOut, operation_id="today")
def get_today(request: HttpRequest, brand: str) -> dict[str, Any]:
    """The morning page: what goes out, what waits for a person, what is in trouble."""
    return today_page(brand_context(request, brand), clock.now())


@router.get("/assigned", response=AssignedOut, operation_id="assigned")
def list_pending(request: HttpRequest) -> AssignedOut:
    """What waits on me in every brand of mine, the most urgent first."""
    return pending_items(current_user(request))


@router.get("/brands/{brand}/strip", response=StripOut, operation_id="strip")
def get_strip(request: HttpRequest, brand: str) -> dict[str, Any]:
    """The next 24 hours."""
    return queries.next_day_strip(brand_context(request, brand), clock.now())


@router.get("/brands/{brand}/profiles", response=list[ProfileOut], operation_id="profiles")
def list_profiles(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """Every profile of the brand, with what is planned for it and what is in trouble."""
    context = brand_context(request, brand)
    now = clock.now()
    counted = brand_profiles(context).annotate(
        planned=Count("deliveries", filter=Q(deliveries__state__in=_PLANNED)),
        trouble=Count("deliveries", filter=Q(deliveries__state__in=[DeliveryState.TROUBLE, DeliveryState.MISSED])),
        last_published=Max("deliveries__published_at"),
    )
    # Where rows are grouped, the model's own order doesn't hold.
    counted = counted.order_by("network", "handle", "pk")
    paused = {p["profile"]: p for p in current_pauses(context.brand)}
    sheets = sheets_of(context.brand.pk)
    return [
        {
            **_profile_out(p, context, paused.get(p.pk), sheets, now),
            "planned": p.planned, "trouble": p.trouble, "last_published": p.last_published,
        }
        for p in counted
    ]  # fmt: skip


def _profile_out(
    p: Profile, context: BrandContext, paused: dict | None, sheets: dict[str, RuleSheet], now: datetime
) -> dict[str, Any]:
    connection = p.connection
    expires_at = connection.expires_at if connection else None
    left = days_left(expires_at, now) if expires_at else None
    return {
        "id": p.pk, "network": p.network, "handle": p.handle, "name": p.name, "display_name": p.display_name, "kind": p.kind, "url": p.url, "site": p.site,
        "followers": p.followers, "zone": p.zone or context.brand.zone, "zone_own": bool(p.zone), "state": p.state,
        "usable": is_usable(p), "paused": paused, "account": connection.account if connection else "",
        "connection": connection.pk if connection else None, "connection_expires_at": expires_at, "expires_in_days": left,
        "warning": left is not None and left <= max(WARNING_DAYS),
        "by_link": connection.link.display_name if connection and connection.link else "", "unmet": unmet_conditions_of(p, sheets),
        "keeper": p.keeper_id, "keeper_name": p.keeper.name if p.keeper else "", "spacing": spacing_out(p),
        "slots": [{"weekday": s.weekday, "at": s.at, "label": s.label_id} for s in p.slots.all()],
    }  # fmt: skip
