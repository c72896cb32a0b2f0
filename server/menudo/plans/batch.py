"""Laying out: which post or picture goes when to which profile, to be looked at before it is done."""

from bisect import bisect_left, insort
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.calendar.bands import almanac_days
from menudo.library.actions.arrange_assets import assets_by_ids
from menudo.people.context import BrandContext
from menudo.plans.schemas import BatchIn
from menudo.posts.actions.enqueue_delivery import parse_wall_time
from menudo.posts.checking import findings_for, media_facts
from menudo.posts.models import Delivery, Post
from menudo.posts.rendering import PostRenderer
from menudo.posts.serializers import load_content
from menudo.posts.times import TAKES_A_SLOT, profile_slots, profile_zone, taken_instants
from menudo.profiles.models import Profile
from menudo.profiles.pauses import is_usable
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Level
from menudo_core.plans.dates import InvalidCellError, parse_time
from menudo_core.signoff.states import DeliveryState, Event, accepts
from menudo_core.timing.runs import Interval, Run, Unit, resolved_times
from menudo_core.timing.slots import next_free_slots, open_slots
from menudo_core.timing.spread import Waking, apply_jitter
from menudo_core.timing.walltimes import WallKind, day_bounds, resolve_wall_time, wall_time_in

MAX_ROWS = 2000
_LOOK_AHEAD = timedelta(days=3 * 366)


@dataclass
class BatchItem:
    """A post or a picture that is laid, and the profiles it goes to; `busy` are those it is planned for already."""

    post: Post | None
    asset: int | None
    headline: str
    thumb: int | None
    profiles: list[Profile]
    caption: str = ""
    busy: set[int] = field(default_factory=set)
    renderer: PostRenderer | None = None


@dataclass
class BatchRow:
    """One delivery as it would be: `at` None is nowhere, and the notes say why."""

    number: int
    item: BatchItem
    profile: Profile
    zone: ZoneInfo
    at: datetime | None = None
    jitter: int = 0
    notes: list[tuple[str, str]] = field(default_factory=list)


def preview_rows(context: BrandContext, data: BatchIn, now: datetime) -> list[BatchRow]:
    """Every date that would come of it, with clashes, days and findings. Nothing is changed. Raises InvalidError."""
    today = now.astimezone(context.zone).date()
    if not today - timedelta(days=366) <= data.first <= today + _LOOK_AHEAD:
        raise InvalidError.at("/first", say("batch.far"))
    items = _batch_items(context, data)
    rows = [BatchRow(n, item, p, profile_zone(context, p)) for n, item in enumerate(items) for p in item.profiles]
    if not rows:
        raise InvalidError.at("/profiles", say("batch.no_profiles"))
    if len(rows) > MAX_ROWS:
        raise InvalidError.at("/posts", say("batch.many", count=len(rows), most=MAX_ROWS))
    if data.timing == "slots":
        _assign_slots(context, rows, data, now)
    else:
        _assign_run(context, rows, data, now)
    if data.jitter:
        _apply_jitter(rows, data, now)
    _apply_moves(rows, data)
    _add_notes(context, rows, now)
    return rows


