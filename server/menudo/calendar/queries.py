"""The calendar's window and the day strip, each in a fixed number of statements."""

from collections import Counter
from datetime import date, datetime, time, timedelta
from itertools import takewhile
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import Exists, OuterRef, QuerySet

from menudo.calendar import schemas
from menudo.calendar.bands import window_bands
from menudo.calendar.filters import CalendarFilter
from menudo.calendar.spacing import LaneMarks, lane_marks
from menudo.delivery.troubles import troubled_deliveries
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery, Post
from menudo.posts.serializers import load_content
from menudo.posts.times import TAKES_A_SLOT
from menudo.profiles.models import Profile
from menudo.profiles.pauses import Pauses, is_usable, pauses_of
from menudo.profiles.sheets import sheets_of
from menudo_core.signoff.states import DeliveryState, Event, PostState, accepts
from menudo_core.text.lines import first_line
from menudo_core.timing.walltimes import day_bounds, full_hours

_LOOSE = [DeliveryState.UNPLANNED, DeliveryState.OFF]
_MOVES = frozenset(s.value for s in DeliveryState if accepts(s, Event.MOVE))
_DAY = timedelta(hours=24)
TICKET = (
    "id",
    "post_id",
    "profile_id",
    "state",
    "due_at",
    "headline",
    "thumb_id",
    "picture_count",
    "reason",
    "remote_url",
    "revision",
    "held_for",
    "post__title",
    "post__campaign_id",
    "post__author_id",
    "delay",
    "jitter",
)
HELD_WORDS = {"signoff": "waits for sign-off", "paused": "paused", "reconnect": "its profile must be reconnected"}
_TRAY_LIMIT = 60
NO_FILTER = CalendarFilter()


def calendar_window(
    context: BrandContext, first: date, days: int, now: datetime, narrow: CalendarFilter = NO_FILTER
) -> schemas.CalendarWindow:
    """`days` days from `first`, in the brand's zone: profiles, tickets, what lies across the days, and the tray; sixteen
    statements at most, however much there is.

    A disconnected profile has a lane while there is something on it. Gaps and crowding are of all that stands there,
    whatever the filter leaves.
    """
    zone = context.zone
    last = first + timedelta(days=days - 1)
    start, end = day_bounds(datetime.combine(first, time()), zone, days)
    there = calendar_deliveries(start, end).filter(brand=context.brand)
    shown = tickets_of(narrow.filter_deliveries(there, context), first, zone)
    labels = _labels_by_post(context, {t["post"] for t in shown})
    for one in shown:
        one["labels"] = labels.get(one["post"], [])
    busy = {t["profile"] for t in shown}
    profiles = [
        p
        for p in Profile.objects.filter(brand=context.brand)
        if (narrow.profiles is None or p.pk in narrow.profiles)
        and (p.pk in busy or (p.state != Profile.State.DISCONNECTED and not narrow.filters_posts))
    ]
    if narrow == NO_FILTER:
        stands = frozenset(TAKES_A_SLOT)
        going = [(t["id"], t["profile"], datetime.fromisoformat(t["due_at"])) for t in shown if t["state"] in stands]
    else:
        standing = there.filter(state__in=TAKES_A_SLOT).values_list("id", "profile_id", "due_at")
        going = [(delivery_id, profile, at) for delivery_id, profile, at in standing if at]
    marks = lane_marks(context, profiles, going, first, last)
    pauses = pauses_of([context.brand.pk])
    return {
        "zone": zone.key,
        "days": window_days(first, days, now.astimezone(zone).date()),
        "lanes": [lane_of(p, pauses, now, marks.get(p.pk)) for p in profiles],
        "tickets": shown,
        "bands": window_bands(context.brand, first, last),
        "tray": _unplanned_posts(context, narrow),
    }


def _labels_by_post(context: BrandContext, posts: set[int]) -> dict[int, list[int]]:
    """The labels of each post, by the labels' names."""
    rows = Post.labels.through.objects.filter(post__in=posts, label__brand=context.brand).order_by("label__name")
    found: dict[int, list[int]] = {}
    for post, label in rows.values_list("post_id", "label_id"):
        found.setdefault(post, []).append(label)
    return found


def lane_of(p: Profile, pauses: Pauses, now: datetime, marks: LaneMarks | None = None) -> schemas.LaneOut:
    """A profile's row. `refuses` says why nothing can be planned there, `holds` why what is planned would wait."""
    paused = pauses.at(p, now) is not None
    refuses = "" if is_usable(p) else f"{p.handle} is {p.get_state_display().replace('_', ' ').lower()}"
    return schemas.LaneOut(
        profile=p.pk,
        network=p.network,
        handle=p.handle,
        name=p.name,
        display_name=p.display_name,
        kind=p.kind,
        state=p.state,
        paused=paused,
        refuses=refuses,
        holds="paused: it would be held" if paused else "",
        gaps=marks.gaps if marks else [],
        crowds=marks.crowds if marks else [],
    )


def window_days(first: date, days: int, today: date) -> list[schemas.DayOut]:
    """The columns of a window."""
    return [_day_label(first + timedelta(days=n), today) for n in range(days)]


