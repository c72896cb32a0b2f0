"""Gaps and crowding on the calendar, and advice with a proposed time."""

from collections import defaultdict
from collections.abc import Iterable
from datetime import date, datetime, time, timedelta
from itertools import islice
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import Max, Min, Q

from menudo.base.rows import AnyOf
from menudo.calendar import schemas
from menudo.calendar.deliveries import not_binned, window_bounds
from menudo.calendar.filters import CalendarFilter
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery, Version
from menudo.posts.serializers import load_content, load_overrides
from menudo.posts.times import TAKES_A_SLOT
from menudo.profiles.models import Profile
from menudo.profiles.models import Slot as SlotRow
from menudo.profiles.sheets import sheet_for
from menudo_core.insight.spacing import Advice, Kind, ScheduledItem, SpacingPreferences, spacing_advice
from menudo_core.networks.content import Overrides, apply_overrides
from menudo_core.text.similarity import shingles
from menudo_core.timing.slots import Slot, next_free_slots, open_slots
from menudo_core.timing.walltimes import day_bounds, wall_time_in

_REACH = timedelta(days=45)
_MAX_ADVICE, _LANES_AT_ONCE = 200, 12
_ROW = (
    "id", "profile_id", "due_at", "state", "revision", "headline", "post_id", "profile__network", "post__master",
)  # fmt: skip # in the order of a DeliveryRow
DeliveryRow = tuple[int, int, datetime, str, int, str, int, str, dict[str, Any]]


def spacing_preferences(profile: Profile, repeats: bool) -> SpacingPreferences:
    """What a profile wishes, with its network's pace; `repeats`: whether the same again is looked for."""
    pace = sheet_for(profile.brand_id, profile.network).pace.posts_a_day
    return SpacingPreferences(
        profile.max_gap_days, profile.min_gap_minutes, pace, profile.min_repeat_days if repeats else None
    )


def lane_marks(
    context: BrandContext,
    profiles: Iterable[Profile],
    going: Iterable[tuple[int, int, datetime]],
    first: date,
    last: date,
) -> list[schemas.LaneMarksOut]:
    """Days without a post, and cards that crowd, of each profile's lane that has any. One statement, for the edges.

    `going`: (id, profile, instant) of everything that goes or went out in the window, unfiltered.
    """
    zone, lanes = context.zone, list(profiles)
    start, end = window_bounds(first, (last - first).days + 1, zone)
    rows = [ScheduledItem(*one) for one in going]
    standing = Delivery.objects.filter(AnyOf("profile_id", [p.pk for p in lanes]), state__in=TAKES_A_SLOT)
    standing = not_binned(standing, [context.brand.pk])
    around = standing.filter(
        Q(due_at__gte=start - _REACH, due_at__lt=start) | Q(due_at__gte=end, due_at__lt=end + _REACH)
    )
    edges = around.values_list("profile").annotate(
        before=Max("due_at", filter=Q(due_at__lt=start)), after=Min("due_at", filter=Q(due_at__gte=end))
    )
    nearest = [(profile, at) for profile, *both in edges for at in both if at]
    rows += [ScheduledItem(-n, profile, at) for n, (profile, at) in enumerate(nearest, start=1)]
    wishes = {p.pk: spacing_preferences(p, repeats=False) for p in lanes}
    found: dict[int, schemas.LaneMarksOut] = {}
    for one in spacing_advice(rows, wishes, dict.fromkeys(wishes, zone), first, last):
        marks = found.setdefault(one.profile, schemas.LaneMarksOut(profile=one.profile, gaps=[], crowds=[]))
        if one.kind is Kind.GAP and one.first and one.last:
            days = [(one.first - first).days, (one.last - first).days]
            marks.gaps.append(schemas.GapOut(first=days[0], last=days[1], summary=one.summary))
        else:
            ids = [delivery_id for delivery_id in one.ids if delivery_id > 0]
            marks.crowds.append(schemas.CrowdOut(ids=ids, summary=one.summary))
    return list(found.values())


def with_advice(
    context: BrandContext, first: date, days: int, now: datetime, narrow: CalendarFilter, after: int
) -> schemas.AdvicePage:
    """What there is to say of what is still to come on the next few lanes after the first `after`, each with why and a proposed
    time where there is one: five statements.

    Every wording that stands within reach is looked at, 45 days back and ahead: for hundreds of lanes at once that takes seconds.
    """
    shown = Profile.objects.filter(brand=context.brand).exclude(state=Profile.State.DISCONNECTED)
    if narrow.profiles is not None:
        shown = shown.filter(pk__in=narrow.profiles)
    lanes = list(shown)
    profiles = {p.pk: p for p in lanes[after : after + _LANES_AT_ONCE]}
    checked = min(after + _LANES_AT_ONCE, len(lanes))
    return schemas.AdvicePage(
        advice=_advice_of(context, profiles, first, days, now),
        lanes=len(lanes),
        checked=checked,
        next=checked if checked < len(lanes) else None,
    )


