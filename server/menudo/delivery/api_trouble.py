"""Routes for trouble, for what is out already, and for how fresh listings are."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from menudo.base import clock
from menudo.base.revisions import if_match_revision
from menudo.delivery.actions.change_at_network import take_down, update_at_network
from menudo.delivery.listings import listing_freshness
from menudo.delivery.schemas_trouble import ListingOut, RetriedOut, RetriesIn, TroublesOut
from menudo.delivery.troubles import trouble_page
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.posts.actions.retry_deliveries import retry_deliveries
from menudo.posts.queries import delivery_of, delivery_out
from menudo.posts.schemas import ChangedOut, SkippedDelivery

router = Router(tags=["delivery"])


@router.get("/brands/{brand}/troubles", response=TroublesOut, operation_id="troubles")
def list_troubles(
    request: HttpRequest,
    brand: str,
    days: Annotated[int, Query(ge=1, le=366)] = 30,
    profile: Annotated[int | None, Query(ge=1, le=2**63 - 1)] = None,
) -> TroublesOut:
    """Everything that needs a person, by cause; and counts of sent and failed by profile."""
    return trouble_page(brand_context(request, brand).brand, days, profile, clock.now())


@router.post("/brands/{brand}/troubles/retry", response=RetriedOut, operation_id="retryDeliveries")
def retry_many(request: HttpRequest, brand: str, data: RetriesIn) -> RetriedOut:
    """Send many again."""
    done, left = retry_deliveries(
        brand_context(request, brand, Capability.PUBLISH), [(d.id, d.revision) for d in data.deliveries]
    )
    return RetriedOut(
        done=done, left=[SkippedDelivery(delivery=delivery_id, reason=words) for delivery_id, words in left]
    )


@router.post("/brands/{brand}/deliveries/{delivery_id}/take-down", response=ChangedOut, operation_id="takeDown")
def take_down_post(request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int) -> ChangedOut:
    """Take a published post down at the network (If-Match)."""
    context = brand_context(request, brand, Capability.DELETE)
    row = take_down(context, delivery_of(context, delivery_id), if_match_revision(request))
    response["ETag"] = f'"{row.revision}"'
    return ChangedOut(delivery=delivery_out(row), undo=None)


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/update-text",
    response=ChangedOut,
    operation_id="updateText",
)
def update_post_text(request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int) -> ChangedOut:
    """Bring the text of a published post up to date at the network (If-Match)."""
    context = brand_context(request, brand, Capability.PUBLISH)
    row = update_at_network(context, delivery_of(context, delivery_id), if_match_revision(request))
    response["ETag"] = f'"{row.revision}"'
    return ChangedOut(delivery=delivery_out(row), undo=None)


@router.get("/brands/{brand}/listings", response=list[ListingOut], operation_id="listings")
def list_listings(request: HttpRequest, brand: str) -> list[ListingOut]:
    """How fresh each location's listing is: the emptiest first."""
    return listing_freshness(brand_context(request, brand).brand, clock.now())
