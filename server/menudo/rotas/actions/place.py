"""Change single coming slots of a rota: put a turn there, leave it empty, swap two, or let the rota say again."""

from datetime import datetime

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Invalid
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.rotas.laying import Coming, ahead, whole
from menudo.rotas.models import Place, Rota


def put(place: Here, rota: Rota, profile: int, at: datetime, turn: int | None) -> None:
    """Fix a slot: with a turn, or (None) empty. Raises Invalid where there is no such slot, or no such turn; Conflict where
    a post has been made of it."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        _locked(rota)
        coming = _at(rota, profile, at, "/at")
        if turn is not None and not rota.turns.filter(pk=turn).exists():
            raise Invalid.at("/turn", "It is no turn of this rota's.", "foreign")
        _fix(rota, coming, turn)
        what = "left empty" if turn is None else "chosen by hand"
        _told(place, rota, f"a slot of {rota.name} is {what}")


def free(place: Here, rota: Rota, profile: int, at: datetime) -> None:
    """What the rota says holds again there."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        _locked(rota)
        Place.objects.filter(rota=rota, profile=profile, at=at, done=False).delete()
        _told(place, rota, f"a slot of {rota.name} is the rota's again")


def swap(place: Here, rota: Rota, one: tuple[int, datetime], other: tuple[int, datetime]) -> None:
    """Two slots change what they get; both are fixed then. Raises Invalid, Conflict."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        _locked(rota)
        first, second = _at(rota, *one, "/one"), _at(rota, *other, "/other")
        _fix(rota, first, second.turn.pk if second.turn else None)
        _fix(rota, second, first.turn.pk if first.turn else None)
        _told(place, rota, f"two slots of {rota.name} were swapped")


def _locked(rota: Rota) -> None:
    Rota.objects.select_for_update().get(pk=rota.pk)


def _at(rota: Rota, profile: int, at: datetime, pointer: str) -> Coming:
    (loaded,) = whole(Rota.objects.filter(pk=rota.pk))
    for one in ahead([loaded], clock.now()):
        if one.profile.pk == profile:
            for coming in one.coming:
                if coming.spot.at == at:
                    return coming
    raise Invalid.at(pointer, "The rota has no slot there in the coming weeks.", "slot")


def _fix(rota: Rota, coming: Coming, turn: int | None) -> None:
    if coming.place is not None and coming.place.done:
        raise Conflict("A post has been made of it already. Change that post.")
    kept = {"turn_id": turn, "fixed": True, "round": None, "wording": None, "trouble": ""}
    Place.objects.update_or_create(rota=rota, profile=coming.profile, at=coming.spot.at, defaults=kept)


def _told(place: Here, rota: Rota, words: str) -> None:
    record(place.brand.pk, place.actor, "place", "rota", rota.pk, words)
    tell(place.brand.pk, "rota", rota.pk)
