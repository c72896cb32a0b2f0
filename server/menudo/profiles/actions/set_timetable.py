"""Give a profile its weekly slots, a first timetable, or that of another."""

from collections.abc import Sequence

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.labels.models import Label
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.models import Profile, Slot
from menudo.profiles.sheets import sheet_for
from menudo_core.timing.default_slots import default_slots
from menudo_core.timing.slots import Slot as CoreSlot

_LABEL = "label:"


def create_default_timetable(profile: Profile) -> None:
    """The timetable a new profile starts with, by what its network is for."""
    slots = default_slots(sheet_for(profile.brand_id, profile.network).use)
    Slot.objects.bulk_create([Slot(profile=profile, weekday=s.weekday, at=s.at) for s in slots])


def set_timetable(context: BrandContext, profile: Profile, slots: Sequence[CoreSlot]) -> None:
    """Replace a profile's weekly slots. Planned deliveries stay where they are. Raises InvalidError for another's label."""
    context.require(Capability.MANAGE_PROFILES)
    wanted = sorted(set(slots))
    if len({(s.weekday, s.at) for s in wanted}) < len(wanted):
        raise InvalidError.at("/slots", say("timetable.twice"))
    labels = {int(s.reserved_for.removeprefix(_LABEL)) for s in wanted if s.reserved_for}
    if Label.objects.filter(brand=context.brand, pk__in=labels).count() < len(labels):
        raise InvalidError.at("/slots", say("label.foreign"))
    with transaction.atomic():
        before = [[s.weekday, s.at.isoformat("minutes")] for s in profile.slots.all()]
        _replace_slots(profile, wanted)
        after = [[s.weekday, s.at.isoformat("minutes")] for s in wanted]
        record_event(
            context.brand.pk,
            context.actor,
            "set_timetable",
            "profile",
            profile.pk,
            say("timetable.changed", profile=profile.handle),
            {"slots": before},
            {"slots": after},
        )
        publish_change(context.brand.pk, "profile", profile.pk)


def copy_timetable(context: BrandContext, profile: Profile, others: Sequence[int]) -> int:
    """Give other profiles the same slots as wall times, each in its own zone. How many. Raises InvalidError."""
    context.require(Capability.MANAGE_PROFILES)
    found = list(Profile.objects.filter(brand=context.brand, pk__in=set(others) - {profile.pk}))
    if len(found) < len(set(others) - {profile.pk}) or not found:
        raise InvalidError.at("/profiles", say("timetable.other_profiles"))
    slots = [CoreSlot(s.weekday, s.at, f"{_LABEL}{s.label_id}" if s.label_id else "") for s in profile.slots.all()]
    with transaction.atomic():
        for other in found:
            _replace_slots(other, slots)
            record_event(
                context.brand.pk,
                context.actor,
                "set_timetable",
                "profile",
                other.pk,
                say("timetable.copied", profile=other.handle, source=profile.handle),
            )
        publish_change(context.brand.pk, "profile", profile.pk)
    return len(found)


def _replace_slots(profile: Profile, slots: Sequence[CoreSlot]) -> None:
    profile.slots.all().delete()
    rows = [
        Slot(
            profile=profile,
            weekday=s.weekday,
            at=s.at,
            label_id=int(s.reserved_for.removeprefix(_LABEL)) if s.reserved_for else None,
        )
        for s in slots
    ]
    Slot.objects.bulk_create(rows)
