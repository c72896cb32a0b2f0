"""Routes for what stands in the way of posts: pauses, ended connections, what was missed; and for publishing by hand."""

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from menudo.base import clock
from menudo.base.revisions import if_match_revision
from menudo.delivery import queries, schemas
from menudo.delivery.actions import pause, publish_by_hand
from menudo.delivery.actions.catch_up import catch_up
from menudo.delivery.actions.disconnect import disconnect_profile
from menudo.delivery.actions.recheck_profile import recheck_profile
from menudo.delivery.actions.send_comment import retry_comment
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext, brand_context, current_user
from menudo.people.models import Membership
from menudo.posts.models import Delivery
from menudo.posts.queries import delivery_of as one_delivery
from menudo.posts.queries import delivery_out
from menudo.posts.schemas import ChangedOut, DeliveryOut
from menudo.profiles.queries import pause_out, profile_of
from menudo.profiles.schemas import PauseOut

router = Router(tags=["delivery"])


@router.get("/brands/{brand}/obstacles", response=schemas.ObstaclesOut, operation_id="obstacles")
def get_obstacles(request: HttpRequest, brand: str) -> schemas.ObstaclesOut:
    """What stands in the way of the brand's posts just now."""
    return queries.obstacles(brand_context(request, brand).brand, clock.now())


@router.post("/brands/{brand}/profiles/{profile_id}/check", response=str, operation_id="checkProfile")
def recheck_conditions(request: HttpRequest, brand: str, profile_id: int) -> str:
    """Ask the network whether the profile's conditions are met now. Its state."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    return recheck_profile(context, profile_of(context, profile_id)).state


@router.post(
    "/brands/{brand}/profiles/{profile_id}/disconnect",
    response=schemas.CountOut,
    operation_id="disconnectProfile",
)
def disconnect(request: HttpRequest, brand: str, profile_id: int, data: schemas.DisconnectIn) -> schemas.CountOut:
    """Disconnect a profile. How many planned deliveries were made drafts or called off."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    return schemas.CountOut(count=disconnect_profile(context, profile_of(context, profile_id), data.then))


@router.post("/brands/{brand}/pauses", response={201: PauseOut}, operation_id="pause")
def create_pause(request: HttpRequest, brand: str, data: schemas.PauseIn) -> Status[PauseOut]:
    """Pause a profile or the brand, from now on."""
    context = brand_context(request, brand, Capability.PUBLISH)
    whose = profile_of(context, data.profile) if data.profile is not None else None
    return Status(201, pause_out(pause.pause(context, whose, data.ends_at, data.reason)))


@router.post("/brands/{brand}/pauses/{pause_id}/end", response=PauseOut, operation_id="resume")
def destroy_pause(request: HttpRequest, brand: str, pause_id: int) -> PauseOut:
    """Resume. What was missed waits for a choice."""
    return pause_out(pause.resume(brand_context(request, brand, Capability.PUBLISH), pause_id))


def _publishable_brands(request: HttpRequest) -> list[BrandContext]:
    """Every brand in which the person may publish."""
    user = current_user(request)
    members = Membership.objects.select_related("brand").filter(user=user, capabilities__contains=[Capability.PUBLISH])
    return [BrandContext(user, m.brand, frozenset(m.capabilities)) for m in members]


@router.post("/pauses", response=schemas.CountOut, operation_id="pauseAll")
def pause_everywhere(request: HttpRequest, data: schemas.PauseAllIn) -> schemas.CountOut:
    """Pause every brand one may publish in. How many; those paused already stay as they are."""
    return schemas.CountOut(count=pause.pause_all(_publishable_brands(request), data.ends_at, data.reason))


@router.post("/pauses/end", response=schemas.CountOut, operation_id="resumeAll")
def resume_everywhere(request: HttpRequest) -> schemas.CountOut:
    """Resume every brand one may publish in. How many."""
    return schemas.CountOut(count=pause.resume_all(_publishable_brands(request)))


@router.post("/brands/{brand}/catch-up", response=schemas.CaughtUpOut, operation_id="catchUp")
def catch_up_missed(request: HttpRequest, brand: str, data: schemas.CatchUpIn) -> schemas.CaughtUpOut:
    """Say what happens to what was missed while paused or disconnected."""
    caught = catch_up(brand_context(request, brand, Capability.PUBLISH), data.choice)
    return schemas.CaughtUpOut(count=caught.count, undo=caught.undo)


def _delivery_response(response: HttpResponse, row: Delivery) -> DeliveryOut:
    response["ETag"] = f'"{row.revision}"'
    return delivery_out(row)


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/published",
    response=DeliveryOut,
    operation_id="reportPublished",
)
def report_published(
    request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int, data: schemas.DoneIn
) -> DeliveryOut:
    """It is published by hand (If-Match)."""
    context = brand_context(request, brand)
    return _delivery_response(
        response,
        publish_by_hand.mark_published(
            context, one_delivery(context, delivery_id), data.url, if_match_revision(request)
        ),
    )


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/not-published",
    response=DeliveryOut,
    operation_id="reportNotPublished",
)
def report_not_published(
    request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int, data: schemas.NotDoneIn
) -> DeliveryOut:
    """It won't be published by hand, and why (If-Match)."""
    context = brand_context(request, brand)
    return _delivery_response(
        response,
        publish_by_hand.mark_not_published(
            context, one_delivery(context, delivery_id), data.reason, if_match_revision(request)
        ),
    )


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/postpone",
    response=DeliveryOut,
    operation_id="postponeByHand",
)
def postpone_by_hand(
    request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int, data: schemas.LaterIn
) -> DeliveryOut:
    """It will be published by hand at another time (If-Match)."""
    context = brand_context(request, brand)
    return _delivery_response(
        response,
        publish_by_hand.postpone(
            context, one_delivery(context, delivery_id), data.wall_time, if_match_revision(request)
        ),
    )


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/comment",
    response=ChangedOut,
    operation_id="retryComment",
)
def retry_first_comment(request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int) -> ChangedOut:
    """Try the first comment again that failed alone (If-Match)."""
    context = brand_context(request, brand, Capability.PUBLISH)
    row = retry_comment(context, one_delivery(context, delivery_id), if_match_revision(request))
    return ChangedOut(delivery=_delivery_response(response, row), undo=None)
