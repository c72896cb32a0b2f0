"""Change single coming slots of a rota: put a turn there, leave it empty, swap two, or let the rota say again."""

from datetime import datetime

from django.db import transaction

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.problems import ConflictError, InvalidError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.rotas.forecast import Upcoming, forecast, with_turns
from menudo.rotas.models import Placement, Rota


def fix_slot(context: BrandContext, rota: Rota, profile: int, at: datetime, turn: int | None) -> None:
    """Fix a slot: with a turn, or (None) empty. Raises InvalidError where there is no such slot, or no such turn; ConflictError where
    a post has been made of it."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        _lock_rota(rota)
        upcoming = _upcoming_at(rota, profile, at, "/at")
        if turn is not None and not rota.turns.filter(pk=turn).exists():
            raise InvalidError.at("/turn", say("rota.turn_foreign"))
        _fix_turn(rota, upcoming, turn)
        _record_and_publish(context, rota, "rota.slot_empty" if turn is None else "rota.slot_chosen")


def release_slot(context: BrandContext, rota: Rota, profile: int, at: datetime) -> None:
    """What the rota says holds again there."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        _lock_rota(rota)
        Placement.objects.filter(rota=rota, profile=profile, slot_at=at, filled=False).delete()
        _record_and_publish(context, rota, "rota.slot_released")


def swap_slots(context: BrandContext, rota: Rota, one: tuple[int, datetime], other: tuple[int, datetime]) -> None:
    """Two slots change what they get; both are fixed then. Raises InvalidError, ConflictError."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        _lock_rota(rota)
        first, second = _upcoming_at(rota, *one, "/one"), _upcoming_at(rota, *other, "/other")
        _fix_turn(rota, first, second.turn.pk if second.turn else None)
        _fix_turn(rota, second, first.turn.pk if first.turn else None)
        _record_and_publish(context, rota, "rota.slots_swapped")


def _lock_rota(rota: Rota) -> None:
    Rota.objects.select_for_update(no_key=True).get(pk=rota.pk)


def _upcoming_at(rota: Rota, profile: int, at: datetime, pointer: str) -> Upcoming:
    (loaded,) = with_turns(Rota.objects.filter(pk=rota.pk))
    for one in forecast([loaded], clock.now()):
        if one.profile.pk == profile:
            for upcoming in one.upcoming:
                if upcoming.slot.at == at:
                    return upcoming
    raise InvalidError.at(pointer, say("rota.no_slot"))


def _fix_turn(rota: Rota, upcoming: Upcoming, turn: int | None) -> None:
    if upcoming.placement is not None and upcoming.placement.filled:
        raise ConflictError(say("rota.made_already"))
    kept = {"turn_id": turn, "fixed": True, "round_number": None, "wording": None, "last_error": ""}
    Placement.objects.update_or_create(rota=rota, profile=upcoming.profile, slot_at=upcoming.slot.at, defaults=kept)


def _record_and_publish(context: BrandContext, rota: Rota, code: str) -> None:
    record_event(context.brand.pk, context.actor, "place", "rota", rota.pk, say(code, name=rota.name))
    publish_change(context.brand.pk, "rota", rota.pk)
