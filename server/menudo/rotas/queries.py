"""Rotas as pages need them."""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime, time, timedelta
from typing import Any

from django.db.models import Prefetch, Q

from menudo.insight.top_posts import brand_top_posts
from menudo.labels.models import Ink
from menudo.people.context import BrandContext
from menudo.people.models import Brand
from menudo.posts.models import Delivery, Post
from menudo.posts.serializers import load_content
from menudo.profiles.models import Profile
from menudo.rotas import schemas
from menudo.rotas.forecast import WEEKS, RotaForecast, Upcoming, forecast, profile_zone, with_turns
from menudo.rotas.models import Placement, Rota, Turn
from menudo_core.insight.top_posts import TopPost
from menudo_core.rotas.exhaustion import Exhaustion
from menudo_core.rotas.rota import EmptyReason, Order
from menudo_core.text.lines import first_line
from menudo_core.timing.walltimes import day_bounds, wall_time_in

_EMPTY_REASONS = {
    EmptyReason.SKIPPED: "left empty by hand",
    EmptyReason.CLOSED: "a closed day",
    EmptyReason.OUT_OF_SEASON: "out of season",
    EmptyReason.OVER: "the rota is over",
    EmptyReason.APART: "too near to another of the rota's",
    EmptyReason.RESTING: "all its turns rest",
    EmptyReason.USED_UP: "no turn is left",
}


def rota_list(context: BrandContext, now: datetime) -> list[schemas.RotaOut]:
    """Every rota of the brand with its coming weeks in short: a fixed number of statements."""
    found = list(with_turns(Rota.objects.filter(brand=context.brand), posts=False))
    forecasts = forecast(found, now)
    return [_rota_out(rota, [a for a in forecasts if a.rota is rota]) for rota in found]


def rota_page(context: BrandContext, rota: Rota, now: datetime, weeks: int = WEEKS) -> schemas.RotaPage:
    """One rota: its settings, its turns, and what its slots get."""
    (loaded,) = with_turns(Rota.objects.filter(pk=rota.pk))
    forecasts = forecast([loaded], now, weeks)
    gone = Counter(p.turn_id for p in loaded.placements.all() if p.filled)
    return schemas.RotaPage(
        rota=_rota_out(loaded, forecasts),
        turns=[_turn_out(turn, gone[turn.pk]) for turn in loaded.turns.all()],
        weekly=_weekly_slots(loaded),
        upcoming=sorted(_upcoming_list(c for a in forecasts for c in a.upcoming), key=lambda c: (c.at, c.profile)),
    )


