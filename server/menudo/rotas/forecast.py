"""What the coming slots of rotas get: read from the database, laid out by the core."""

from collections import defaultdict
from collections.abc import Collection, Container, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from itertools import chain
from zoneinfo import ZoneInfo

from django.db.models import Prefetch, Q, QuerySet

from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.posts.times import TAKES_A_SLOT, profile_slots
from menudo.profiles.models import Profile, Slot
from menudo.profiles.pauses import is_usable
from menudo.rotas.models import Placement, Rota, Turn, Wording
from menudo_core.rotas import rota as core
from menudo_core.rotas.assignment import assign_turns
from menudo_core.rotas.exhaustion import Exhaustion, find_exhaustion
from menudo_core.timing.slots import slots_between

WEEKS = 8


@dataclass(frozen=True, slots=True)
class Upcoming:
    """What one slot of a rota gets. `wording` is None where it stays empty (`empty_reason`); `placement` is what stands in the database
    for it, if anything does."""

    rota: Rota
    profile: Profile
    slot: core.RotaSlot
    turn: Turn | None
    wording: Wording | None
    round: int | None
    fixed: bool
    empty_reason: str
    placement: Placement | None


@dataclass(frozen=True, slots=True)
class RotaForecast:
    """The coming slots of one rota on one profile, and when it runs dry there."""

    rota: Rota
    profile: Profile
    upcoming: list[Upcoming]
    dry: Exhaustion | None


def with_turns(rotas: QuerySet[Rota], posts: bool = True) -> QuerySet[Rota]:
    """Rotas with all that laying them out asks for: a fixed number of statements. Of timetables, what is kept for a label;
    `posts`: with what their wordings say."""
    wordings = Wording.objects.select_related("post") if posts else Wording.objects.all()
    turns = Turn.objects.prefetch_related(Prefetch("wordings", wordings))
    profiles = Profile.objects.prefetch_related(Prefetch("slots", Slot.objects.filter(label__isnull=False)))
    return rotas.select_related("label", "brand", "run_as").prefetch_related(
        Prefetch("turns", turns), Prefetch("profiles", profiles.order_by("pk")), "placements"
    )


def forecast(rotas: Iterable[Rota], now: datetime, weeks: int = WEEKS) -> list[RotaForecast]:
    """Each rota on each of its profiles, from now on for so many weeks; `rotas` come from `with_turns`. What was made already
    is in it too, and what others have put into a rota's slot is left out."""
    end = now + timedelta(weeks=weeks)
    all_rotas = list(rotas)
    listed = [
        (rota, profile, _kept_instants(rota, profile, now, end))
        for rota in all_rotas
        for profile in rota.profiles.all()
        if is_usable(profile)
    ]
    taken = _taken_instants([p for _, p, _ in listed], {at for _, _, kept in listed for at in kept}, now)
    turns = {rota.pk: list(rota.turns.all()) for rota in all_rotas}
    loaded = {pk: load_turns(of_rota) for pk, of_rota in turns.items()}
    # Asked of a turn for each of its slots, they take longer than all the rest.
    wordings = {turn.pk: list(turn.wordings.all()) for of_rota in turns.values() for turn in of_rota}
    return [
        _forecast_of(rota, profile, (now, end), kept, taken[profile.pk], loaded[rota.pk], wordings)
        for rota, profile, kept in listed
    ]


def _kept_instants(rota: Rota, profile: Profile, now: datetime, end: datetime) -> list[datetime]:
    """The slots of the profile that its timetable keeps for the rota."""
    kept = [slot for slot in profile_slots(profile) if slot.reserved_for == f"label:{rota.label_id}"]
    return list(slots_between(kept, now, end, profile_zone(rota.brand, profile)))


def profile_zone(brand: Brand, profile: Profile) -> ZoneInfo:
    return ZoneInfo(profile.zone or brand.zone)


def _taken_instants(
    profiles: Collection[Profile], asked: Iterable[datetime], since: datetime
) -> Mapping[int, set[datetime]]:
    """At which of the instants `asked` something stands for each profile that no rota has made (see `posts.times.standing_at`).
    Two statements."""
    standing = Delivery.objects.filter(
        state__in=TAKES_A_SLOT, due_at__gte=since - timedelta(days=1), post__rota_placements=None
    ).values_list("profile_id", "due_at", "jitter", "delay")
    # What stands where it was set is at one of them or isn't; only what was put off its time may mean one it isn't at.
    set_there = standing.filter(brand__in={p.brand_id for p in profiles}, due_at__in=set(asked))
    put_off = standing.filter(~Q(jitter=0) | ~Q(delay=0), profile__in={p.pk for p in profiles})
    rows = chain(set_there, put_off)
    found: dict[int, set[datetime]] = defaultdict(set)
    for profile, due, jitter, delay in rows:
        if due:
            for off in (0, jitter, jitter + delay):
                found[profile].add(due - timedelta(minutes=off))
    return found


