"""What the coming slots of rotas get: read from the database, laid out by the core."""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import Prefetch

from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.posts.times import TAKES_A_SLOT, slots_of
from menudo.profiles.models import Profile
from menudo.profiles.standing import usable
from menudo.rotas.models import Place, Rota, Turn, Wording
from menudo_core.rotas import rota as core
from menudo_core.rotas.dry import Dry, runs_dry
from menudo_core.rotas.lay import lay
from menudo_core.timing.slots import between

WEEKS = 8


@dataclass(frozen=True, slots=True)
class Coming:
    """What one slot of a rota gets. `wording` is None where it stays empty (`why`); `place` is what stands in the database
    for it, if anything does."""

    rota: Rota
    profile: Profile
    spot: core.Spot
    turn: Turn | None
    wording: Wording | None
    round: int | None
    fixed: bool
    why: str
    place: Place | None


@dataclass(frozen=True, slots=True)
class Ahead:
    """The coming slots of one rota on one profile, and when it runs dry there."""

    rota: Rota
    profile: Profile
    coming: list[Coming]
    dry: Dry | None


def whole(rotas: Any) -> Any:
    """Rotas with all that laying them out asks for: a fixed number of statements."""
    turns = Turn.objects.prefetch_related(Prefetch("wordings", Wording.objects.select_related("post")))
    profiles = Profile.objects.prefetch_related("slots")
    return rotas.select_related("label", "brand", "by").prefetch_related(
        Prefetch("turns", turns), Prefetch("profiles", profiles.order_by("pk")), "places"
    )


def ahead(rotas: Iterable[Rota], now: datetime, weeks: int = WEEKS) -> list[Ahead]:
    """Each rota on each of its profiles, from now on for so many weeks; `rotas` come from `whole`. What was made already
    is in it too, and what others have put into a rota's slot is left out."""
    found = []
    listed = list(rotas)
    taken = _taken({p.pk for rota in listed for p in rota.profiles.all()}, now)
    for rota in listed:
        for profile in rota.profiles.all():
            if usable(profile):
                found.append(_one(rota, profile, now, now + timedelta(weeks=weeks), taken[profile.pk]))
    return found


def zone_at(brand: Brand, profile: Profile) -> ZoneInfo:
    return ZoneInfo(profile.zone or brand.zone)


def _taken(profiles: Iterable[int], since: datetime) -> Mapping[int, set[datetime]]:
    """Where something stands for each profile that no rota has made (see `posts.times.standing_at`). One statement."""
    rows = Delivery.objects.filter(
        profile__in=profiles, state__in=TAKES_A_SLOT, due_at__gte=since - timedelta(days=1), post__rota_places=None
    )
    found: dict[int, set[datetime]] = defaultdict(set)
    for profile, due, sway, delay in rows.values_list("profile_id", "due_at", "sway", "delay"):
        if due:
            for off in (0, sway, sway + delay):
                found[profile].add(due - timedelta(minutes=off))
    return found


def _one(rota: Rota, profile: Profile, now: datetime, end: datetime, taken: set[datetime]) -> Ahead:
    zone = zone_at(rota.brand, profile)
    turns = {turn.pk: turn for turn in rota.turns.all()}
    places = {place.at: place for place in rota.places.all() if place.profile_id == profile.pk}
    kept = [slot for slot in slots_of(profile) if slot.kept == f"label:{rota.label_id}"]
    open_at = [at for at in between(kept, now, end, zone) if at not in taken or at in places]
    spots = [_spot(at, zone) for at in open_at if not (at in places and places[at].done)]
    fixed = {at: place.turn_id for at, place in places.items() if place.fixed and not place.done}
    laid = lay(rota_of(rota), turns_of(turns.values()), profile.pk, spots, gone_of(places.values(), zone), fixed)
    coming = [_coming(rota, profile, one, turns, places.get(one.spot.at)) for one in laid]
    made = [
        Coming(rota, profile, _spot(at, zone), place.turn, place.wording, place.round, place.fixed, "", place)
        for at, place in places.items()
        if place.done and now <= at < end
    ]
    return Ahead(
        rota, profile, sorted([*coming, *made], key=lambda c: c.spot), runs_dry(laid, now.astimezone(zone).date())
    )


def _spot(at: datetime, zone: ZoneInfo) -> core.Spot:
    return core.Spot(at, at.astimezone(zone).date())


def _coming(rota: Rota, profile: Profile, one: core.Laid, turns: Mapping[int, Turn], place: Place | None) -> Coming:
    turn = turns.get(one.turn) if one.turn is not None else None
    wordings = list(turn.wordings.all()) if turn else []
    wording = wordings[one.wording % len(wordings)] if wordings else None
    return Coming(rota, profile, one.spot, turn, wording, one.round, one.fixed, one.why.value if one.why else "", place)


def rota_of(rota: Rota) -> core.Rota:
    """A rota as the core has it."""
    return core.Rota(
        core.Order(rota.order), rota.seed, rota.rest, rota.apart, rota.until, seasons_of(rota.seasons),
        frozenset(rota.closed),
    )  # fmt: skip


def turns_of(turns: Iterable[Turn]) -> list[core.Turn]:
    """Turns as the core has them, those without a wording left out."""
    counted = [(turn, len(turn.wordings.all())) for turn in turns]
    return [core.Turn(t.pk, count, t.times, t.until, seasons_of(t.seasons)) for t, count in counted if count]


def gone_of(places: Iterable[Place], zone: ZoneInfo) -> list[core.Gone]:
    """What was made, the oldest first."""
    made = sorted((p for p in places if p.done and p.turn_id is not None), key=lambda p: p.at)
    return [core.Gone(p.turn_id, _day(p.at, zone), p.round) for p in made if p.turn_id is not None]


def _day(at: datetime, zone: ZoneInfo) -> date:
    return at.astimezone(zone).date()


def seasons_of(kept: Sequence[Sequence[Sequence[int]]]) -> tuple[core.Season, ...]:
    """Seasons as they are kept, as the core has them."""
    return tuple(core.Season((a[0], a[1]), (b[0], b[1])) for a, b in kept)