def tickets_of(rows: QuerySet[Delivery], first: date, zone: ZoneInfo) -> list[schemas.TicketRow]:
    """The cards of deliveries, in their order; days count from `first` in `zone`. One statement."""
    origin = first.toordinal()
    return [ticket_of(row, zone, origin) for row in rows.values_list(*TICKET)]


def calendar_deliveries(start: datetime, end: datetime) -> QuerySet[Delivery]:
    """What stands on the calendar in [start, end), earliest first."""
    found = Delivery.objects.filter(due_at__gte=start, due_at__lt=end, post__deleted_at__isnull=True)
    return found.exclude(state=DeliveryState.UNPLANNED).order_by("due_at", "id")


def ticket_of(row: tuple[Any, ...], zone: ZoneInfo, origin: int) -> schemas.TicketRow:
    """One card, from the columns of TICKET. `origin` is the ordinal of the window's first day."""
    delivery_id, post, profile, state, due, headline, thumb, pictures, reason, url, revision, held_for, *more = row
    title, campaign, author, delay, jitter = more
    here = due.astimezone(zone)
    return {
        "id": delivery_id,
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
        "off": delay + jitter,
    }


def next_day_strip(context: BrandContext, now: datetime) -> schemas.StripOut:
    """The next 24 hours from `now`: one statement for the ticks and one for the trouble before them."""
    zone = context.zone
    # What is still going out, and what stands in trouble since midnight, is on the strip; older trouble is counted.
    rows = (
        Delivery.objects.filter(
            brand=context.brand,
            due_at__gte=now - timedelta(minutes=15),
            due_at__lt=now + _DAY,
            post__deleted_at__isnull=True,
        )
        .exclude(state__in=[*_LOOSE, DeliveryState.PUBLISHED])
        .select_related("profile")
        .order_by("due_at", "id")
    )
    stacks: Counter[int] = Counter()
    ticks: list[schemas.TickOut] = []
    for row in rows:
        if row.due_at is None:
            continue
        quarter = int((row.due_at - now) / timedelta(minutes=15))
        wall_time = row.due_at.astimezone(zone)
        ticks.append(
            schemas.TickOut(
                delivery=row.pk,
                post=row.post_id,
                state=row.state,
                share=max((row.due_at - now) / _DAY, 0.0),
                stack=stacks[quarter],
                summary=f"{wall_time:%H:%M} {row.profile.handle}, {row.state.replace('_', ' ')}: {row.headline or 'no text'}",
            )
        )
        stacks[quarter] += 1
    trouble = troubled_deliveries(context.brand).filter(due_at__lt=now).count()
    wall_now = now.astimezone(zone)
    return schemas.StripOut(
        now=now,
        zone=zone.key,
        clock=f"{wall_now:%H:%M %a}",
        hours=_full_hours(now, zone),
        ticks=ticks,
        trouble=trouble,
    )


def _full_hours(now: datetime, zone: ZoneInfo) -> list[schemas.HourOut]:
    """The full hours of the next 24, as real instants: a day with a clock change shows it."""
    found = takewhile(lambda at: at < now + _DAY, full_hours(now - timedelta(minutes=1), zone))
    return [schemas.HourOut(share=(at - now) / _DAY, label=f"{at.astimezone(zone):%H}") for at in found if at >= now]


def _day_label(day: date, today: date) -> schemas.DayOut:
    return schemas.DayOut(
        date=day,
        weekday=day.weekday(),
        week=day.isocalendar().week,
        today=day == today,
        past=day < today,
    )


def _unplanned_posts(context: BrandContext, narrow: CalendarFilter) -> list[schemas.TrayOut]:
    # Few posts are loose, of ever so many: found by the two small indexes, not by looking at all of them.
    loose = Delivery.objects.filter(brand=context.brand, state=DeliveryState.UNPLANNED).values_list(
        "post_id", flat=True
    )
    unsigned = (
        Post.objects.filter(brand=context.brand, deleted_at__isnull=True)
        .exclude(state=PostState.SIGNED)
        .values_list("pk", flat=True)
    )
    candidates = list(loose.union(unsigned))
    busy = Delivery.objects.filter(post_id=OuterRef("pk")).exclude(state=DeliveryState.UNPLANNED)
    drafts = (
        Post.objects.filter(narrow.post_query, pk__in=candidates, deleted_at__isnull=True, evergreen=False, aside=False)
        .exclude(Exists(busy))
        .order_by("-updated_at")
        .prefetch_related("deliveries__profile", "labels")
    )
    letters = {network: sheet.letters for network, sheet in sheets_of(context.brand.pk).items()}
    out = []
    for post in drafts[:_TRAY_LIMIT]:
        content = load_content(post.master)
        media, line = content.media, first_line(content.text)
        networks = sorted({d.profile.network for d in post.deliveries.all()} & letters.keys())
        out.append(
            schemas.TrayOut(
                post=post.pk,
                headline=(post.title or line)[:100],
                thumb=media[0] if media else None,
                pictures=len(media),
                networks=networks,
                state=post.state,
                labels=[label.pk for label in post.labels.all()],
                profiles=[d.profile_id for d in post.deliveries.all()],
                revision=post.revision,
            )
        )
    return out
