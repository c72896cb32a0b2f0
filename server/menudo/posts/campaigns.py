"""Campaigns as a page needs them."""

from collections import Counter
from collections.abc import Iterable

from django.db import connection
from django.db.models import QuerySet

from menudo.base.problems import NotFoundError
from menudo.people.context import BrandContext
from menudo.posts import schemas_plan
from menudo.posts.models import Campaign
from menudo_core.signoff.states import DeliveryState

# A post counts once, as the first of these that one of its deliveries is; with none it is a draft. One whose deliveries were
# called off is none of them.
_STANDINGS: dict[str, list[DeliveryState]] = {
    "trouble": [DeliveryState.TROUBLE, DeliveryState.MISSED],
    "planned": [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.SENDING, DeliveryState.HAND],
    "published": [DeliveryState.PUBLISHED],
    "off": [DeliveryState.OFF],
}
# The ORM counts no groups of groups; and with a list of campaigns, not a subquery, PostgreSQL looks at their posts alone.
_COUNT = """
SELECT campaign_id, standing, count(*) FROM (
    SELECT p.campaign_id, min(array_position(%(states)s::text[], d.state::text)) AS standing
    FROM posts_post p LEFT JOIN posts_delivery d ON d.post_id = p.id
    WHERE p.campaign_id = ANY(%(campaigns)s) AND p.deleted_at IS NULL GROUP BY p.id
) AS counted GROUP BY campaign_id, standing
"""
# In the order in which they count, and whose each is.
_ORDERED = [(state.value, standing) for standing, states in _STANDINGS.items() for state in states]


def campaign_list(context: BrandContext) -> list[schemas_plan.CampaignOut]:
    """Each campaign of the brand with its posts counted, one post once: two statements."""
    return _with_counts(Campaign.objects.filter(brand=context.brand))


def campaign_detail(context: BrandContext, campaign_id: int) -> schemas_plan.CampaignOut:
    """One campaign. Raises NotFoundError."""
    found = _with_counts(Campaign.objects.filter(brand=context.brand, pk=campaign_id))
    if not found:
        raise NotFoundError()
    return found[0]


def _with_counts(rows: QuerySet[Campaign]) -> list[schemas_plan.CampaignOut]:
    found = list(rows.order_by("starts_on", "pk"))
    counts = _count_posts([c.pk for c in found])
    return [_campaign_out(c, counts[c.pk]) for c in found]


def _count_posts(campaigns: Iterable[int]) -> dict[int, Counter[str]]:
    """The posts of each campaign by what they count as."""
    found: dict[int, Counter[str]] = {pk: Counter() for pk in campaigns}
    with connection.cursor() as cursor:
        cursor.execute(_COUNT, {"states": [state for state, _ in _ORDERED], "campaigns": list(found)})
        for campaign, place, count in cursor.fetchall():
            found[campaign][_ORDERED[place - 1][1] if place else "drafts"] += count
    return found


def _campaign_out(c: Campaign, counts: Counter[str]) -> schemas_plan.CampaignOut:
    return schemas_plan.CampaignOut(
        id=c.pk,
        name=c.name,
        starts_on=c.starts_on,
        ends_on=c.ends_on,
        ink=c.ink,
        tags=c.tags,
        link_tags=c.link_tags_id,
        posts=counts.total(),
        drafts=counts["drafts"],
        planned=counts["planned"],
        published=counts["published"],
        trouble=counts["trouble"],
    )
