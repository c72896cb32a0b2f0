"""The calendar's window and the day strip, each in a fixed number of statements."""

from collections import Counter
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import Exists, OuterRef, QuerySet

from menudo.people.here import Here
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo.profiles.standing import Pauses, pauses_of
from menudo_core.signoff.states import DeliveryState, Event, PostState, takes
from menudo_core.timing.walltimes import day_bounds

_LOOSE = [DeliveryState.UNPLANNED, DeliveryState.OFF]
_TROUBLE = [DeliveryState.TROUBLE, DeliveryState.MISSED]
_MOVES = frozenset(s.value for s in DeliveryState if takes(s, Event.MOVE))
_DAY = timedelta(hours=24)
TICKET = (
    "id",
    "post_id",
    "profile_id",
    "state",
    "due_at",
    "headline",
    "thumb_id",
    "pictures",
    "reason",
    "remote_url",
    "revision",
    "held_for",
)
HELD_WORDS = {"signoff": "waits for sign-off", "paused": "paused", "reconnect": "its profile must be reconnected"}
_TRAY_MOST = 40


def window(place: Here, first: date, days: int, now: datetime, only: set[int] | None = None) -> dict[str, Any]:
    """Lanes of `days` days from `first`, in the brand's zone: profiles, tickets and the tray, six statements.

    `only`: the profiles of a filter; None: all. A disconnected profile has a lane while there is something on it.
    """
    zone = place.zone
    start, end = day_bounds(datetime.combine(first, time()), zone, days)
    shown = [t for t in tickets(place, start, end, first, zone) if only is None or t["profile"] in only]
    busy = {t["profile"] for t in shown}
    pauses = pauses_of([place.brand.pk])
    lanes = [
        lane(p, pauses, now)
        for p in Profile.objects.filter(brand=place.brand)
        if (only is None or p.pk in only) and (p.state != Profile.State.DISCONNECTED or p.pk in busy)
    ]
    return {
        "zone": zone.key,
        "days": days_of(first, days, now.astimezone(zone).date()),
        "lanes": lanes,
        "tickets": shown,
        "tray": _tray(place),
    }


def lane(p: Profile, pauses: Pauses, now: datetime) -> dict[str, Any]:
    """A profile's row."""
    return {
        "profile": p.pk, "network": p.network, "handle": p.handle, "name": p.name, "called": p.called, "kind": p.kind,
        "state": p.state, "paused": pauses.at(p, now) is not None,
    }  # fmt: skip


def days_of(first: date, days: int, today: date) -> list[dict[str, Any]]:
    """The columns of a window."""
    return [_day(first + timedelta(days=n), today) for n in range(days)]


def tickets(place: Here, start: datetime, end: datetime, first: date, zone: ZoneInfo) -> list[dict[str, Any]]:
    """The cards of every delivery due in [start, end), earliest first: one statement."""
    rows = on_calendar(start, end).filter(brand=place.brand).values_list(*TICKET)
    origin = first.toordinal()
    return [ticket(row, zone, origin) for row in rows]


def on_calendar(start: datetime, end: datetime) -> QuerySet[Delivery]:
    """What stands on the calendar in [start, end), earliest first."""
    found = Delivery.objects.filter(due_at__gte=start, due_at__lt=end, post__binned__isnull=True)
    return found.exclude(state=DeliveryState.UNPLANNED).order_by("due_at", "id")


def ticket(row: tuple, zone: ZoneInfo, origin: int) -> dict[str, Any]:
    """One card, from the columns of TICKET. `origin` is the ordinal of the window's first day."""
    id, post, profile, state, due, headline, thumb, pictures, reason, url, revision, held_for = row
    here = due.astimezone(zone)
    return {
        "id": id,
        "post": post,
        "profile": profile,
        "state": state,
        "due_at": due.isoformat(),
        "day": here.toordinal() - origin,
        "time": f"{here.hour:02d}:{here.minute:02d}",
        "headline": headline,
        "thumb": thumb,
        "pictures": pictures,
        "reason": reason or HELD_WORDS.get(held_for, "") if state == DeliveryState.HELD else reason,
        "remote_url": url,
        "revision": revision,
        "moves": state in _MOVES,
    }


