"""What the team calls a profile, its zone, and who is in charge of it."""

from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Membership
from menudo.profiles.models import Profile


def describe_profile(
    context: BrandContext, profile: Profile, display_name: str, zone: str, keeper: int | None
) -> Profile:
    """Set all three; `zone` empty is the brand's, `keeper` None is nobody in particular. What is planned keeps its instant."""
    context.require(Capability.MANAGE_PROFILES)
    display_name = display_name.strip()
    if words := storage_refusal(display_name):
        raise InvalidError.at("/display_name", words)
    if zone:
        parse_zone(zone, "/zone")
    if keeper is not None and not Membership.objects.filter(brand=context.brand, user_id=keeper).exists():
        raise InvalidError.at("/keeper", say("person.foreign"))
    with transaction.atomic():
        profile.display_name, profile.zone, profile.keeper_id = display_name, zone, keeper
        profile.save(update_fields=["display_name", "zone", "keeper"])
        record_event(
            context.brand.pk,
            context.actor,
            "describe",
            "profile",
            profile.pk,
            say("profile.described", profile=profile.handle),
        )
        publish_change(context.brand.pk, "profile", profile.pk)
    return profile


def parse_zone(zone: str, pointer: str) -> ZoneInfo:
    """The IANA zone of that name. Raises InvalidError at `pointer`."""
    try:
        return ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise InvalidError.at(pointer, say("zone.unknown", zone=zone[:60])) from None
