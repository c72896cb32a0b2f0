"""Laying out: which post or picture goes when to which profile, to be looked at before it is done."""

from bisect import bisect_left, insort
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from menudo.base.problems import Invalid
from menudo.calendar.bands import days_worth
from menudo.library.actions.arrange import chosen
from menudo.people.here import Here
from menudo.plans.schemas import LayIn
from menudo.posts.actions.due import read_wall
from menudo.posts.checking import facts, findings_of
from menudo.posts.models import Delivery, Post
from menudo.posts.rendering import PostRenderer
from menudo.posts.times import TAKES_A_SLOT, slots_of, taken_by, zone_of
from menudo.profiles.models import Profile
from menudo.profiles.standing import usable
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Level
from menudo_core.plans.dates import BadCell, read_time
from menudo_core.signoff.states import DeliveryState, Event, takes
from menudo_core.timing.runs import Interval, Run, Unit, resolved
from menudo_core.timing.slots import next_free, open_to
from menudo_core.timing.spread import Waking, swayed
from menudo_core.timing.walltimes import WallKind, day_bounds, resolve, wall_in

MOST_ROWS = 2000
_LOOKS = timedelta(days=3 * 366)


@dataclass
class Thing:
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
class Laid:
    """One delivery as it would be: `at` None is nowhere, and the notes say why."""

    number: int
    thing: Thing
    profile: Profile
    zone: ZoneInfo
    at: datetime | None = None
    sway: int = 0
    notes: list[tuple[str, str]] = field(default_factory=list)


def look(place: Here, data: LayIn, now: datetime) -> list[Laid]:
    """Every date that would come of it, with clashes, days and findings. Nothing is changed. Raises Invalid."""
    today = now.astimezone(place.zone).date()
    if not today - timedelta(days=366) <= data.first <= today + _LOOKS:
        raise Invalid.at("/first", "Begin within the coming three years.", "far")
    things = _things(place, data)
    rows = [Laid(n, thing, p, zone_of(place, p)) for n, thing in enumerate(things) for p in thing.profiles]
    if not rows:
        raise Invalid.at("/profiles", "Choose the profiles first: what is laid has none of its own.", "none")
    if len(rows) > MOST_ROWS:
        raise Invalid.at("/posts", f"That is {len(rows)} deliveries; {MOST_ROWS} at most in one go.", "many")
    if data.how == "slots":
        _in_slots(place, rows, data, now)
    else:
        _in_a_run(place, rows, data, now)
    if data.sway:
        _vary(rows, data, now)
    _put(rows, data)
    _note(place, rows, now)
    return rows


def _things(place: Here, data: LayIn) -> list[Thing]:
    given = {p.pk: p for p in Profile.objects.filter(brand=place.brand, pk__in=data.profiles)}
    if missing := [n for n, id in enumerate(data.profiles) if id not in given]:
        raise Invalid.at(f"/profiles/{missing[0]}", "This profile isn't one of this brand's.", "foreign")
    wanted = [given[id] for id in dict.fromkeys(data.profiles)]
    found = Post.objects.filter(brand=place.brand, pk__in=data.posts, binned__isnull=True)
    posts = {p.pk: p for p in found.select_related("campaign").prefetch_related("deliveries__profile", "labels")}
    if gone := [n for n, id in enumerate(data.posts) if id not in posts]:
        raise Invalid.at(f"/posts/{gone[0]}", "This post isn't there any more.", "gone")
    things = []
    renderers = PostRenderer.of_all(place.brand, posts.values())
    for id in dict.fromkeys(data.posts):
        post = posts[id]
        own = [d.profile for d in post.deliveries.all() if takes(DeliveryState(d.state), Event.PLAN)]
        line = next((x.strip() for x in post.master.get("text", "").splitlines() if x.strip()), "")
        media = post.master.get("media", [])
        busy = {d.profile_id for d in post.deliveries.all() if not takes(DeliveryState(d.state), Event.PLAN)}
        headline = (post.title or line)[:100]
        things.append(
            Thing(
                post, None, headline, media[0] if media else None, wanted or own, busy=busy, renderer=renderers[post.pk]
            )
        )
    for asset in chosen(place, data.assets):
        things.append(Thing(None, asset.pk, (asset.caption or asset.name)[:100], asset.pk, wanted, asset.caption))
    if not things:
        raise Invalid.at("/posts", "Choose posts or pictures to lay out.", "none")
    return things


def _in_slots(place: Here, rows: Sequence[Laid], data: LayIn, now: datetime) -> None:
    """Each profile's next free slots from the day on, in the order of the things."""
    free: dict[tuple[int, tuple[str, ...]], Iterator[datetime]] = {}
    given: dict[int, set[datetime]] = defaultdict(set)
    skip = set(data.skip)
    for row in rows:
        keys = tuple(f"label:{label.pk}" for label in row.thing.post.labels.all()) if row.thing.post else ()
        slots = open_to(slots_of(row.profile), keys)
        if not slots:
            row.notes.append(
                ("stops", f"{row.profile.handle} has no slots in its timetable. Give it some in Profiles.")
            )
            continue
        begins, _ = day_bounds(datetime.combine(data.first, time()), row.zone)
        key = (row.profile.pk, tuple(sorted({s.kept for s in slots})))
        if key not in free:
            after = max(now, begins - timedelta(seconds=1))
            free[key] = next_free(slots, taken_by(row.profile, after), after, row.zone)
        for at in free[key]:
            if at - now > _LOOKS:
                row.notes.append(("stops", "There is no free slot in the next three years."))
                break
            if at not in given[row.profile.pk] and wall_in(at, row.zone).date() not in skip:
                row.at = at
                given[row.profile.pk].add(at)
                break