def _batch_items(context: BrandContext, data: BatchIn) -> list[BatchItem]:
    given = {p.pk: p for p in Profile.objects.filter(brand=context.brand, pk__in=data.profiles)}
    if missing := [n for n, profile_id in enumerate(data.profiles) if profile_id not in given]:
        raise InvalidError.at(f"/profiles/{missing[0]}", say("profile.foreign"))
    wanted = [given[profile_id] for profile_id in dict.fromkeys(data.profiles)]
    found = Post.objects.filter(brand=context.brand, pk__in=data.posts, deleted_at__isnull=True)
    posts = {p.pk: p for p in found.select_related("campaign").prefetch_related("deliveries__profile", "labels")}
    if gone := [n for n, post_id in enumerate(data.posts) if post_id not in posts]:
        raise InvalidError.at(f"/posts/{gone[0]}", say("post.gone"))
    items = []
    renderers = PostRenderer.for_posts(context.brand, posts.values())
    for post_id in dict.fromkeys(data.posts):
        post = posts[post_id]
        profile_ids = [d.profile for d in post.deliveries.all() if accepts(DeliveryState(d.state), Event.PLAN)]
        content = load_content(post.master)
        line = next((x.strip() for x in content.text.splitlines() if x.strip()), "")
        busy = {d.profile_id for d in post.deliveries.all() if not accepts(DeliveryState(d.state), Event.PLAN)}
        headline = (post.title or line)[:100]
        items.append(
            BatchItem(
                post,
                None,
                headline,
                content.media[0] if content.media else None,
                wanted or profile_ids,
                busy=busy,
                renderer=renderers[post.pk],
            )
        )
    for asset in assets_by_ids(context, data.assets):
        items.append(BatchItem(None, asset.pk, (asset.caption or asset.name)[:100], asset.pk, wanted, asset.caption))
    if not items:
        raise InvalidError.at("/posts", say("batch.empty"))
    return items


def _assign_slots(context: BrandContext, rows: Sequence[BatchRow], data: BatchIn, now: datetime) -> None:
    """Each profile's next free slots from the day on, in the order of the things."""
    free: dict[tuple[int, tuple[str, ...]], Iterator[datetime]] = {}
    given: dict[int, set[datetime]] = defaultdict(set)
    skip = set(data.skip)
    for row in rows:
        keys = tuple(f"label:{label.pk}" for label in row.item.post.labels.all()) if row.item.post else ()
        slots = open_slots(profile_slots(row.profile), keys)
        if not slots:
            row.notes.append(
                ("stops", f"{row.profile.handle} has no slots in its timetable. Give it some in Profiles.")
            )
            continue
        begins, _ = day_bounds(datetime.combine(data.first, time()), row.zone)
        key = (row.profile.pk, tuple(sorted({s.reserved_for for s in slots})))
        if key not in free:
            after = max(now, begins - timedelta(seconds=1))
            free[key] = next_free_slots(slots, taken_instants(row.profile, after), after, row.zone)
        for at in free[key]:
            if at - now > _LOOK_AHEAD:
                row.notes.append(("stops", "There is no free slot in the next three years."))
                break
            if at not in given[row.profile.pk] and wall_time_in(at, row.zone).date() not in skip:
                row.at = at
                given[row.profile.pk].add(at)
                break


def _assign_run(context: BrandContext, rows: Sequence[BatchRow], data: BatchIn, now: datetime) -> None:
    """One date for each thing, one after another; the same for all its profiles, in the brand's zone."""
    asked = data.interval
    if asked is None:
        raise InvalidError.at("/interval", say("batch.no_interval"))
    if any(not 0 <= day <= 6 for day in asked.weekdays) or asked.nth == 0:
        raise InvalidError.at("/interval/weekdays", say("batch.weekdays"))
    try:
        at = parse_time(data.at)
    except InvalidCellError as bad:
        raise InvalidError.at("/at", str(bad), "unreadable") from bad
    interval = Interval(Unit(asked.unit), asked.step, frozenset(asked.weekdays), asked.nth)
    dates = resolved_times(Run(data.first, at, interval), context.zone)
    skip, found = set(data.skip), {}
    wanted = sorted({row.number for row in rows})
    for number in wanted:
        for one in dates:
            if one.wall_time.date() in skip:
                continue
            if one.instant - now > _LOOK_AHEAD:
                break
            found[number] = one
            break
    for row in rows:
        row.zone = context.zone
        one_ = found.get(row.number)
        if one_ is None:
            row.notes.append(("stops", "The run ends before this one: no such date comes in the next three years."))
            continue
        row.at = one_.instant
        if one_.kind is not WallKind.ONCE:
            row.notes.append(("clock", "The clocks change: it goes out at the time shown."))