def _forecast_of(
    rota: Rota,
    profile: Profile,
    span: tuple[datetime, datetime],
    kept: Iterable[datetime],
    taken: Container[datetime],
    loaded: list[core.Turn],
    wordings: Mapping[int, Sequence[Wording]],
) -> RotaForecast:
    """What the `kept` slots of a profile get within the span, where nothing else has `taken` them. `loaded` are the rota's turns as the
    core has them, `wordings` each turn's."""
    now, end = span
    zone = profile_zone(rota.brand, profile)
    turns = {turn.pk: turn for turn in rota.turns.all()}
    placements = {
        placement.slot_at: placement for placement in rota.placements.all() if placement.profile_id == profile.pk
    }
    open_at = [at for at in kept if at not in taken or at in placements]
    spots = [_slot_at(at, zone) for at in open_at if not (at in placements and placements[at].filled)]
    fixed = {at: placement.turn_id for at, placement in placements.items() if placement.fixed and not placement.filled}
    assignments = assign_turns(
        load_rota(rota),
        loaded,
        profile.pk,
        spots,
        load_past_turns(placements.values(), zone),
        fixed,
    )
    upcoming = [_upcoming_of(rota, profile, one, turns, wordings, placements.get(one.slot.at)) for one in assignments]
    made = [
        Upcoming(
            rota,
            profile,
            _slot_at(at, zone),
            placement.turn,
            placement.wording,
            placement.round_number,
            placement.fixed,
            "",
            placement,
        )
        for at, placement in placements.items()
        if placement.filled and now <= at < end
    ]
    return RotaForecast(
        rota,
        profile,
        sorted([*upcoming, *made], key=lambda c: c.slot),
        find_exhaustion(assignments, now.astimezone(zone).date()),
    )


def _slot_at(at: datetime, zone: ZoneInfo) -> core.RotaSlot:
    return core.RotaSlot(at, at.astimezone(zone).date())


def _upcoming_of(
    rota: Rota,
    profile: Profile,
    one: core.Assignment,
    turns: Mapping[int, Turn],
    wordings: Mapping[int, Sequence[Wording]],
    placement: Placement | None,
) -> Upcoming:
    turn = turns.get(one.turn) if one.turn is not None else None
    choices = wordings[turn.pk] if turn else ()
    wording = choices[one.wording % len(choices)] if choices else None
    return Upcoming(
        rota,
        profile,
        one.slot,
        turn,
        wording,
        one.round,
        one.fixed,
        one.empty_reason.value if one.empty_reason else "",
        placement,
    )


def load_rota(rota: Rota) -> core.Rota:
    """A rota as the core has it."""
    return core.Rota(
        core.Order(rota.order),
        rota.seed,
        rota.rest_days,
        rota.gap_days,
        rota.until,
        load_seasons(rota.seasons),
        frozenset(rota.closed_days),
    )


def load_turns(turns: Iterable[Turn]) -> list[core.Turn]:
    """Turns as the core has them, those without a wording left out."""
    counted = [(turn, len(turn.wordings.all())) for turn in turns]
    return [core.Turn(t.pk, count, t.times, t.until, load_seasons(t.seasons)) for t, count in counted if count]


def load_past_turns(placements: Iterable[Placement], zone: ZoneInfo) -> list[core.PastTurn]:
    """What was made, the oldest first."""
    made = sorted((p for p in placements if p.filled and p.turn_id is not None), key=lambda p: p.slot_at)
    return [
        core.PastTurn(p.turn_id, _local_day(p.slot_at, zone), p.round_number) for p in made if p.turn_id is not None
    ]


def _local_day(at: datetime, zone: ZoneInfo) -> date:
    return at.astimezone(zone).date()


def load_seasons(kept: Sequence[Sequence[Sequence[int]]]) -> tuple[core.Season, ...]:
    """Seasons as they are kept, as the core has them."""
    return tuple(core.Season((a[0], a[1]), (b[0], b[1])) for a, b in kept)
