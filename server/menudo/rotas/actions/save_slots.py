"""Keep slots for a rota in the timetables of all its profiles, or give them back."""

from collections.abc import Collection
from datetime import time

from django.db import transaction

from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.actions.set_timetable import set_timetable
from menudo.rotas.actions.fill_rota import fill_rota
from menudo.rotas.models import Rota
from menudo_core.timing.slots import Slot


def save_slots(context: BrandContext, rota: Rota, weekdays: Collection[int], at: time, keep: bool) -> int:
    """At `at` on each of the weekdays (0 is Monday, on each profile's own wall): a slot kept for the rota; with `keep` False
    such slots are taken out. A slot that there is already becomes the rota's. How many profiles. Raises InvalidError."""
    context.require(Capability.MANAGE_PROFILES)
    if rota.label_id is None:
        raise InvalidError.at("/name", say("rota.labelless"))
    mine, at = f"label:{rota.label_id}", at.replace(second=0, microsecond=0, tzinfo=None)
    wanted = {(day, at) for day in weekdays}
    with transaction.atomic():
        profiles = list(rota.profiles.prefetch_related("slots"))
        for profile in profiles:
            there = [Slot(s.weekday, s.at, f"label:{s.label_id}" if s.label_id else "") for s in profile.slots.all()]
            kept = [s for s in there if (s.weekday, s.at) not in wanted or not (keep or s.reserved_for == mine)]
            set_timetable(context, profile, [*kept, *(Slot(day, t, mine) for day, t in wanted if keep)])
        fill_rota(rota.pk)
    return len(profiles)