def _apply_jitter(rows: Sequence[BatchRow], data: BatchIn, now: datetime) -> None:
    for n, row in enumerate(rows):
        if row.at is None:
            continue
        waking = Waking(row.profile.waking_from, row.profile.waking_until)
        off = apply_jitter(row.at, data.jitter, data.seed * 1_000_003 + n, row.zone, now, waking)
        row.jitter = int((off - row.at).total_seconds() // 60)
        row.at = off


def _apply_moves(rows: Sequence[BatchRow], data: BatchIn) -> None:
    """What was put elsewhere by hand stands there; it is judged like the others."""
    by_hand = {(one.post, one.asset, one.profile): one.wall_time for one in data.moved}
    for row in rows:
        post = row.item.post.pk if row.item.post else None
        wall_time = by_hand.get((post, row.item.asset, row.profile.pk))
        if wall_time is not None:
            row.at, row.jitter, row.notes = (
                resolve_wall_time(parse_wall_time(wall_time, "/moved"), row.zone).instant,
                0,
                [],
            )


def _add_notes(context: BrandContext, rows: Sequence[BatchRow], now: datetime) -> None:
    """What is to be said of each: it has passed, clashes, a day worth knowing, and what the rules say of the wording."""
    timed = [row.at for row in rows if row.at]
    if not timed:
        return
    first, last = (at.astimezone(context.zone).date() for at in (min(timed), max(timed)))
    days: dict[date, list[str]] = defaultdict(list)
    for day in almanac_days(context.brand, first, last):
        if day.kind != "observance":
            days[day.day].append(f"{day.name}{f' ({day.country})' if day.country else ''}")
    standing = _scheduled_around(context, rows, min(timed), max(timed))
    contents = [_row_content(context, row, now) for row in rows]
    known = media_facts(context.brand, contents)
    for row, content in zip(rows, contents, strict=True):
        if row.profile.pk in row.item.busy:
            row.notes.append(("stops", f"It is planned for {row.profile.handle} already."))
        if not is_usable(row.profile):
            row.notes.append(("stops", f"{row.profile.handle} must be connected first."))
        if row.at is None:
            continue
        if row.at <= now:
            row.notes.append(("stops", "That has passed."))
        others = standing[row.profile.pk]
        row.notes += _crowding_notes(row.profile, row.at, others)
        insort(others, row.at)
        row.notes += [("day", name) for name in days[row.at.astimezone(context.zone).date()]]
        found = findings_for(context.brand.pk, row.profile.network, content, known, row.profile.followers)
        row.notes += [("stops", f.message) for f in found if f.level is Level.STOPS][:1]


def _crowding_notes(profile: Profile, at: datetime, others: list[datetime]) -> list[tuple[str, str]]:
    """What stands at the same minute, or nearer than the profile wishes; `others` are in order."""
    index = bisect_left(others, at)
    near = [abs(other - at) for other in others[max(index - 1, 0) : index + 1]]
    if timedelta() in near:
        return [("clash", f"{profile.handle} has a post at that minute already.")]
    least = profile.min_gap_minutes
    if least and any(apart < timedelta(minutes=least) for apart in near):
        return [("close", f"Another post of {profile.handle} is less than {least} minutes away.")]
    return []


def _scheduled_around(
    context: BrandContext, rows: Sequence[BatchRow], first: datetime, last: datetime
) -> dict[int, list[datetime]]:
    """What stands for each profile around these days, earliest first."""
    day = timedelta(days=1)
    found: dict[int, list[datetime]] = defaultdict(list)
    there = Delivery.objects.filter(
        profile__in={row.profile.pk for row in rows},
        state__in=TAKES_A_SLOT,
        due_at__gte=first - day,
        due_at__lt=last + day,
    )
    for profile, at in there.order_by("due_at").values_list("profile_id", "due_at"):
        if at:
            found[profile].append(at)
    return found


def _row_content(context: BrandContext, row: BatchRow, now: datetime) -> Content:
    """What it would say on its day."""
    item = row.item
    if item.renderer is None:
        return Content(text=item.caption, media=(item.asset,) if item.asset else ())
    day = (row.at or now).astimezone(row.zone).date()
    return item.renderer.render(row.profile.network, row.profile.pk, row.profile.handle, day)
