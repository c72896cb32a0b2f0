"""Routes for kept views, calendar addresses, the almanac, peeks, the grid proof and the plan as CSV."""

from datetime import date, timedelta
from typing import Annotated

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Query, Router, Status
from pydantic import Field

from menudo.base import clock
from menudo.base.downloads import csv_response
from menudo.calendar import schemas_views
from menudo.calendar.actions import save_almanac as almanacs
from menudo.calendar.actions.save_view import delete_view, save_view
from menudo.calendar.actions.subscribe import create_subscription, revoke_subscription, subscription_address
from menudo.calendar.api import MAX_DAYS, require_in_range
from menudo.calendar.csv_export import plan_csv, planned_deliveries, window_deliveries
from menudo.calendar.filters import FilterParams
from menudo.calendar.models import Almanac, CustomDate, SavedView, Subscription
from menudo.calendar.peek import post_peek
from menudo.calendar.profile_grid import profile_grid
from menudo.calendar.schemas import FilterIn
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext, brand_context
from menudo.posts.actions.swap_times import swap_times
from menudo.profiles.queries import profile_of
from menudo_core.almanac.observances import all_observances, observance_days
from menudo_core.almanac.public_holidays import holiday_countries

router = Router(tags=["calendar"])
_TEXTS_AT_ONCE = 300


@router.get("/brands/{brand}/views", response=list[schemas_views.ViewOut], operation_id="views")
def list_views(request: HttpRequest, brand: str) -> list[schemas_views.ViewOut]:
    """One's own kept views, and those others share."""
    context = brand_context(request, brand)
    rows = SavedView.objects.filter(brand=context.brand).select_related("user")
    return [_view_out(v, context) for v in rows if v.shared or v.user_id == context.user.pk]


def _view_out(v: SavedView, context: BrandContext) -> schemas_views.ViewOut:
    mine = v.user_id == context.user.pk
    return schemas_views.ViewOut(id=v.pk, name=v.name, query=v.query, shared=v.shared, mine=mine, by=v.user.name)


@router.post("/brands/{brand}/views", response={201: schemas_views.ViewOut}, operation_id="saveView")
def create_view(request: HttpRequest, brand: str, data: schemas_views.ViewIn) -> Status[schemas_views.ViewOut]:
    """Keep a view and its filter under a name, over one's own of that name."""
    context = brand_context(request, brand)
    return Status(201, _view_out(save_view(context, data.name, data.query, data.shared), context))


@router.delete("/brands/{brand}/views/{view_id}", response={204: None}, operation_id="deleteView")
def destroy_view(request: HttpRequest, brand: str, view_id: int) -> Status[None]:
    """Delete a kept view."""
    delete_view(brand_context(request, brand), view_id)
    return Status(204, None)


@router.get(
    "/brands/{brand}/subscriptions",
    response=list[schemas_views.SubscriptionOut],
    operation_id="subscriptions",
)
def list_subscriptions(request: HttpRequest, brand: str) -> list[schemas_views.SubscriptionOut]:
    """The addresses at which other programs read the calendar: one's own, and with the right to manage people all."""
    context = brand_context(request, brand)
    rows = (
        Subscription.objects.filter(brand=context.brand, revoked_at=None)
        .select_related("user")
        .order_by("-created_at", "-pk")
    )
    if Capability.MANAGE_PEOPLE not in context.capabilities:
        rows = rows.filter(user=context.user)
    return [_subscription_out(s, context) for s in rows]


def _subscription_out(s: Subscription, context: BrandContext) -> schemas_views.SubscriptionOut:
    is_own = s.user_id == context.user.pk
    return schemas_views.SubscriptionOut(
        id=s.pk,
        name=s.name,
        by=s.user.name,
        is_own=is_own,
        created_at=s.created_at,
        last_read_at=s.last_read_at,
    )


@router.post("/brands/{brand}/subscriptions", response={201: schemas_views.SubscribedOut}, operation_id="subscribe")
def add_subscription(
    request: HttpRequest, brand: str, data: schemas_views.SubscribeIn
) -> Status[schemas_views.SubscribedOut]:
    """Make a secret address. It is told this once."""
    context = brand_context(request, brand)
    made, token = create_subscription(context, data.profiles, data.mine)
    made.refresh_from_db()
    return Status(
        201,
        schemas_views.SubscribedOut(subscription=_subscription_out(made, context), address=subscription_address(token)),
    )


@router.delete("/brands/{brand}/subscriptions/{subscription_id}", response={204: None}, operation_id="unsubscribe")
def destroy_subscription(request: HttpRequest, brand: str, subscription_id: int) -> Status[None]:
    """Revoke an address."""
    revoke_subscription(brand_context(request, brand), subscription_id)
    return Status(204, None)


@router.get("/brands/{brand}/almanac", response=schemas_views.AlmanacOut, operation_id="almanac")
def get_almanac(request: HttpRequest, brand: str) -> schemas_views.AlmanacOut:
    """Which days worth a post the brand sees, and all there are to choose from."""
    return _almanac_out(brand_context(request, brand))