def _advice_of(
    context: BrandContext, profiles: dict[int, Profile], first: date, days: int, now: datetime
) -> list[schemas.AdviceOut]:
    zone = context.zone
    last = first + timedelta(days=days - 1)
    start, end = window_bounds(first, days, zone)
    rows = _deliveries_between(profiles, start - _REACH, end + _REACH)
    going = _scheduled_items(rows)
    wishes = {p.pk: spacing_preferences(p, repeats=True) for p in profiles.values()}
    advice = spacing_advice(going, wishes, dict.fromkeys(profiles, zone), max(first, now.astimezone(zone).date()), last)
    by_id = {row[0]: row for row in rows}
    movable = {row[0] for row in rows if row[3] in ("planned", "held")}
    slots = defaultdict(list)
    for slot in SlotRow.objects.filter(profile__in=profiles):
        slots[slot.profile_id].append(Slot(slot.weekday, slot.at, f"label:{slot.label_id}" if slot.label_id else ""))
    taken: dict[int, set[datetime]] = defaultdict(set)
    for row in rows:
        taken[row[1]].add(row[2])
    out = []
    for one in advice:
        subject = next((delivery_id for delivery_id in reversed(one.ids) if delivery_id in movable), None)
        at = by_id[subject][2] if subject else None
        if one.kind is not Kind.GAP and (at is None or not start <= at < end or at <= now):
            continue
        proposed = _proposed_time(one, at, profiles[one.profile], context, slots, taken, by_id, now)
        out.append(
            schemas.AdviceOut(
                kind=one.kind.value,
                profile=one.profile,
                summary=one.summary,
                deliveries=list(one.ids),
                subject=subject,
                revision=by_id[subject][4] if subject else None,
                other=one.other,
                first=one.first,
                last=one.last,
                headline=by_id[subject][5] if subject else "",
                proposed=wall_time_in(proposed, zone).isoformat(timespec="minutes") if proposed else None,
            )
        )
    return out[:_MAX_ADVICE]


def _deliveries_between(profiles: Iterable[int], start: datetime, end: datetime) -> list[DeliveryRow]:
    """What goes or went out on the profiles in [start, end), earliest first. Read once: a second reading could find others."""
    found = Delivery.objects.filter(
        profile__in=list(profiles),
        state__in=TAKES_A_SLOT,
        due_at__gte=start,
        due_at__lt=end,
        post__deleted_at__isnull=True,
    )
    return list(found.order_by("due_at", "id").values_list(*_ROW))


def _scheduled_items(rows: list[DeliveryRow]) -> list[ScheduledItem]:
    """With each delivery's media and the shingles of its wording, as its version has them; each wording is read once."""
    versions = Version.objects.filter(post__in={row[6] for row in rows})
    owns: dict[tuple[int, str, int | None], Overrides] = {
        (post, network, profile): load_overrides(overrides)
        for post, network, profile, overrides in versions.values_list("post_id", "network", "profile_id", "overrides")
    }
    known: dict[tuple[int, Any], tuple[frozenset[int], frozenset[str]]] = {}
    going = []
    for delivery_id, profile, at, _state, _revision, _headline, post, network, master in rows:
        split = (post, network, profile)
        overrides = owns.get(split) or owns.get((post, network, None))
        key = (post, split if split in owns else network)
        if key not in known:
            content = load_content(master)
            if overrides:
                content = apply_overrides(content, overrides)
            known[key] = frozenset(content.media), shingles(content.text)
        going.append(ScheduledItem(delivery_id, profile, at, *known[key]))
    return going


def _proposed_time(
    one: Advice,
    at: datetime | None,
    profile: Profile,
    context: BrandContext,
    slots: dict[int, list[Slot]],
    taken: dict[int, set[datetime]],
    by_id: dict[int, DeliveryRow],
    now: datetime,
) -> datetime | None:
    """A free slot that mends it: in the gap, after the crowd, or once enough days have passed."""
    zone = ZoneInfo(profile.zone or context.brand.zone)
    candidate_slots = open_slots(slots[profile.pk])
    if one.kind is Kind.GAP and one.first and one.last:
        begins, ends = day_bounds(datetime.combine(one.first, time()), zone, (one.last - one.first).days + 1)
        free = next_free_slots(candidate_slots, taken[profile.pk], max(begins, now), zone)
        return next((slot for slot in islice(free, 1) if slot < ends), None)
    if at is None:
        return None
    least = timedelta(minutes=profile.min_gap_minutes or 0)
    after = at
    if one.other is not None and one.other in by_id:
        after = by_id[one.other][2] + timedelta(days=profile.min_repeat_days or 0)
    elif one.kind is Kind.PACE:
        after = day_bounds(wall_time_in(at, zone), zone)[1]
    others = taken[profile.pk] - {at}
    for slot in islice(next_free_slots(candidate_slots, others, max(after, now), zone), 60):
        if all(abs(slot - other) >= least for other in others):
            return slot
    return None
