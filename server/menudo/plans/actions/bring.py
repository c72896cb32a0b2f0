"""Bring a plan in: the rows chosen become posts, all of them or none."""

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from menudo.base import clock
from menudo.base.fetch import CantFetch
from menudo.base.problems import Fault, Invalid, Problem
from menudo.history.actions.record import entry, record_all
from menudo.labels.models import Ink, Label
from menudo.library.actions.fetch_in import fetch_in
from menudo.library.models import Asset
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.plans.matched import Matched, master_of
from menudo.plans.models import Import, ImportedRow
from menudo.plans.reading import read_plan
from menudo.posts.actions.plan import requested, stopped_by
from menudo.posts.change.decision import Decision, NewPost
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo.posts.serializers import load_content
from menudo.posts.times import on_day, zone_of
from menudo_core.networks.content import STORY, Overrides, PostContent
from menudo_core.signoff.schedule import Schedule, schedule_at
from menudo_core.signoff.states import Event

_MOST_ADDRESSES = 100


@dataclass
class Brought:
    """The posts made, how many deliveries were planned, and the entry that undoes it all."""

    posts: list[int] = field(default_factory=list)
    planned: int = 0
    undo: int | None = None


def bring(place: Here, raw: bytes, name: str, lines: Collection[int] | None, plans: bool, again: bool) -> Brought:
    """Make a post of each row of `lines` (None: every row that has no fault and wasn't brought in before).

    `plans`: planned at their times; else drafts. `again`: also rows that were brought in before. Nothing is half done:
    when a row that was asked for has a fault, Invalid names row and column of each, and nothing is kept.
    """
    place.needs(May.WRITE)
    if plans:
        place.needs(May.PUBLISH)
    now = clock.now()
    read = read_plan(place, raw, now)
    if lines is None:
        wanted = [m for m in read.rows if not m.faults and (again or not m.known)]
    else:
        wanted = [m for m in read.rows if m.row.line in lines]
    faults = [Fault(f"/rows/{m.row.line}/{f.column}", f"Row {m.row.line}: {f.words}") for m in wanted for f in m.faults]
    faults += [
        Fault(f"/rows/{m.row.line}/", f"Row {m.row.line} was brought in before.", "again")
        for m in wanted
        if m.known and not again
    ]
    if not faults and not wanted:
        faults = [Fault("/lines", "No row was chosen that can be brought in.", "none")]
    if faults:
        raise Invalid(faults=faults)
    _fetched(place, wanted)
    done = Brought()
    slots_of = [profile.pk for m in wanted if plans and m.row.day is not None for profile in m.profiles]
    with change_posts(place, slots_of=slots_of) as change:
        kept = Import.objects.create(
            brand=place.brand,
            by=place.user,
            name="".join(c for c in name if c.isprintable())[-200:],
            digest=read.digest,
        )
        labels = _labels(place, wanted)
        new = [NewPost(content_of(m, labels), [p.pk for p in m.profiles], place.user) for m in wanted]
        posts = change.create(new)
        change.apply()
        record_all(
            entry(place.brand.pk, place.actor, "make", "post", post.pk, f"brought in row {m.row.line} of a plan")
            for m, post in zip(wanted, posts, strict=True)
        )
        ImportedRow.objects.bulk_create(
            ImportedRow(came_with=kept, brand=place.brand, line=m.row.line, mark=m.row.mark, post=post)
            for m, post in zip(wanted, posts, strict=True)
        )
        schedules = _schedules(place, change, wanted, posts) if plans else {}
        statuses = {post.pk: requested(change, post) for post in posts if plans}
        change.apply(Decision(schedules=schedules, statuses=statuses))
        done.posts, done.planned = [post.pk for post in posts], len(schedules)
        words = f"brought in {len(posts)} posts of {name[:80]}"
        after = {"made": done.posts}
        done.undo = change.record("lay", "post", done.posts[0], words, undoes=schedules, after=after).pk
    return done


def _fetched(place: Here, wanted: list[Matched]) -> None:
    """Media at addresses, by the guarded client, each once; before anything is kept. Raises Invalid with every fault."""
    addresses = list(dict.fromkeys(a for m in wanted for a in m.addresses))
    if len(addresses) > _MOST_ADDRESSES:
        raise Invalid.at("/file", f"At most {_MOST_ADDRESSES} addresses of media in one go.", "many")
    found: dict[str, Asset | str] = {}
    for address in addresses:
        try:
            found[address] = fetch_in(place, address)
        except CantFetch as error:
            found[address] = str(error)
        except Problem as problem:
            found[address] = problem.words
    faults = []
    for m in wanted:
        for n, medium in enumerate(m.media):
            if not isinstance(medium, str):
                continue
            got = found[medium]
            if isinstance(got, str):
                faults.append(Fault(f"/rows/{m.row.line}/media", f"Row {m.row.line}: {medium[:80]}: {got}", "fetch"))
            else:
                m.media[n] = got
    if faults:
        raise Invalid(faults=faults)


def _labels(place: Here, wanted: list[Matched]) -> dict[str, Label]:
    """Labels that are new, made in inks one after another."""
    names = {name.casefold(): name for m in wanted for name in m.new_labels}
    inks = list(Ink)
    rows = [Label(brand=place.brand, name=n, ink=inks[i % len(inks)]) for i, n in enumerate(names.values())]
    # Somebody else may have made one of them just now: then it is theirs.
    Label.objects.bulk_create(rows, ignore_conflicts=True)
    there = {label.name.casefold(): label for label in Label.objects.filter(brand=place.brand)}
    return {key: there[key] for key in names}


def content_of(m: Matched, labels: Mapping[str, Label]) -> PostContent:
    """What a row says: a text of its own for a network is that network's version, and so is the form of a story."""
    networks = {p.network for p in m.profiles}
    form = STORY if m.row.kind == STORY else None
    versions: dict[tuple[str, int | None], Overrides] = {
        (network, None): Overrides(text=m.row.texts.get(network), form=form)
        for network in sorted(networks)
        if form is not None or network in m.row.texts
    }
    named = {label.pk for label in m.labels} | {labels[name.casefold()].pk for name in m.new_labels}
    campaign = m.campaign.pk if m.campaign else None
    return PostContent(m.row.title, load_content(master_of(m)), versions, frozenset(named), campaign)


def _schedules(
    place: Here, change: PostChange, wanted: Sequence[Matched], posts: Sequence[Post]
) -> dict[int, Schedule]:
    """When each delivery goes out, decided row by row: a slot that one takes is taken for the next. Raises Invalid with every
    fault that shows only now."""
    faults, found = [], {}
    chosen: dict[int, set[datetime]] = defaultdict(set)
    stops = stopped_by(change, [delivery for post in posts for delivery in change.deliveries_of(post)])
    for m, post in zip(wanted, posts, strict=True):
        keys = [f"label:{id}" for id in sorted(change.content(post).labels)]
        for delivery in change.deliveries_of(post):
            at, zone, profile = m.at, m.zone, delivery.profile
            if at is None and m.row.day is not None:
                at = on_day(place, profile, m.row.day, change.now, keys, chosen[profile.pk])
                zone = zone_of(place, profile)
            words = stops.get(delivery.pk)
            if words is None and at is None:
                words = f"{profile.handle}: that day has passed."
            if words is not None or at is None:
                faults.append(Fault(f"/rows/{m.row.line}/profiles", f"Row {m.row.line}: {words}", "left"))
                continue
            chosen[profile.pk].add(at)
            found[delivery.pk] = schedule_at(change.schedule(delivery), at, zone, Event.PLAN)
    if faults:
        raise Invalid(faults=faults)
    return found
