"""What the team calls a profile, its zone, and who is in charge of it."""

from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Membership
from menudo.profiles.models import Profile
from menudo_core.text.clean import unusable


def describe(place: Here, profile: Profile, called: str, zone: str, keeper: int | None) -> Profile:
    """Set all three; `zone` empty is the brand's, `keeper` None is nobody in particular. What is planned keeps its instant."""
    place.needs(May.MANAGE_PROFILES)
    called = called.strip()
    if words := unusable(called):
        raise Invalid.at("/called", words)
    if zone:
        real_zone(zone, "/zone")
    if keeper is not None and not Membership.objects.filter(brand=place.brand, user_id=keeper).exists():
        raise Invalid.at("/keeper", "This person isn't one of this brand's.", "foreign")
    with transaction.atomic():
        profile.called, profile.zone, profile.keeper_id = called, zone, keeper
        profile.save(update_fields=["called", "zone", "keeper"])
        record(place.brand.pk, place.actor, "describe", "profile", profile.pk, f"described {profile.handle}")
        tell(place.brand.pk, "profile", profile.pk)
    return profile


def real_zone(zone: str, pointer: str) -> ZoneInfo:
    """The IANA zone of that name. Raises Invalid at `pointer`."""
    try:
        return ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise Invalid.at(
            pointer, f"There is no time zone “{zone[:60]}”. Choose one like Europe/Madrid.", "zone"
        ) from None
