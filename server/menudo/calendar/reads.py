"""The calendar's window and the day strip, each in a fixed number of statements."""

from collections import Counter
from datetime import date, datetime, time, timedelta
from itertools import takewhile
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import Exists, OuterRef, Q, QuerySet

from menudo.calendar.bands import bands
from menudo.calendar.narrow import Narrow
from menudo.calendar.spacing import marks
from menudo.calendar.today import ALONE
from menudo.people.here import Here
from menudo.posts.models import Delivery, Post
from menudo.posts.times import TAKES_A_SLOT
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo.profiles.standing import Pauses, pauses_of, usable
from menudo_core.signoff.states import DeliveryState, Event, PostState, takes
from menudo_core.text.lines import first_line
from menudo_core.timing.walltimes import day_bounds, full_hours

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
    "post__title",
    "post__campaign_id",
    "post__author_id",
    "delay",
    "sway",
)
HELD_WORDS = {"signoff": "waits for sign-off", "paused": "paused", "reconnect": "its profile must be reconnected"}
_TRAY_MOST = 60
ALL = Narrow()


def window(place: Here, first: date, days: int, now: datetime, narrow: Narrow = ALL) -> dict[str, Any]:
    """`days` days from `first`, in the brand's zone: profiles, tickets, what lies across the days, and the tray; sixteen
    statements at most, however much there is.

    A disconnected profile has a lane while there is something on it. Gaps and crowding are of all that stands there,
    whatever the filter leaves.
    """
    zone = place.zone
    last = first + timedelta(days=days - 1)
    start, end = day_bounds(datetime.combine(first, time()), zone, days)
    there = on_calendar(start, end).filter(brand=place.brand)
    shown = tickets(narrow.of_deliveries(there, place), first, zone)
    labels = _labels(place, {t["post"] for t in shown})
    for one in shown:
        one["labels"] = labels.get(one["post"], [])
    busy = {t["profile"] for t in shown}
    profiles = [
        p
        for p in Profile.objects.filter(brand=place.brand)
        if (narrow.profiles is None or p.pk in narrow.profiles)
        and (p.pk in busy or (p.state != Profile.State.DISCONNECTED and not narrow.asks_of_posts))
    ]
    if narrow == ALL:
        stands = frozenset(TAKES_A_SLOT)
        going = [(t["id"], t["profile"], datetime.fromisoformat(t["due_at"])) for t in shown if t["state"] in stands]
    else:
        standing = there.filter(state__in=TAKES_A_SLOT).values_list("id", "profile_id", "due_at")
        going = [(id, profile, at) for id, profile, at in standing if at]
    said = marks(place, profiles, going, first, last)
    pauses = pauses_of([place.brand.pk])
    return {
        "zone": zone.key,
        "days": days_of(first, days, now.astimezone(zone).date()),
        "lanes": [lane(p, pauses, now, said.get(p.pk)) for p in profiles],
        "tickets": shown,
        "bands": bands(place.brand, first, last),
        "tray": _tray(place, narrow),
    }


def _labels(place: Here, posts: set[int]) -> dict[int, list[int]]:
    """The labels of each post, by the labels' names."""
    rows = Post.labels.through.objects.filter(post__in=posts, label__brand=place.brand).order_by("label__name")
    found: dict[int, list[int]] = {}
    for post, label in rows.values_list("post_id", "label_id"):
        found.setdefault(post, []).append(label)
    return found


def lane(p: Profile, pauses: Pauses, now: datetime, said: dict[str, Any] | None = None) -> dict[str, Any]:
    """A profile's row. `refuses` says why nothing can be planned there, `holds` why what is planned would wait."""
    paused = pauses.at(p, now) is not None
    refuses = "" if usable(p) else f"{p.handle} is {p.get_state_display().replace('_', ' ').lower()}"
    return {
        "profile": p.pk, "network": p.network, "handle": p.handle, "name": p.name, "called": p.called, "kind": p.kind,
        "state": p.state, "paused": paused, "refuses": refuses, "holds": "paused: it would be held" if paused else "",
        "gaps": said["gaps"] if said else [], "crowds": said["crowds"] if said else [],
    }  # fmt: skip


def days_of(first: date, days: int, today: date) -> list[dict[str, Any]]:
    """The columns of a window."""
    return [_day(first + timedelta(days=n), today) for n in range(days)]


def tickets(rows: QuerySet[Delivery], first: date, zone: ZoneInfo) -> list[dict[str, Any]]:
    """The cards of deliveries, in their order; days count from `first` in `zone`. One statement."""
    origin = first.toordinal()
    return [ticket(row, zone, origin) for row in rows.values_list(*TICKET)]


def on_calendar(start: datetime, end: datetime) -> QuerySet[Delivery]:
    """What stands on the calendar in [start, end), earliest first."""
    found = Delivery.objects.filter(due_at__gte=start, due_at__lt=end, post__binned__isnull=True)
    return found.exclude(state=DeliveryState.UNPLANNED).order_by("due_at", "id")


def ticket(row: tuple, zone: ZoneInfo, origin: int) -> dict[str, Any]:
    """One card, from the columns of TICKET. `origin` is the ordinal of the window's first day."""
    id, post, profile, state, due, headline, thumb, pictures, reason, url, revision, held_for, *more = row
    title, campaign, author, delay, sway = more
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
        "titled": bool(title),
        "labels": [],
        "campaign": campaign,
        "author": author,
        "off": delay + sway,
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
        Q(state__in=_TROUBLE) | ALONE, brand=place.brand, due_at__lt=now, post__binned__isnull=True
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
    found = takewhile(lambda at: at < now + _DAY, full_hours(now - timedelta(minutes=1), zone))
    return [{"share": (at - now) / _DAY, "label": f"{at.astimezone(zone):%H}"} for at in found if at >= now]


def _day(day: date, today: date) -> dict[str, Any]:
    return {
        "date": day,
        "weekday": day.weekday(),
        "week": day.isocalendar().week,
        "today": day == today,
        "past": day < today,
    }


def _tray(place: Here, narrow: Narrow) -> list[dict[str, Any]]:
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
        Post.objects.filter(narrow.of_posts, pk__in=candidates, binned__isnull=True, evergreen=False, aside=False)
        .exclude(Exists(busy))
        .order_by("-changed")
        .prefetch_related("deliveries__profile", "labels")
    )
    letters = {network: sheet.letters for network, sheet in sheets_of(place.brand.pk).items()}
    out = []
    for post in drafts[:_TRAY_MOST]:
        media = post.master.get("media", [])
        line = first_line(post.master.get("text", ""))
        networks = sorted({d.profile.network for d in post.deliveries.all()} & letters.keys())
        out.append(
            {
                "post": post.pk,
                "headline": (post.title or line)[:100],
                "thumb": media[0] if media else None,
                "pictures": len(media),
                "networks": networks,
                "state": post.state,
                "labels": [label.pk for label in post.labels.all()],
                "profiles": [d.profile_id for d in post.deliveries.all()],
                "revision": post.revision,
            }
        )
    return out
