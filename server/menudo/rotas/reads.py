"""Rotas as pages need them."""

from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import date, datetime, time, timedelta
from typing import Any

from django.db.models import Prefetch, Q

from menudo.insight.best import best_of
from menudo.labels.models import Ink
from menudo.people.here import Here
from menudo.people.models import Brand
from menudo.posts.models import Delivery, Post
from menudo.rotas.laying import WEEKS, Ahead, Coming, ahead, whole, zone_at
from menudo.rotas.models import Place, Rota, Turn
from menudo_core.insight.best import Well
from menudo_core.rotas.rota import Why
from menudo_core.text.lines import first_line
from menudo_core.timing.walltimes import day_bounds, wall_in

_WHY = {
    Why.SKIPPED: "left empty by hand",
    Why.CLOSED: "a closed day",
    Why.OUT_OF_SEASON: "out of season",
    Why.OVER: "the rota is over",
    Why.APART: "too near to another of the rota's",
    Why.RESTING: "all its turns rest",
    Why.USED_UP: "no turn is left",
}


def rotas(place: Here, now: datetime) -> list[dict[str, Any]]:
    """Every rota of the brand with its coming weeks in short: a fixed number of statements."""
    found = list(whole(Rota.objects.filter(brand=place.brand)))
    laid = ahead(found, now)
    return [_rota(rota, [a for a in laid if a.rota is rota]) for rota in found]


def page(place: Here, rota: Rota, now: datetime, weeks: int = WEEKS) -> dict[str, Any]:
    """One rota: its settings, its turns, and what its slots get."""
    (loaded,) = whole(Rota.objects.filter(pk=rota.pk))
    laid = ahead([loaded], now, weeks)
    gone = Counter(p.turn_id for p in loaded.places.all() if p.done)
    return {
        "rota": _rota(loaded, laid),
        "turns": [_turn(turn, gone[turn.pk]) for turn in loaded.turns.all()],
        "weekly": _weekly(loaded),
        "coming": sorted(_comings(c for a in laid for c in a.coming), key=lambda c: (c["at"], c["profile"])),
    }


def coming(place: Here, first: date, days: int, now: datetime) -> list[dict[str, Any]]:
    """What the rotas that are on will put into a window of the calendar and hasn't been made yet."""
    start, end = day_bounds(datetime.combine(first, time()), place.zone, days)
    weeks = -(-(end - now) // timedelta(weeks=1))
    if weeks <= 0:
        return []
    laid = ahead(whole(Rota.objects.filter(brand=place.brand, on=True)), now, min(weeks, WEEKS))
    here = (
        c
        for a in laid
        for c in a.coming
        if c.wording is not None and start <= c.spot.at < end and not (c.place is not None and c.place.done)
    )
    return sorted(_comings(here, place), key=lambda c: (c["at"], c["profile"]))


def _rota(rota: Rota, laid: Sequence[Ahead]) -> dict[str, Any]:
    profiles = list(rota.profiles.all())
    slots = {p.pk: sum(s.label_id is not None and s.label_id == rota.label_id for s in p.slots.all()) for p in profiles}
    going = [c.spot.at for a in laid for c in a.coming if c.wording is not None]
    return {
        "id": rota.pk, "revision": rota.revision, "name": rota.name, "label": rota.label_id or 0,
        "ink": rota.label.ink if rota.label else Ink.ANIL.value, "profiles": [p.pk for p in profiles], "on": rota.on,
        "order": rota.order, "seed": rota.seed, "rest": rota.rest, "apart": rota.apart, "until": rota.until,
        "seasons": _seasons(rota.seasons), "closed": rota.closed, "each_time": rota.each_time,
        "ahead_hours": rota.ahead_hours, "turns": len(rota.turns.all()), "slots": sum(slots.values()),
        "without_slots": [p.called or p.handle for p in profiles if not slots[p.pk]],
        "next": min(going, default=None) if rota.on else None, "dry": [_dry(a) for a in laid if a.dry is not None],
    }  # fmt: skip


def _weekly(rota: Rota) -> list[dict[str, Any]]:
    slots = Counter(
        (slot.weekday, slot.at)
        for profile in rota.profiles.all()
        for slot in profile.slots.all()
        if slot.label_id is not None and slot.label_id == rota.label_id
    )
    return [{"weekday": day, "at": at, "profiles": count} for (day, at), count in sorted(slots.items())]


def _dry(one: Ahead) -> dict[str, Any]:
    dry, handle = one.dry, one.profile.called or one.profile.handle
    if dry is None:
        return {}
    far = "this week" if dry.weeks == 0 else f"in {dry.weeks} week{'s' if dry.weeks > 1 else ''}"
    words = f"{handle} runs dry {far}, on {dry.day:%a} {dry.day.day} {dry.day:%b}: {_WHY[dry.why]}."
    return {"profile": one.profile.pk, "handle": handle, "day": dry.day, "weeks": dry.weeks, "words": words}


def _turn(turn: Turn, gone: int) -> dict[str, Any]:
    return {
        "id": turn.pk, "times": turn.times, "until": turn.until, "seasons": _seasons(turn.seasons), "gone": gone,
        "wordings": [{"id": w.pk, **said(w.post)} for w in turn.wordings.all()],
    }  # fmt: skip


def said(post: Post) -> dict[str, Any]:
    """What a turn's card says."""
    line = first_line(post.master.get("text", ""))
    media = post.master.get("media", [])
    return {
        "post": post.pk, "headline": (post.title or line)[:100], "thumb": media[0] if media else None,
        "pictures": len(media),
    }  # fmt: skip


def did_well(brand: Brand, now: datetime, most: int) -> list[tuple[Post, Well]]:
    """What did better than usual; copies of turns left out: their rota has them already."""
    return best_of(brand, now, most, without=Q(delivery__post__rota_places__isnull=False))


def _seasons(kept: Iterable[Any]) -> list[dict[str, Any]]:
    return [{"first": first, "last": last} for first, last in kept]


def _comings(found: Iterable[Coming], place: Here | None = None) -> list[dict[str, Any]]:
    """`place`: days and times on the brand's wall; without it on each profile's own."""
    listed = list(found)
    made = {(c.place.pk) for c in listed if c.place is not None and c.place.made_id is not None}
    deliveries = Prefetch("made__deliveries", Delivery.objects.all())
    places = {p.pk: p for p in Place.objects.filter(pk__in=made).select_related("made").prefetch_related(deliveries)}
    return [_coming(c, places, place) for c in listed]


def _coming(c: Coming, places: dict[int, Place], place: Here | None) -> dict[str, Any]:
    wall = wall_in(c.spot.at, place.zone if place is not None else zone_at(c.rota.brand, c.profile))
    kept = places.get(c.place.pk) if c.place is not None else None
    out = (
        next((d for d in kept.made.deliveries.all() if d.profile_id == c.profile.pk), None)
        if kept and kept.made
        else None
    )
    nothing = {"post": None, "headline": "", "thumb": None, "pictures": 0}
    return {
        "rota": c.rota.pk, "ink": c.rota.label.ink if c.rota.label else Ink.ANIL.value, "profile": c.profile.pk,
        "handle": c.profile.called or c.profile.handle, "at": c.spot.at, "date": wall.date(),
        "time": f"{wall:%H:%M}", "turn": c.turn.pk if c.turn else None,
        **(said(c.wording.post) if c.wording else nothing), "fixed": c.fixed,
        "why": _WHY[Why(c.why)] if c.why else "", "delivery": out.pk if out else None,
        "state": out.state if out else "", "trouble": c.place.trouble if c.place is not None else "",
    }  # fmt: skip