def strip(place: Here, now: datetime) -> dict[str, Any]:
    """The next 24 hours from `now`: one statement for the ticks and one for the trouble before them."""
    zone = place.zone
    # What is still going out, and what stands in trouble since midnight, is on the strip; older trouble is counted.
    rows = (
        Delivery.objects.filter(
            brand=place.brand, due_at__gte=now - timedelta(minutes=15), due_at__lt=now + _DAY, post__binned__isnull=True
        )
        .exclude(state__in=[*_LOOSE, DeliveryState.PUBLISHED])
        .select_related("profile")
        .order_by("due_at", "id")
    )
    stacks: Counter[int] = Counter()
    ticks = []
    for row in rows:
        if row.due_at is None:
            continue
        quarter = int((row.due_at - now) / timedelta(minutes=15))
        wall = row.due_at.astimezone(zone)
        ticks.append(
            {
                "delivery": row.pk,
                "post": row.post_id,
                "state": row.state,
                "share": max((row.due_at - now) / _DAY, 0.0),
                "stack": stacks[quarter],
                "words": f"{wall:%H:%M} {row.profile.handle}, {row.state.replace('_', ' ')}: {row.headline or 'no text'}",
            }
        )
        stacks[quarter] += 1
    trouble = Delivery.objects.filter(
        brand=place.brand, state__in=_TROUBLE, due_at__lt=now, post__binned__isnull=True
    ).count()
    wall_now = now.astimezone(zone)
    return {
        "now": now,
        "zone": zone.key,
        "clock": f"{wall_now:%H:%M %a}",
        "hours": _hours(now, zone),
        "ticks": ticks,
        "trouble": trouble,
    }


def _hours(now: datetime, zone: ZoneInfo) -> list[dict[str, Any]]:
    """The full hours of the next 24, as real instants: a day with a clock change shows it."""
    top = now.astimezone(UTC).replace(minute=0, second=0, microsecond=0)
    marks = []
    for n in range(26 * 4):
        at = top + timedelta(minutes=15 * n)
        wall = at.astimezone(zone)
        if now <= at < now + _DAY and wall.minute == 0:
            marks.append({"share": (at - now) / _DAY, "label": f"{wall:%H}"})
    return marks


def _day(day: date, today: date) -> dict[str, Any]:
    return {
        "date": day,
        "weekday": day.weekday(),
        "week": day.isocalendar().week,
        "today": day == today,
        "past": day < today,
    }


def _tray(place: Here) -> list[dict[str, Any]]:
    # Few posts are loose, of ever so many: found by the two small indexes, not by looking at all of them.
    loose = Delivery.objects.filter(brand=place.brand, state=DeliveryState.UNPLANNED).values_list("post_id", flat=True)
    unsigned = (
        Post.objects.filter(brand=place.brand, binned__isnull=True)
        .exclude(state=PostState.SIGNED)
        .values_list("pk", flat=True)
    )
    candidates = list(loose.union(unsigned))
    busy = Delivery.objects.filter(post_id=OuterRef("pk")).exclude(state=DeliveryState.UNPLANNED)
    drafts = (
        Post.objects.filter(pk__in=candidates, binned__isnull=True)
        .exclude(Exists(busy))
        .order_by("-changed")
        .prefetch_related("deliveries__profile")
    )
    letters = {network: sheet.letters for network, sheet in sheets_of(place.brand.pk).items()}
    out = []
    for post in drafts[:_TRAY_MOST]:
        media = post.master.get("media", [])
        line = next((line.strip() for line in post.master.get("text", "").splitlines() if line.strip()), "")
        networks = sorted({d.profile.network for d in post.deliveries.all()} & letters.keys())
        out.append(
            {
                "post": post.pk,
                "headline": (post.title or line)[:100],
                "thumb": media[0] if media else None,
                "pictures": len(media),
                "networks": networks,
                "state": post.state,
            }
        )
    return out
