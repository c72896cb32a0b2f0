"""Make and revoke addresses at which other programs read the calendar."""

from django.conf import settings
from django.db import transaction

from menudo.base import clock
from menudo.base.problems import ForbiddenError, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.base.tokens import hash_token, new_token
from menudo.calendar.models import Subscription
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Membership
from menudo.profiles.models import ProfileSet

_MAX_SUBSCRIPTIONS = 30


def create_subscription(context: BrandContext, profiles: int | None, mine: bool) -> tuple[Subscription, str]:
    """An address of the whole brand, of one set, or of what one has written oneself. The token is told this once."""
    chosen = ProfileSet.objects.filter(brand=context.brand, pk=profiles).first() if profiles is not None else None
    if profiles is not None and chosen is None:
        raise InvalidError.at("/profiles", say("set.foreign"))
    live = Subscription.objects.filter(brand=context.brand, user=context.user, revoked_at=None)
    if live.count() >= _MAX_SUBSCRIPTIONS:
        raise InvalidError.at("/profiles", say("subscription.many", most=_MAX_SUBSCRIPTIONS))
    token = new_token()
    name = chosen.name if chosen else "what I write" if mine else context.brand.name
    with transaction.atomic():
        made = Subscription.objects.create(
            brand=context.brand,
            user=context.user,
            profile_set=chosen,
            mine=mine,
            name=name[:80],
            token_hash=hash_token(token),
        )
        record_event(
            context.brand.pk, context.actor, "subscribe", "subscription", made.pk, say("subscription.made", name=name)
        )
    return made, token


def revoke_subscription(context: BrandContext, subscription_id: int) -> None:
    """The address leads nowhere from now on. One's own; anybody's takes the right to manage people."""
    found = Subscription.objects.filter(brand=context.brand, pk=subscription_id, revoked_at=None).first()
    if found is None:
        raise NotFoundError()
    if found.user_id != context.user.pk and Capability.MANAGE_PEOPLE not in context.capabilities:
        raise ForbiddenError(say("subscription.foreign"))
    with transaction.atomic():
        found.revoked_at = clock.now()
        found.save(update_fields=["revoked_at"])
        record_event(
            context.brand.pk,
            context.actor,
            "revoke",
            "subscription",
            subscription_id,
            say("subscription.revoked", name=found.name),
        )


def open_subscription(token: str) -> Subscription:
    """What a token opens, while its person belongs to the brand. Raises NotFoundError."""
    rows = Subscription.objects.select_related("brand", "user", "profile_set")
    found = rows.filter(token_hash=hash_token(token), revoked_at=None).first()
    if found is None or not found.user.is_active:
        raise NotFoundError()
    if not Membership.objects.filter(brand=found.brand, user=found.user).exists():
        raise NotFoundError()
    Subscription.objects.filter(pk=found.pk).update(last_read_at=clock.now())
    return found


def subscription_address(token: str) -> str:
    """Where other programs read it."""
    return f"{settings.PUBLIC_URL}/feeds/calendar/{token}.ics"
