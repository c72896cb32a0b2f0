"""Routes for the calendar, the day strip and the profiles page."""

import json
from datetime import date
from typing import Annotated, Any

from django.db.models import Count, Max, Q
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import ERRORS, Invalid
from menudo.calendar import reads
from menudo.calendar.schemas import StripOut, WindowOut
from menudo.people.here import here
from menudo.profiles.reads import profiles
from menudo.profiles.schemas import ProfileOut
from menudo_core.signoff.states import DeliveryState

router = Router(tags=["calendar"])
_MOST = 62
_FURTHEST = date(9000, 1, 1)


@router.get("/brands/{brand}/calendar", response={200: WindowOut, **ERRORS}, operation_id="calendar")
def window(
    request: HttpRequest,
    brand: str,
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=_MOST)] = 14,
) -> HttpResponse:
    """A window of the calendar, by default 14 days from today in the brand's zone."""
    place = here(request, brand)
    now = clock.now()
    first = first or now.astimezone(place.zone).date()
    if not date(1970, 1, 2) <= first <= _FURTHEST:
        raise Invalid.at("query:first", "The calendar runs from 1970 to 9000.", "far")
    # Thousands of cards: written as they are read, and held against the schema by a test instead of at each answer.
    return HttpResponse(json.dumps(reads.window(place, first, days, now), default=str), content_type="application/json")


@router.get("/brands/{brand}/strip", response={200: StripOut, **ERRORS}, operation_id="strip")
def strip(request: HttpRequest, brand: str) -> dict[str, Any]:
    """The next 24 hours."""
    return reads.strip(here(request, brand), clock.now())


@router.get("/brands/{brand}/profiles", response={200: list[ProfileOut], **ERRORS}, operation_id="profiles")
def all_profiles(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """Every profile of the brand, with what is planned for it and what is in trouble."""
    place = here(request, brand)
    counted = profiles(place).annotate(
        planned=Count("deliveries", filter=Q(deliveries__state__in=[DeliveryState.PLANNED, DeliveryState.HELD])),
        trouble=Count("deliveries", filter=Q(deliveries__state__in=[DeliveryState.TROUBLE, DeliveryState.MISSED])),
        last_published=Max("deliveries__published_at"),
    )
    return [
        {
            "id": p.pk, "network": p.network, "handle": p.handle, "name": p.name, "kind": p.kind,
            "zone": p.zone or place.brand.zone, "state": p.state, "account": p.connection.account if p.connection else "",
            "connection_ends": p.connection.ends if p.connection else None, "planned": p.planned, "trouble": p.trouble,
            "last_published": p.last_published, "slots": list(p.slots.all()),
        }
        for p in counted
    ]  # fmt: skip
