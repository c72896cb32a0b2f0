"""Trouble by its cause, and how many were sent and failed: what the trouble page shows."""

from datetime import datetime, timedelta

from django.db.models import Count, Q

from menudo.delivery import schemas_trouble
from menudo.delivery.models import FirstComment
from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.posts.queries import allowed_actions
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo_core.sending.causes import Cause, cause_of
from menudo_core.signoff.states import DeliveryState

_MAX_ROWS = 500
_ALONE = Q(comment__state=FirstComment.State.TROUBLE)


def trouble_page(brand: Brand, days: int, profile: int | None, now: datetime) -> schemas_trouble.TroublesOut:
    """Everything that needs a person, by cause and network, newest first; and the counts of the last `days` days by
    profile. Four statements."""
    stuck = Q(state__in=[DeliveryState.TROUBLE, DeliveryState.MISSED]) | _ALONE
    rows = Delivery.objects.filter(stuck, brand=brand, post__deleted_at__isnull=True).select_related(
        "profile", "comment"
    )
    if profile is not None:
        rows = rows.filter(profile=profile)
    sheets = sheets_of(brand.pk)
    groups: dict[tuple[str, str], schemas_trouble.TroubleGroup] = {}
    for row in rows.order_by("-due_at", "pk")[:_MAX_ROWS]:
        key, cause = _cause_of(row)
        named = sheets[row.profile.network].name if row.profile.network in sheets else row.profile.network
        network = row.profile.network if "{network}" in cause.title else ""
        group = groups.setdefault((key, network), _group_out(key, network, cause, named))
        group.items.append(_item_out(row))
    return schemas_trouble.TroublesOut(
        groups=sorted(groups.values(), key=lambda group: -len(group.items)),
        counts=_counts_by_profile(brand, now - timedelta(days=days)),
        days=days,
    )


def _cause_of(row: Delivery) -> tuple[str, Cause]:
    if row.state == DeliveryState.PUBLISHED:
        return cause_of("comment")
    return cause_of(row.reason_code or ("missed" if row.state == DeliveryState.MISSED else ""), row.held_for)


def _group_out(key: str, network: str, cause: Cause, named: str) -> schemas_trouble.TroubleGroup:
    return schemas_trouble.TroubleGroup(
        cause=key,
        network=network,
        title=cause.title.format(network=named),
        advice=cause.advice.format(network=named),
        remedy=cause.remedy,
        items=[],
    )


def _item_out(row: Delivery) -> schemas_trouble.TroubleItem:
    alone = row.state == DeliveryState.PUBLISHED
    return schemas_trouble.TroubleItem(
        delivery=row.pk,
        post=row.post_id,
        revision=row.revision,
        headline=row.headline,
        handle=row.profile.display_name or row.profile.handle,
        network=row.profile.network,
        due_at=row.due_at,
        state=row.state,
        reason=row.comment.reason if alone else row.reason,
        tries=row.tries,
        allowed_actions=allowed_actions(row),
    )


def _counts_by_profile(brand: Brand, since: datetime) -> list[schemas_trouble.SentCount]:
    """Of each profile: how many went out, and how many came to trouble or were missed, since an instant."""
    found = (
        Profile.objects.filter(brand=brand)
        .annotate(
            sent=Count(
                "deliveries", filter=Q(deliveries__state=DeliveryState.PUBLISHED, deliveries__published_at__gte=since)
            ),
            failed=Count(
                "deliveries",
                filter=Q(
                    deliveries__state__in=[DeliveryState.TROUBLE, DeliveryState.MISSED], deliveries__due_at__gte=since
                ),
            ),
        )
        .exclude(sent=0, failed=0)
        .order_by("-failed", "-sent", "pk")
    )
    return [
        schemas_trouble.SentCount(
            profile=p.pk, handle=p.display_name or p.handle, network=p.network, sent=p.sent, failed=p.failed
        )
        for p in found
    ]
