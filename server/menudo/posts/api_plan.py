"""Routes for moving and marking many at once, for looking at times, and for campaigns."""

from django.db import transaction
from django.http import HttpRequest
from ninja import Router, Status

from menudo.base import clock
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.posts import campaigns, queries, schemas, schemas_plan
from menudo.posts.actions.follow_zone import follow_zone
from menudo.posts.actions.mark_posts import mark_posts
from menudo.posts.actions.move_deliveries import Move, MoveResult, move_deliveries
from menudo.posts.actions.save_campaign import delete_campaign, save_campaign
from menudo.posts.actions.unschedule import call_off_deliveries
from menudo.posts.times import planned_times
from menudo_core.timing.walltimes import wall_time_in

router = Router(tags=["planning"])


@router.post("/brands/{brand}/moves", response=schemas.MovedOut, operation_id="moveDeliveries")
def move_all(request: HttpRequest, brand: str, data: schemas.MovesIn) -> schemas.MovedOut:
    """Move deliveries: to other times or profiles, or to the tray. What can't be moved is left with its reason."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return _move_out(
        move_deliveries(
            context, [Move(m.id, m.revision, m.wall_time, m.profile, m.snap) for m in data.moves], data.whole
        )
    )


@router.post("/brands/{brand}/call-offs", response=schemas.MovedOut, operation_id="callOffDeliveries")
def call_off_many(request: HttpRequest, brand: str, data: schemas_plan.CallOffIn) -> schemas.MovedOut:
    """Call deliveries off. What can't be is left with its reason."""
    return _move_out(call_off_deliveries(brand_context(request, brand, Capability.PUBLISH), data.deliveries))


def _move_out(done: MoveResult) -> schemas.MovedOut:
    left = [schemas.SkippedDelivery(delivery=delivery_id, reason=words) for delivery_id, words in done.left]
    return schemas.MovedOut(moved=done.moved, left=left, undo=done.undo)


@router.post("/brands/{brand}/posts/{post_id}/times", response=list[schemas.TimeOut], operation_id="times")
def preview_times(
    request: HttpRequest, brand: str, post_id: int, data: schemas_plan.PreviewTimesIn
) -> list[schemas.TimeOut]:
    """When each profile of a post would go out. Nothing is planned; planned with the same seed, it is these times."""
    context = brand_context(request, brand, Capability.PUBLISH)
    with transaction.atomic():
        mine = queries.post_of(context, post_id).deliveries.select_related("post", "profile", "brand").order_by("pk")
        rows = [d for d in mine if data.profiles is None or d.profile_id in data.profiles]
        found = planned_times(context, rows, data.when, clock.now())
    return [
        schemas.TimeOut(
            profile=d.profile_id,
            zone=t.zone.key,
            delay=t.delay,
            jitter=t.jitter,
            reason="" if t.at else t.why_not,
            wall_time=wall_time_in(t.at, t.zone).isoformat(timespec="minutes") if t.at else None,
        )
        for d in rows
        if (t := found[d.pk])
    ]


@router.post("/brands/{brand}/marks", response=schemas_plan.MarkedOut, operation_id="markPosts")
def mark_many(request: HttpRequest, brand: str, data: schemas_plan.MarkIn) -> schemas_plan.MarkedOut:
    """Put labels on posts, take them off, gather them in a campaign."""
    context = brand_context(request, brand, Capability.WRITE)
    return schemas_plan.MarkedOut(
        posts=mark_posts(context, data.posts, data.add, data.remove, data.campaign, data.sets_campaign)
    )


@router.get("/brands/{brand}/campaigns", response=list[schemas_plan.CampaignOut], operation_id="campaigns")
def list_campaigns(request: HttpRequest, brand: str) -> list[schemas_plan.CampaignOut]:
    """The brand's campaigns and how far each is."""
    return campaigns.campaign_list(brand_context(request, brand))


@router.post("/brands/{brand}/campaigns", response={201: schemas_plan.CampaignOut}, operation_id="createCampaign")
def create_campaign(
    request: HttpRequest, brand: str, data: schemas_plan.CampaignIn
) -> Status[schemas_plan.CampaignOut]:
    """A new campaign."""
    context = brand_context(request, brand, Capability.WRITE)
    return Status(201, campaigns.campaign_detail(context, save_campaign(context, None, **data.model_dump()).pk))


@router.put(
    "/brands/{brand}/campaigns/{campaign_id}",
    response=schemas_plan.CampaignOut,
    operation_id="updateCampaign",
)
def update_campaign(
    request: HttpRequest, brand: str, campaign_id: int, data: schemas_plan.CampaignIn
) -> schemas_plan.CampaignOut:
    """Change a campaign."""
    context = brand_context(request, brand, Capability.WRITE)
    return campaigns.campaign_detail(context, save_campaign(context, campaign_id, **data.model_dump()).pk)


@router.delete("/brands/{brand}/campaigns/{campaign_id}", response={204: None}, operation_id="deleteCampaign")
def destroy_campaign(request: HttpRequest, brand: str, campaign_id: int) -> Status[None]:
    """Delete a campaign; its posts stay."""
    delete_campaign(brand_context(request, brand, Capability.WRITE), campaign_id)
    return Status(204, None)


@router.post("/brands/{brand}/zone-changes", response=schemas_plan.FollowedOut, operation_id="followZone")
def follow_changed_zone(request: HttpRequest, brand: str, data: schemas_plan.FollowIn) -> schemas_plan.FollowedOut:
    """After a zone was changed: what is planned in it keeps the time on the wall, or the moment."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    followed, stay = follow_zone(context, data.profile, data.was, data.hold)
    return schemas_plan.FollowedOut(followed=followed, stay=stay)
