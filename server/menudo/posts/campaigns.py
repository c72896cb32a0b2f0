"""Campaigns as a page needs them."""

from typing import Any

from django.db.models import Count, Exists, OuterRef, Q, QuerySet

from menudo.base.problems import NotFoundError
from menudo.people.context import BrandContext
from menudo.posts import schemas_plan
from menudo.posts.models import Campaign, Delivery
from menudo_core.signoff.states import DeliveryState

_PLANNED = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.SENDING, DeliveryState.HAND]
_TROUBLE = [DeliveryState.TROUBLE, DeliveryState.MISSED]


def campaign_list(context: BrandContext) -> list[schemas_plan.CampaignOut]:
    """Each campaign of the brand with its posts counted, one post once: one statement."""
    return [_campaign_out(c) for c in _with_counts(Campaign.objects.filter(brand=context.brand))]


def campaign_detail(context: BrandContext, campaign_id: int) -> schemas_plan.CampaignOut:
    """One campaign. Raises NotFoundError."""
    found = _with_counts(Campaign.objects.filter(brand=context.brand, pk=campaign_id)).first()
    if found is None:
        raise NotFoundError()
    return _campaign_out(found)


def _with_counts(rows: QuerySet[Campaign]) -> QuerySet[Campaign]:
    def some(states: list[DeliveryState]) -> Exists:
        return Exists(Delivery.objects.filter(post=OuterRef("posts__pk"), state__in=states))

    here = Q(posts__deleted_at__isnull=True)
    trouble, planned, published = some(_TROUBLE), some(_PLANNED), some([DeliveryState.PUBLISHED])
    busy = some([s for s in DeliveryState if s is not DeliveryState.UNPLANNED])
    return rows.annotate(
        count=Count("posts", filter=here, distinct=True),
        in_trouble=Count("posts", filter=here & Q(trouble), distinct=True),
        planned=Count("posts", filter=here & Q(planned) & ~Q(trouble), distinct=True),
        published=Count("posts", filter=here & Q(published) & ~Q(planned) & ~Q(trouble), distinct=True),
        drafts=Count("posts", filter=here & ~Q(busy), distinct=True),
    ).order_by("starts_on", "pk")


def _campaign_out(c: Any) -> schemas_plan.CampaignOut:
    return schemas_plan.CampaignOut(
        id=c.pk,
        name=c.name,
        starts_on=c.starts_on,
        ends_on=c.ends_on,
        ink=c.ink,
        tags=c.tags,
        link_tags=c.link_tags_id,
        posts=c.count,
        drafts=c.drafts,
        planned=c.planned,
        published=c.published,
        trouble=c.in_trouble,
    )
