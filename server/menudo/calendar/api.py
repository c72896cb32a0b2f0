"""Routes for the calendar, the day strip and the profiles page."""

import json
from datetime import date, datetime
from typing import Annotated, Any

from django.db.models import Count, Max, Q
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import ERRORS, Invalid
from menudo.calendar import reads
from menudo.calendar.everywhere import everywhere
from menudo.calendar.schemas import AllOut, StripOut, TodayOut, WindowOut
from menudo.calendar.today import today
from menudo.people.here import Here, here, signed_in
from menudo.profiles.reads import pauses, profiles, set_members, unmet_of
from menudo.profiles.schemas import ProfileOut
from menudo.profiles.sheets import sheets_of
from menudo.profiles.standing import usable
from menudo_core.networks.sheet import RuleSheet
from menudo_core.profiles.endings import WARN_DAYS, days_left
from menudo_core.profiles.sets import members
from menudo_core.signoff.states import DeliveryState

router = Router(tags=["calendar"])
_MOST = 62
_PLANNED = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]
_FURTHEST = date(9000, 1, 1)


@router.get("/brands/{brand}/calendar", response={200: WindowOut, **ERRORS}, operation_id="calendar")
def window(
    request: HttpRequest,
    brand: str,
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=_MOST)] = 14,
    sets: str = "",
) -> HttpResponse:
    """A window of the calendar, by default 14 days from today in the brand's zone. `sets`: ids of profile sets, with commas."""
    place = here(request, brand)
    now = clock.now()
    first = _within(first or now.astimezone(place.zone).date())
    only = _only(place, sets) if sets else None
    # Thousands of cards: written as they are read, and held against the schema by a test instead of at each answer.
    return HttpResponse(
        json.dumps(reads.window(place, first, days, now, only), default=str), content_type="application/json"
    )


def _within(first: date) -> date:
    if not date(1970, 1, 2) <= first <= _FURTHEST:
        raise Invalid.at("query:first", "The calendar runs from 1970 to 9000.", "far")
    return first


def _only(place: Here, sets: str) -> set[int]:
    """The profiles that any of the sets names. Raises NotFound for a set that isn't the brand's."""
    ids = [int(id) for id in sets.split(",")[:20] if id.isascii() and id.isdigit() and len(id) < 18]
    named = [set_members(place, id) for id in ids]
    return set(members(named, sorted(set().union(*named))))


@router.get("/calendar", response={200: AllOut, **ERRORS}, operation_id="everywhere")
def all_brands(
    request: HttpRequest, first: date | None = None, days: Annotated[int, Field(ge=1, le=_MOST)] = 14
) -> dict[str, Any]:
    """The calendar across all my brands, each in its own zone."""
    now = clock.now()
    return everywhere(signed_in(request), _within(first or now.date()), days, now)


@router.get("/brands/{brand}/today", response={200: TodayOut, **ERRORS}, operation_id="today")
def morning(request: HttpRequest, brand: str) -> dict[str, Any]:
    """The morning page: what goes out, what waits for a person, what is in trouble."""
    return today(here(request, brand), clock.now())


@router.get("/brands/{brand}/strip", response={200: StripOut, **ERRORS}, operation_id="strip")
def strip(request: HttpRequest, brand: str) -> dict[str, Any]:
    """The next 24 hours."""
    return reads.strip(here(request, brand), clock.now())


@router.get("/brands/{brand}/profiles", response={200: list[ProfileOut], **ERRORS}, operation_id="profiles")
def all_profiles(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """Every profile of the brand, with what is planned for it and what is in trouble."""
    place = here(request, brand)
    now = clock.now()
    counted = profiles(place).annotate(
        planned=Count("deliveries", filter=Q(deliveries__state__in=_PLANNED)),
        trouble=Count("deliveries", filter=Q(deliveries__state__in=[DeliveryState.TROUBLE, DeliveryState.MISSED])),
        last_published=Max("deliveries__published_at"),
    )
    paused = {p["profile"]: p for p in pauses(place.brand)}
    sheets = sheets_of(place.brand.pk)
    return [_profile(p, place, paused.get(p.pk), sheets, now) for p in counted]


def _profile(p: Any, place: Here, paused: dict | None, sheets: dict[str, RuleSheet], now: datetime) -> dict[str, Any]:
    connection = p.connection
    ends = connection.ends if connection else None
    left = days_left(ends, now) if ends else None
    return {
        "id": p.pk, "network": p.network, "handle": p.handle, "name": p.name, "called": p.called, "kind": p.kind, "url": p.url, "site": p.site,
        "followers": p.followers, "zone": p.zone or place.brand.zone, "zone_own": bool(p.zone), "state": p.state,
        "usable": usable(p), "paused": paused, "account": connection.account if connection else "",
        "connection": connection.pk if connection else None, "connection_ends": ends, "ends_in_days": left,
        "warning": left is not None and left <= max(WARN_DAYS),
        "by_link": connection.link.called if connection and connection.link else "", "unmet": unmet_of(p, sheets),
        "keeper": p.keeper_id, "keeper_name": p.keeper.name if p.keeper else "", "planned": p.planned, "trouble": p.trouble,
        "last_published": p.last_published, "slots": list(p.slots.all()),
    }  # fmt: skip