def _in_a_run(place: Here, rows: Sequence[Laid], data: LayIn, now: datetime) -> None:
    """One date for each thing, one after another; the same for all its profiles, in the brand's zone."""
    asked = data.interval
    if asked is None:
        raise Invalid.at("/interval", "Say how often: every so many hours, days, weeks or months.", "missing")
    if any(not 0 <= day <= 6 for day in asked.weekdays) or asked.nth == 0:
        raise Invalid.at("/interval/weekdays", "Weekdays go from 0, Monday, to 6, Sunday.", "choice")
    try:
        at = read_time(data.at)
    except BadCell as bad:
        raise Invalid.at("/at", str(bad), "unreadable") from bad
    interval = Interval(Unit(asked.unit), asked.step, frozenset(asked.weekdays), asked.nth)
    dates = resolved(Run(data.first, at, interval), place.zone)
    skip, found = set(data.skip), {}
    wanted = sorted({row.number for row in rows})
    for number in wanted:
        for one in dates:
            if one.wall.date() in skip:
                continue
            if one.instant - now > _LOOKS:
                break
            found[number] = one
            break
    for row in rows:
        row.zone = place.zone
        one_ = found.get(row.number)
        if one_ is None:
            row.notes.append(("stops", "The run ends before this one: no such date comes in the next three years."))
            continue
        row.at = one_.instant
        if one_.kind is not WallKind.ONCE:
            row.notes.append(("clock", "The clocks change: it goes out at the time shown."))


def _vary(rows: Sequence[Laid], data: LayIn, now: datetime) -> None:
    for n, row in enumerate(rows):
        if row.at is None:
            continue
        waking = Waking(row.profile.wakes, row.profile.sleeps)
        off = swayed(row.at, data.sway, data.seed * 1_000_003 + n, row.zone, now, waking)
        row.sway = int((off - row.at).total_seconds() // 60)
        row.at = off


def _put(rows: Sequence[Laid], data: LayIn) -> None:
    """What was put elsewhere by hand stands there; it is judged like the others."""
    by_hand = {(one.post, one.asset, one.profile): one.wall for one in data.moved}
    for row in rows:
        post = row.thing.post.pk if row.thing.post else None
        wall = by_hand.get((post, row.thing.asset, row.profile.pk))
        if wall is not None:
            row.at, row.sway, row.notes = resolve(read_wall(wall, "/moved"), row.zone).instant, 0, []


def _note(place: Here, rows: Sequence[Laid], now: datetime) -> None:
    """What is to be said of each: it has passed, clashes, a day worth knowing, and what the rules say of the wording."""
    timed = [row.at for row in rows if row.at]
    if not timed:
        return
    first, last = (at.astimezone(place.zone).date() for at in (min(timed), max(timed)))
    days: dict[date, list[str]] = defaultdict(list)
    for day in days_worth(place.brand, first, last):
        if day.kind != "observance":
            days[day.day].append(f"{day.name}{f' ({day.country})' if day.country else ''}")
    standing = _standing(place, rows, min(timed), max(timed))
    contents = [_said(place, row, now) for row in rows]
    known = facts(place.brand, contents)
    for row, content in zip(rows, contents, strict=True):
        if row.profile.pk in row.thing.busy:
            row.notes.append(("stops", f"It is planned for {row.profile.handle} already."))
        if not usable(row.profile):
            row.notes.append(("stops", f"{row.profile.handle} must be connected first."))
        if row.at is None:
            continue
        if row.at <= now:
            row.notes.append(("stops", "That has passed."))
        others = standing[row.profile.pk]
        row.notes += _crowding(row.profile, row.at, others)
        insort(others, row.at)
        row.notes += [("day", name) for name in days[row.at.astimezone(place.zone).date()]]
        found = findings_of(place.brand.pk, row.profile.network, content, known, row.profile.followers)
        row.notes += [("stops", f.words) for f in found if f.level is Level.STOPS][:1]


def _crowding(profile: Profile, at: datetime, others: list[datetime]) -> list[tuple[str, str]]:
    """What stands at the same minute, or nearer than the profile wishes; `others` are in order."""
    place = bisect_left(others, at)
    near = [abs(other - at) for other in others[max(place - 1, 0) : place + 1]]
    if timedelta() in near:
        return [("clash", f"{profile.handle} has a post at that minute already.")]
    least = profile.least_minutes
    if least and any(apart < timedelta(minutes=least) for apart in near):
        return [("close", f"Another post of {profile.handle} is less than {least} minutes away.")]
    return []


def _standing(place: Here, rows: Sequence[Laid], first: datetime, last: datetime) -> dict[int, list[datetime]]:
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


def _said(place: Here, row: Laid, now: datetime) -> Content:
    """What it would say on its day."""
    thing = row.thing
    if thing.renderer is None:
        return Content(text=thing.caption, media=(thing.asset,) if thing.asset else ())
    day = (row.at or now).astimezone(row.zone).date()
    return thing.renderer.render(row.profile.network, row.profile.pk, row.profile.handle, day)
