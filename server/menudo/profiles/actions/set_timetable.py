"""Give a profile its weekly slots."""

from datetime import time

from django.db import transaction

from menudo.base.live import tell
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.profiles.models import Profile, Slot
from menudo_core.timing.slots import Slot as CoreSlot

# A first timetable that can be lived with: working days late morning, and Sunday. Ours, no published source.
_FIRST = [CoreSlot(day, time(11, 0)) for day in (0, 1, 2, 3, 4, 6)] + [CoreSlot(day, time(17, 30)) for day in (1, 3)]


def first_timetable(profile: Profile) -> None:
    """The timetable a new profile starts with."""
    Slot.objects.bulk_create([Slot(profile=profile, weekday=s.weekday, at=s.at) for s in _FIRST])


def set_timetable(place: Here, profile: Profile, slots: list[CoreSlot]) -> None:
    """Replace a profile's weekly slots. Planned deliveries stay where they are."""
    place.needs(May.MANAGE_PROFILES)
    with transaction.atomic():
        before = [[s.weekday, s.at.isoformat("minutes")] for s in profile.slots.all()]
        profile.slots.all().delete()
        wanted = sorted(set(slots))
        Slot.objects.bulk_create([Slot(profile=profile, weekday=s.weekday, at=s.at) for s in wanted])
        after = [[s.weekday, s.at.isoformat("minutes")] for s in wanted]
        record(place.brand.pk, place.actor, "set_timetable", "profile", profile.pk, f"changed the timetable of {profile.handle}",
               {"slots": before}, {"slots": after})  # fmt: skip
        tell(place.brand.pk, "profile", profile.pk)
