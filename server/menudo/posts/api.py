"""Routes for posts and deliveries."""

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from menudo.base.revisions import if_match_revision
from menudo.history.models import HistoryEvent
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.people.models import User
from menudo.posts import queries, schemas
from menudo.posts.actions import bin_post as bin_actions
from menudo.posts.actions import mark_present as attending
from menudo.posts.actions import move_delivery as move_action
from menudo.posts.actions import plan_post as plan_action
from menudo.posts.actions import retry_delivery as retry_actions
from menudo.posts.actions import save_post as save_actions
from menudo.posts.actions import undo_event as undo_action
from menudo.posts.actions import unschedule as unschedule_actions
from menudo.posts.actions.duplicate_post import duplicate_post
from menudo.posts.actions.restore_version import has_state, restore_version
from menudo.posts.models import Delivery, Post

router = Router(tags=["posts"])


def _post_response(response: HttpResponse, post: Post) -> schemas.PostOut:
    response["ETag"] = f'"{post.revision}"'
    return queries.post_out(post)


def _changed_response(response: HttpResponse, delivery: Delivery, undo: int | None = None) -> schemas.ChangedOut:
    response["ETag"] = f'"{delivery.revision}"'
    return schemas.ChangedOut(delivery=queries.delivery_out(delivery), undo=undo)


@router.post("/brands/{brand}/posts", response={201: schemas.PostOut}, operation_id="createPost")
def add_post(request: HttpRequest, response: HttpResponse, brand: str, data: schemas.PostIn) -> Status[schemas.PostOut]:
    """A new draft."""
    return Status(
        201, _post_response(response, save_actions.create_post(brand_context(request, brand, Capability.WRITE), data))
    )


@router.get("/brands/{brand}/posts/{post_id}", response=schemas.PostOut, operation_id="post")
def get_post(request: HttpRequest, response: HttpResponse, brand: str, post_id: int) -> schemas.PostOut:
    """A whole post; its revision is the ETag."""
    return _post_response(response, queries.post_of(brand_context(request, brand), post_id))


@router.put("/brands/{brand}/posts/{post_id}", response=schemas.PostOut, operation_id="updatePost")
def update_post(
    request: HttpRequest, response: HttpResponse, brand: str, post_id: int, data: schemas.PostIn
) -> schemas.PostOut:
    """Keep a changed post (If-Match)."""
    context = brand_context(request, brand, Capability.WRITE)
    return _post_response(
        response, save_actions.save_post(context, queries.post_of(context, post_id), data, if_match_revision(request))
    )


@router.delete("/brands/{brand}/posts/{post_id}", response={204: None}, operation_id="binPost")
def delete_post(request: HttpRequest, brand: str, post_id: int) -> Status[None]:
    """Put a draft in the bin."""
    context = brand_context(request, brand)
    bin_actions.bin_post(context, queries.post_of(context, post_id))
    return Status(204, None)


@router.post("/brands/{brand}/posts/{post_id}/restore", response=schemas.PostOut, operation_id="restorePost")
def restore_from_bin(request: HttpRequest, response: HttpResponse, brand: str, post_id: int) -> schemas.PostOut:
    """Take a post out of the bin."""
    return _post_response(response, bin_actions.restore_post(brand_context(request, brand), post_id))


@router.get(
    "/brands/{brand}/posts/{post_id}/history",
    response=list[schemas.PostEventOut],
    operation_id="postHistory",
)
def list_post_history(request: HttpRequest, brand: str, post_id: int) -> list[schemas.PostEventOut]:
    """What happened to a post and its deliveries, newest first."""
    context = brand_context(request, brand)
    post = queries.post_of(context, post_id)
    of_post = HistoryEvent.objects.filter(brand_id=context.brand.pk, kind="post", object_id=post.pk)
    theirs = HistoryEvent.objects.filter(
        brand_id=context.brand.pk, kind="delivery", object_id__in=post.deliveries.values_list("pk", flat=True)
    )
    found = of_post.union(theirs).order_by("-id")[:200]
    return [
        schemas.PostEventOut(
            id=e.pk, occurred_at=e.occurred_at, actor=e.actor_name, summary=e.summary, state=has_state(e)
        )
        for e in found
    ]


@router.post(
    "/brands/{brand}/posts/{post_id}/restore/{event_id}",
    response=schemas.PostOut,
    operation_id="restoreVersion",
)
def restore_earlier(
    request: HttpRequest, response: HttpResponse, brand: str, post_id: int, event_id: int
) -> schemas.PostOut:
    """Go back to how the post was after an entry of its history (If-Match)."""
    context = brand_context(request, brand, Capability.WRITE)
    return _post_response(
        response, restore_version(context, queries.post_of(context, post_id), event_id, if_match_revision(request))
    )