def upcoming_turns(context: BrandContext, first: date, days: int, now: datetime) -> list[schemas.UpcomingOut]:
    """What the rotas that are on will put into a window of the calendar and hasn't been made yet."""
    start, end = day_bounds(datetime.combine(first, time()), context.zone, days)
    weeks = -(-(end - now) // timedelta(weeks=1))
    if weeks <= 0:
        return []
    forecasts = forecast(with_turns(Rota.objects.filter(brand=context.brand, active=True)), now, min(weeks, WEEKS))
    here = (
        c
        for a in forecasts
        for c in a.upcoming
        if c.wording is not None and start <= c.slot.at < end and not (c.placement is not None and c.placement.filled)
    )
    return sorted(_upcoming_list(here, context), key=lambda c: (c.at, c.profile))


def _rota_out(rota: Rota, forecasts: Sequence[RotaForecast]) -> schemas.RotaOut:
    profiles = list(rota.profiles.all())
    slots = {p.pk: sum(s.label_id is not None and s.label_id == rota.label_id for s in p.slots.all()) for p in profiles}
    going = [c.slot.at for a in forecasts for c in a.upcoming if c.wording is not None]
    return schemas.RotaOut(
        id=rota.pk,
        revision=rota.revision,
        name=rota.name,
        label=rota.label_id or 0,
        ink=rota.label.ink if rota.label else Ink.ANIL.value,
        profiles=[p.pk for p in profiles],
        active=rota.active,
        order=Order(rota.order),
        seed=rota.seed,
        rest_days=rota.rest_days,
        gap_days=rota.gap_days,
        until=rota.until,
        seasons=_seasons_out(rota.seasons),
        closed_days=rota.closed_days,
        signoff_each_copy=rota.signoff_each_copy,
        ahead_hours=rota.ahead_hours,
        turns=len(rota.turns.all()),
        slots=sum(slots.values()),
        without_slots=[p.display_name or p.handle for p in profiles if not slots[p.pk]],
        next=min(going, default=None) if rota.active else None,
        exhaustion=[_exhaustion_out(a.profile, a.dry) for a in forecasts if a.dry is not None],
    )


def _weekly_slots(rota: Rota) -> list[schemas.WeeklyOut]:
    slots = Counter(
        (slot.weekday, slot.at)
        for profile in rota.profiles.all()
        for slot in profile.slots.all()
        if slot.label_id is not None and slot.label_id == rota.label_id
    )
    return [schemas.WeeklyOut(weekday=day, at=at, profiles=count) for (day, at), count in sorted(slots.items())]


def _exhaustion_out(profile: Profile, dry: Exhaustion) -> schemas.ExhaustionOut:
    handle = profile.display_name or profile.handle
    far = "this week" if dry.weeks == 0 else f"in {dry.weeks} week{'s' if dry.weeks > 1 else ''}"
    words = f"{handle} runs dry {far}, on {dry.day:%a} {dry.day.day} {dry.day:%b}: {_EMPTY_REASONS[dry.reason]}."
    return schemas.ExhaustionOut(profile=profile.pk, handle=handle, day=dry.day, weeks=dry.weeks, summary=words)


def _turn_out(turn: Turn, gone: int) -> schemas.TurnOut:
    return schemas.TurnOut(
        id=turn.pk,
        times=turn.times,
        until=turn.until,
        seasons=_seasons_out(turn.seasons),
        used=gone,
        wordings=[schemas.TurnWordingOut(id=w.pk, **asdict(card_of(w.post))) for w in turn.wordings.all()],
    )


@dataclass(frozen=True, slots=True)
class TurnCard:
    """What a turn's card says. `thumb` is an asset's id; a slot that nothing fills has no post."""

    post: int | None = None
    headline: str = ""
    thumb: int | None = None
    pictures: int = 0


def card_of(post: Post) -> TurnCard:
    content = load_content(post.master)
    media = content.media
    return TurnCard(post.pk, (post.title or first_line(content.text))[:100], media[0] if media else None, len(media))


def rota_top_posts(brand: Brand, now: datetime, limit: int) -> list[tuple[Post, TopPost]]:
    """What did better than usual; copies of turns left out: their rota has them already."""
    return brand_top_posts(brand, now, limit, without=Q(delivery__post__rota_placements__isnull=False))


def _seasons_out(kept: Iterable[Any]) -> list[schemas.SeasonIO]:
    return [schemas.SeasonIO(first=first, last=last) for first, last in kept]


def _upcoming_list(found: Iterable[Upcoming], context: BrandContext | None = None) -> list[schemas.UpcomingOut]:
    """`context`: days and times on the brand's wall; without it on each profile's own."""
    listed = list(found)
    made = {(c.placement.pk) for c in listed if c.placement is not None and c.placement.post_id is not None}
    deliveries = Prefetch("post__deliveries", Delivery.objects.all())
    placements = {
        p.pk: p for p in Placement.objects.filter(pk__in=made).select_related("post").prefetch_related(deliveries)
    }
    return [_upcoming_out(c, placements, context) for c in listed]


def _upcoming_out(c: Upcoming, placements: dict[int, Placement], context: BrandContext | None) -> schemas.UpcomingOut:
    wall_time = wall_time_in(c.slot.at, context.zone if context is not None else profile_zone(c.rota.brand, c.profile))
    kept = placements.get(c.placement.pk) if c.placement is not None else None
    out = (
        next((d for d in kept.post.deliveries.all() if d.profile_id == c.profile.pk), None)
        if kept and kept.post
        else None
    )
    return schemas.UpcomingOut(
        rota=c.rota.pk,
        ink=c.rota.label.ink if c.rota.label else Ink.ANIL.value,
        profile=c.profile.pk,
        handle=c.profile.display_name or c.profile.handle,
        at=c.slot.at,
        date=wall_time.date(),
        time=f"{wall_time:%H:%M}",
        turn=c.turn.pk if c.turn else None,
        **asdict(card_of(c.wording.post) if c.wording else TurnCard()),
        fixed=c.fixed,
        empty_reason=_EMPTY_REASONS[EmptyReason(c.empty_reason)] if c.empty_reason else "",
        delivery=out.pk if out else None,
        state=out.state if out else "",
        last_error=c.placement.last_error if c.placement is not None else "",
    )
