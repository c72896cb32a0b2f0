"""Make and revoke addresses at which other programs read the calendar."""

from django.conf import settings
from django.db import transaction

from menudo.base import clock
from menudo.base.problems import Forbidden, Invalid, NotFound
from menudo.base.tokens import hashed, new_token
from menudo.calendar.models import Subscription
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Membership
from menudo.profiles.models import ProfileSet

_MOST = 30


def subscribe(place: Here, profiles: int | None, mine: bool) -> tuple[Subscription, str]:
    """An address of the whole brand, of one set, or of what one has written oneself. The token is told this once."""
    chosen = ProfileSet.objects.filter(brand=place.brand, pk=profiles).first() if profiles is not None else None
    if profiles is not None and chosen is None:
        raise Invalid.at("/profiles", "This set isn't one of this brand's.", "foreign")
    live = Subscription.objects.filter(brand=place.brand, user=place.user, revoked=None)
    if live.count() >= _MOST:
        raise Invalid.at("/profiles", f"You have {_MOST} addresses. Revoke one first.", "many")
    token = new_token()
    name = chosen.name if chosen else "what I write" if mine else place.brand.name
    with transaction.atomic():
        made = Subscription.objects.create(
            brand=place.brand, user=place.user, profiles=chosen, mine=mine, name=name[:80], token_hash=hashed(token)
        )
        record(place.brand.pk, place.actor, "subscribe", "subscription", made.pk, f"made a calendar address for {name}")
    return made, token


def revoke(place: Here, id: int) -> None:
    """The address leads nowhere from now on. One's own; anybody's takes the right to manage people."""
    found = Subscription.objects.filter(brand=place.brand, pk=id, revoked=None).first()
    if found is None:
        raise NotFound()
    if found.user_id != place.user.pk and May.MANAGE_PEOPLE not in place.capabilities:
        raise Forbidden("This address is someone else's.")
    with transaction.atomic():
        found.revoked = clock.now()
        found.save(update_fields=["revoked"])
        record(
            place.brand.pk, place.actor, "revoke", "subscription", id, f"revoked the calendar address for {found.name}"
        )


def opened(token: str) -> Subscription:
    """What a token opens, while its person belongs to the brand. Raises NotFound."""
    rows = Subscription.objects.select_related("brand", "user", "profiles")
    found = rows.filter(token_hash=hashed(token), revoked=None).first()
    if found is None or not found.user.is_active:
        raise NotFound()
    if not Membership.objects.filter(brand=found.brand, user=found.user).exists():
        raise NotFound()
    Subscription.objects.filter(pk=found.pk).update(read=clock.now())
    return found


def address_of(token: str) -> str:
    """Where other programs read it."""
    return f"{settings.PUBLIC_URL}/feeds/calendar/{token}.ics"
