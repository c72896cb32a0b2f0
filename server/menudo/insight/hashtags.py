"""Hashtags that suit a text: from the brand sheet, the campaign, what went out before and earned, and what rises."""

from collections import Counter
from dataclasses import replace
from datetime import timedelta

from django.core.cache import cache as kept

from menudo.base import clock
from menudo.brandsheet.queries import brand_sheet
from menudo.networks import sign_in
from menudo.networks.registry import open_adapter
from menudo.people.context import BrandContext
from menudo.people.models import Brand
from menudo.posts.models import Campaign, Delivery
from menudo.profiles.actions.refresh_token import working_token
from menudo.profiles.models import Connection, Profile
from menudo_core.insight.tags import PublishedPost, TagPerformance, tag_performance
from menudo_core.signoff.states import DeliveryState
from menudo_core.text.hashtags import hashtags
from menudo_core.wording.suggest import Suggestion, TagKnowledge, suggest_hashtags

_RISING_SECONDS = 900
_MAX_TRENDING = 4
_PAST_DAYS, _MOST_PAST = 365, 2000


def hashtag_suggestions(context: BrandContext, text: str, campaign: int | None = None) -> list[Suggestion]:
    """Hashtags that suit the text, from the brand sheet, the campaign, what went out before, and what rises at the networks."""
    sheet = brand_sheet(context.brand)
    known = TagKnowledge(
        sheet.topics,
        sheet.hashtags,
        _past_performance(context.brand),
        _rising_tags(context.brand),
    )
    gathered = Campaign.objects.filter(brand=context.brand, pk=campaign).first() if campaign else None
    if gathered:
        known = replace(known, campaign=(gathered.name, tuple(gathered.tags)))
    return suggest_hashtags(text, known)


def _past_performance(brand: Brand) -> dict[str, TagPerformance]:
    """How often each tag went out in the last year, and what it earned where that was measured."""
    since = clock.now() - timedelta(days=_PAST_DAYS)
    published = Delivery.objects.filter(brand=brand, state=DeliveryState.PUBLISHED, published_at__gte=since)
    rows = published.order_by("-published_at").values_list(
        "post_id", "profile_id", "sent_content", "reading__reactions"
    )
    return tag_performance(
        [
            PublishedPost(
                post,
                profile,
                frozenset(hashtags(f"{(sent or {}).get('text', '')} {(sent or {}).get('first_comment', '')}")),
                reactions,
            )
            for post, profile, sent, reactions in rows[:_MOST_PAST]
        ]
    )


def _rising_tags(brand: Brand) -> dict[str, int]:
    """What rises at the brand's networks, asked at most every quarter of an hour; a network that doesn't answer is left out."""
    connections = Connection.objects.filter(
        brand=brand, state=Connection.State.CONNECTED, profiles__state=Profile.State.CONNECTED
    )
    found: Counter[str] = Counter()
    asked: set[str] = set()
    for connection in connections.distinct().order_by("pk"):
        if connection.network in asked or len(asked) == _MAX_TRENDING:
            continue
        asked.add(connection.network)
        key = f"rising:{brand.pk}:{connection.network}"
        tags = kept.get(key)
        if tags is None:
            tags = _fetch_trending(connection)
            kept.set(key, tags, _RISING_SECONDS)
        for tag, count in tags.items():
            found[tag] = max(found[tag], count)
    return dict(found)


def _fetch_trending(connection: Connection) -> dict[str, int]:
    try:
        adapter = open_adapter(connection.endpoints, working_token(connection))
        return adapter.trending_hashtags()
    except (sign_in.ConnectionEndedError, sign_in.NetworkError):
        return {}