def _almanac_out(context: BrandContext) -> schemas_views.AlmanacOut:
    kept = Almanac.objects.filter(brand=context.brand).first() or Almanac(brand=context.brand)
    today = clock.now().astimezone(context.zone).date()
    next_: dict[str, date] = {}
    for day in observance_days(today, today + timedelta(days=8 * 366)):
        next_.setdefault(day.key, day.day)
    return schemas_views.AlmanacOut(
        countries=kept.countries,
        observances=kept.observances,
        excluded=kept.excluded,
        custom=[schemas_views.CustomDateOut.from_orm(d) for d in CustomDate.objects.filter(brand=context.brand)],
        known=[schemas_views.CountryOut(code=code, name=name) for code, name in holiday_countries().items()],
        all=[
            schemas_views.ObservanceOut(key=o.key, name=o.name, next=next_[o.key], topics=list(o.topics))
            for o in all_observances()
        ],
    )


@router.put("/brands/{brand}/almanac", response=schemas_views.AlmanacOut, operation_id="saveAlmanac")
def update_almanac(request: HttpRequest, brand: str, data: schemas_views.AlmanacIn) -> schemas_views.AlmanacOut:
    """Choose countries and observances."""
    context = brand_context(request, brand, Capability.WRITE)
    almanacs.save_almanac(context, data.countries, data.observances, data.excluded)
    return _almanac_out(context)


@router.post("/brands/{brand}/almanac/dates", response={201: schemas_views.CustomDateOut}, operation_id="createDate")
def create_date(request: HttpRequest, brand: str, data: schemas_views.CustomDateIn) -> Status[CustomDate]:
    """A date of the brand's own."""
    return Status(
        201, almanacs.save_custom_date(brand_context(request, brand, Capability.WRITE), None, data.name, data.rule)
    )


@router.put(
    "/brands/{brand}/almanac/dates/{date_id}",
    response=schemas_views.CustomDateOut,
    operation_id="updateDate",
)
def update_date(request: HttpRequest, brand: str, date_id: int, data: schemas_views.CustomDateIn) -> CustomDate:
    """Change a date of the brand's own."""
    return almanacs.save_custom_date(brand_context(request, brand, Capability.WRITE), date_id, data.name, data.rule)


@router.delete("/brands/{brand}/almanac/dates/{date_id}", response={204: None}, operation_id="deleteDate")
def destroy_date(request: HttpRequest, brand: str, date_id: int) -> Status[None]:
    """Delete a date of the brand's own."""
    almanacs.delete_custom_date(brand_context(request, brand, Capability.WRITE), date_id)
    return Status(204, None)


@router.get("/brands/{brand}/posts/{post_id}/peek", response=schemas_views.PeekOut, operation_id="peek")
def get_peek(request: HttpRequest, brand: str, post_id: int) -> schemas_views.PeekOut:
    """What a card says without opening it: each network's wording, media, states, findings, and who."""
    return post_peek(brand_context(request, brand), post_id)


@router.get(
    "/brands/{brand}/profiles/{profile_id}/grid",
    response=schemas_views.GridOut,
    operation_id="gridProof",
)
def get_profile_grid(request: HttpRequest, brand: str, profile_id: int) -> schemas_views.GridOut:
    """A photo profile's page as it will be."""
    context = brand_context(request, brand)
    return profile_grid(context, profile_of(context, profile_id), clock.now())


@router.post("/brands/{brand}/swaps", response=schemas_views.SwappedOut, operation_id="swapTimes")
def swap_deliveries(request: HttpRequest, brand: str, data: schemas_views.SwapIn) -> schemas_views.SwappedOut:
    """Let two posts of one profile change places: their times swap."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return schemas_views.SwappedOut(
        undo=swap_times(context, (data.one.id, data.one.revision), (data.other.id, data.other.revision))
    )


@router.get("/brands/{brand}/plan", response=schemas_views.FullTextPage, operation_id="plannedTexts")
def list_full_texts(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14,
    after: Annotated[int, Field(ge=0, le=1_000_000, description="how many to pass over")] = 0,
) -> schemas_views.FullTextPage:
    """What each delivery of the window says, in full; a few hundred at a time."""
    context = brand_context(request, brand)
    begins = require_in_range(first or clock.now().astimezone(context.zone).date())
    there = window_deliveries(context, begins, days, FilterParams(**narrow.model_dump()).to_filter(context))
    found = planned_deliveries(there[after : after + _TEXTS_AT_ONCE])
    items = [
        schemas_views.FullTextOut(
            delivery=one.id,
            text=one.content.text,
            link=one.content.link,
            first_comment=one.content.first_comment,
            media=list(one.content.media),
        )
        for one in found
    ]
    return schemas_views.FullTextPage(items=items, next=after + len(items) if len(items) == _TEXTS_AT_ONCE else None)


@router.get("/brands/{brand}/plan.csv", response={200: None}, operation_id="planCsv")
def export_csv(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14,
) -> StreamingHttpResponse:
    """The window as CSV, in columns that can be brought in again."""
    context = brand_context(request, brand)
    begins = require_in_range(first or clock.now().astimezone(context.zone).date())
    pieces = plan_csv(context, begins, days, FilterParams(**narrow.model_dump()).to_filter(context))
    return csv_response(pieces, f"{context.brand.slug}-{begins}.csv")
