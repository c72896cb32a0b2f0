"""The calendar's window, in a fixed number of statements."""

from datetime import date, datetime, timedelta

from django.db.models import QuerySet

from menudo.calendar import schemas
from menudo.calendar.bands import window_bands
from menudo.calendar.cards import CARD, CARDS_AT_ONCE, cards_of, marks_of
from menudo.calendar.deliveries import calendar_deliveries, window_bounds
from menudo.calendar.filters import CalendarFilter
from menudo.calendar.gathering import count_by_profile, heaps_by_network
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.profiles.pauses import Pauses, is_usable, pauses_of

NO_FILTER = CalendarFilter()


def calendar_window(
    context: BrandContext,
    first: date,
    days: int,
    now: datetime,
    narrow: CalendarFilter = NO_FILTER,
    gather: schemas.Gather = "profile",
) -> schemas.CalendarWindow:
    """`days` days from `first`, in the brand's zone: profiles, what lies across the days, and the cards with the marks of their
    lanes; where there are more cards than a page holds, how many stand where instead. Thirteen statements at most.

    A disconnected profile has a lane while there is something on it. Gaps and crowding are of all that stands there,
    whatever the filter leaves.
    """
    zone, last = context.zone, first + timedelta(days=days - 1)
    there = calendar_deliveries([context.brand.pk], *window_bounds(first, days, zone))
    shown = narrow.filter_deliveries(there, context)
    # Of more than a page holds none is read.
    is_whole = not shown.order_by()[CARDS_AT_ONCE:].exists()
    rows = list(shown.values_list(*CARD)) if is_whole else []
    gathered = None if is_whole else _gather(shown, first, days, context, gather)
    profiles = _lanes(context, narrow, {row[2] for row in rows} if is_whole else None, shown)
    pauses = pauses_of([context.brand.pk])
    return {
        "zone": zone.key,
        "days": window_days(first, days, now.astimezone(zone).date()),
        "lanes": [lane_of(p, pauses, now) for p in profiles],
        "tickets": cards_of(rows, {context.brand.pk: zone}, first) if is_whole else [],
        "marks": marks_of(context, profiles, there if narrow.filters_posts else rows, first, days) if is_whole else [],
        "gathered": gathered,
        "bands": window_bands(context.brand, first, last),
    }


def _gather(
    shown: QuerySet[Delivery], first: date, days: int, context: BrandContext, gather: schemas.Gather
) -> schemas.GatheredOut:
    if gather == "profile":
        return schemas.GatheredOut(lanes=count_by_profile(shown, first, days, context.zone), heaps=[])
    return schemas.GatheredOut(lanes=[], heaps=heaps_by_network(shown, first, days, context.zone, gather == "hour"))


def _lanes(
    context: BrandContext, narrow: CalendarFilter, busy: set[int] | None, shown: QuerySet[Delivery]
) -> list[Profile]:
    """The profiles with a lane: what is connected, where no filter asks for more than profiles can answer, and whatever is busy."""
    if busy is None:
        busy = set(shown.order_by().values_list("profile_id", flat=True).distinct())
    return [
        p
        for p in Profile.objects.filter(brand=context.brand)
        if (narrow.profiles is None or p.pk in narrow.profiles)
        and (p.pk in busy or (p.state != Profile.State.DISCONNECTED and not narrow.filters_posts))
    ]


def lane_of(p: Profile, pauses: Pauses, now: datetime) -> schemas.LaneOut:
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
    )


def window_days(first: date, days: int, today: date) -> list[schemas.DayOut]:
    """The columns of a window."""
    return [_day_label(first + timedelta(days=n), today) for n in range(days)]


def _day_label(day: date, today: date) -> schemas.DayOut:
    return schemas.DayOut(
        date=day,
        weekday=day.weekday(),
        week=day.isocalendar().week,
        today=day == today,
        past=day < today,
    )