@router.post("/brands/{brand}/posts/{post_id}/duplicate", response={201: schemas.PostOut}, operation_id="duplicatePost")
def create_copy(
    request: HttpRequest, response: HttpResponse, brand: str, post_id: int, data: schemas.DuplicateIn
) -> Status[schemas.PostOut]:
    """A copy as a new draft, with or without the times."""
    context = brand_context(request, brand, Capability.WRITE)
    return Status(201, _post_response(response, duplicate_post(context, queries.post_of(context, post_id), data.times)))


@router.get("/brands/{brand}/bin", response=list[schemas.BinnedOut], operation_id="bin")
def list_binned(request: HttpRequest, brand: str) -> list[schemas.BinnedOut]:
    """The posts in the bin, newest first."""
    return queries.binned_posts(brand_context(request, brand))


@router.post(
    "/brands/{brand}/posts/{post_id}/presence",
    response=list[schemas.AttendantOut],
    operation_id="attendPost",
)
def attend_post(request: HttpRequest, brand: str, post_id: int) -> list[User]:
    """Say that one has the post open. Who else has."""
    context = brand_context(request, brand)
    return attending.mark_present(context, queries.post_of(context, post_id))


@router.delete("/brands/{brand}/posts/{post_id}/presence", response={204: None}, operation_id="leavePost")
def leave_post(request: HttpRequest, brand: str, post_id: int) -> Status[None]:
    """Say that one has closed the post."""
    context = brand_context(request, brand)
    attending.mark_absent(context, queries.post_of(context, post_id))
    return Status(204, None)


@router.post("/brands/{brand}/posts/{post_id}/plan", response=schemas.PlanOut, operation_id="planPost")
def plan_deliveries(
    request: HttpRequest, response: HttpResponse, brand: str, post_id: int, data: schemas.PlanIn
) -> schemas.PlanOut:
    """Plan every delivery that fits; the others are left with their reason (If-Match)."""
    context = brand_context(request, brand, Capability.PUBLISH)
    done = plan_action.plan_post(
        context, queries.post_of(context, post_id), data.when, data.profiles, if_match_revision(request)
    )
    left = [schemas.SkippedOut(profile=profile, reason=words) for profile, words in done.left]
    return schemas.PlanOut(post=_post_response(response, done.post), planned=done.planned, left=left, undo=done.undo)


@router.get("/brands/{brand}/deliveries/{delivery_id}", response=schemas.DeliveryPage, operation_id="delivery")
def get_delivery(request: HttpRequest, brand: str, delivery_id: int) -> schemas.DeliveryPage:
    """One delivery, with what it says."""
    return queries.delivery_page(queries.delivery_of(brand_context(request, brand), delivery_id))


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/move",
    response=schemas.ChangedOut,
    operation_id="moveDelivery",
)
def update_time(
    request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int, data: schemas.MoveIn
) -> schemas.ChangedOut:
    """Give a delivery another time (If-Match)."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return _changed_response(
        response,
        *move_action.move_delivery(
            context, queries.delivery_of(context, delivery_id), data.wall_time, if_match_revision(request)
        ),
    )


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/unschedule",
    response=schemas.ChangedOut,
    operation_id="unscheduleDelivery",
)
def unschedule(request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int) -> schemas.ChangedOut:
    """Take a delivery off the calendar (If-Match)."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return _changed_response(
        response,
        *unschedule_actions.unschedule_delivery(
            context, queries.delivery_of(context, delivery_id), if_match_revision(request)
        ),
    )


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/call-off",
    response=schemas.ChangedOut,
    operation_id="callOffDelivery",
)
def call_off(request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int) -> schemas.ChangedOut:
    """Call a delivery off (If-Match)."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return _changed_response(
        response,
        *unschedule_actions.call_off_delivery(
            context, queries.delivery_of(context, delivery_id), if_match_revision(request)
        ),
    )


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/retry",
    response=schemas.ChangedOut,
    operation_id="retryDelivery",
)
def retry_sending(request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int) -> schemas.ChangedOut:
    """Send a delivery in trouble again (If-Match)."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return _changed_response(
        response,
        retry_actions.retry_delivery(context, queries.delivery_of(context, delivery_id), if_match_revision(request)),
    )


@router.post(
    "/brands/{brand}/deliveries/{delivery_id}/settle",
    response=schemas.ChangedOut,
    operation_id="resolveUncertain",
)
def settle_uncertain(
    request: HttpRequest, response: HttpResponse, brand: str, delivery_id: int, data: schemas.SettleIn
) -> schemas.ChangedOut:
    """Say whether a delivery that may have gone out is at the network (If-Match)."""
    context = brand_context(request, brand, Capability.PUBLISH)
    found = queries.delivery_of(context, delivery_id)
    return _changed_response(
        response, retry_actions.resolve_uncertain(context, found, data.is_there, data.url, if_match_revision(request))
    )


@router.post("/brands/{brand}/undo/{event_id}", response=schemas.UndoneOut, operation_id="undo")
def undo_change(request: HttpRequest, brand: str, event_id: int) -> schemas.UndoneOut:
    """Undo what one did oneself."""
    return schemas.UndoneOut(
        summary=undo_action.undo_event(brand_context(request, brand, Capability.PUBLISH), event_id)
    )
