"""Trouble by its cause, and how many were sent and failed: what the trouble page shows."""

from datetime import datetime, timedelta

from django.db.models import Count, QuerySet

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
TROUBLE_STATES = [DeliveryState.TROUBLE, DeliveryState.MISSED]


def troubled_deliveries(brand: Brand) -> QuerySet[Delivery]:
    """What stands in trouble or was missed, and what is out and whose first comment failed alone; not what is in the bin.

    Few of ever so many: each of the two has an index of its own, and an OR over both would look at all deliveries.
    """
    stuck = Delivery.objects.filter(brand=brand, state__in=TROUBLE_STATES).values("pk")
    alone = FirstComment.objects.filter(state=FirstComment.State.TROUBLE, delivery__brand=brand).values("delivery_id")
    return Delivery.objects.filter(pk__in=stuck.union(alone), post__deleted_at__isnull=True)


def trouble_page(brand: Brand, days: int, profile: int | None, now: datetime) -> schemas_trouble.TroublesOut:
    """Everything that needs a person, by cause and network, newest first; and the counts of the last `days` days by
    profile. Four statements."""
    rows = troubled_deliveries(brand).select_related("profile", "comment")
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
    """Of each profile: how many went out, and how many came to trouble or were missed, since an instant. Three statements."""
    profiles = {p.pk: p for p in Profile.objects.filter(brand=brand)}
    sent = _counted(
        Delivery.objects.filter(state=DeliveryState.PUBLISHED, published_at__gte=since, profile__in=profiles)
    )
    failed = _counted(Delivery.objects.filter(brand=brand, state__in=TROUBLE_STATES, due_at__gte=since))
    found = [
        schemas_trouble.SentCount(
            profile=pk,
            handle=p.display_name or p.handle,
            network=p.network,
            sent=sent.get(pk, 0),
            failed=failed.get(pk, 0),
        )
        for pk, p in profiles.items()
        if pk in sent or pk in failed
    ]
    return sorted(found, key=lambda one: (-one.failed, -one.sent, one.profile))


def _counted(rows: QuerySet[Delivery]) -> dict[int, int]:
    return dict(rows.order_by().values_list("profile_id").annotate(Count("pk")))
