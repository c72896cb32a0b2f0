"""Bring a plan in: the rows chosen become posts, all of them or none."""

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from menudo.base import clock
from menudo.base.fetch import FetchError
from menudo.base.problems import Fault, InvalidError, ProblemError
from menudo.base.sentences import say
from menudo.history.actions.record_event import build_event, record_events
from menudo.labels.actions.find_or_create import create_labels
from menudo.labels.models import Label
from menudo.library.actions.fetch_asset import fetch_asset
from menudo.library.models import Asset
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.plans.matched_row import MatchedRow, row_master
from menudo.plans.models import Import, ImportedRow
from menudo.plans.plan_parser import parse_plan
from menudo.posts.actions.plan_post import blocking_reasons, requested_status
from menudo.posts.change.decision import Decision, NewPost
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Post
from menudo.posts.times import free_slot_on_day, profile_zone
from menudo_core.networks.content import STORY, Overrides, PostContent
from menudo_core.signoff.schedule import Schedule, schedule_at
from menudo_core.signoff.states import Event

_MAX_ADDRESSES = 100


@dataclass
class ImportedPlan:
    """The posts made, how many deliveries were planned, and the entry that undoes it all."""

    posts: list[int] = field(default_factory=list)
    planned: int = 0
    undo: int | None = None


def import_plan(
    context: BrandContext, raw: bytes, name: str, lines: Collection[int] | None, plans: bool, again: bool
) -> ImportedPlan:
    """Make a post of each row of `lines` (None: every row that has no fault and wasn't brought in before).

    `plans`: planned at their times; else drafts. `again`: also rows that were brought in before. Nothing is half done:
    when a row that was asked for has a fault, Invalid names row and column of each, and nothing is kept.
    """
    context.require(Capability.WRITE)
    if plans:
        context.require(Capability.PUBLISH)
    now = clock.now()
    read = parse_plan(context, raw, now)
    if lines is None:
        wanted = [m for m in read.rows if not m.faults and (again or not m.known)]
    else:
        wanted = [m for m in read.rows if m.row.line in lines]
    faults = [
        Fault(f"/rows/{m.row.line}/{f.column}", say("plan.row", line=m.row.line, reason=f.message))
        for m in wanted
        for f in m.faults
    ]
    faults += [
        Fault(f"/rows/{m.row.line}/", say("plan.row_again", line=m.row.line)) for m in wanted if m.known and not again
    ]
    if not faults and not wanted:
        faults = [Fault("/lines", say("plan.no_row"))]
    if faults:
        raise InvalidError(faults=faults)
    _fetch_media(context, wanted)
    done = ImportedPlan()
    slots_of = [profile.pk for m in wanted if plans and m.row.day is not None for profile in m.profiles]
    with change_posts(context, slots_of=slots_of) as change:
        kept = Import.objects.create(
            brand=context.brand,
            created_by=context.user,
            name="".join(c for c in name if c.isprintable())[-200:],
            digest=read.digest,
        )
        labels = create_labels(context, (name for m in wanted for name in m.new_labels))
        new = [NewPost(row_content(m, labels), [p.pk for p in m.profiles], context.user) for m in wanted]
        posts = change.create(new)
        change.apply()
        record_events(
            build_event(
                context.brand.pk, context.actor, "make", "post", post.pk, say("draft.from_plan", line=m.row.line)
            )
            for m, post in zip(wanted, posts, strict=True)
        )
        ImportedRow.objects.bulk_create(
            ImportedRow(plan=kept, brand=context.brand, line=m.row.line, row_hash=m.row.mark, post=post)
            for m, post in zip(wanted, posts, strict=True)
        )
        schedules = _decide_schedules(context, change, wanted, posts) if plans else {}
        statuses = {post.pk: requested_status(change, post) for post in posts if plans}
        change.apply(Decision(schedules=schedules, statuses=statuses))
        done.posts, done.planned = [post.pk for post in posts], len(schedules)
        after = {"made": done.posts}
        done.undo = change.record(
            "lay",
            "post",
            done.posts[0],
            say("plan.imported", count=len(posts), name=name[:80]),
            undoes=schedules,
            after=after,
        ).pk
    return done


def _fetch_media(context: BrandContext, wanted: list[MatchedRow]) -> None:
    """Media at addresses, by the guarded client, each once; before anything is kept. Raises InvalidError with every fault."""
    addresses = list(dict.fromkeys(a for m in wanted for a in m.addresses))
    if len(addresses) > _MAX_ADDRESSES:
        raise InvalidError.at("/file", say("plan.many_addresses", most=_MAX_ADDRESSES))
    found: dict[str, Asset | str] = {}
    for address in addresses:
        try:
            found[address] = fetch_asset(context, address)
        except FetchError as error:
            found[address] = str(error)
        except ProblemError as problem:
            found[address] = problem.words
    faults = []
    for m in wanted:
        for n, medium in enumerate(m.media):
            if not isinstance(medium, str):
                continue
            got = found[medium]
            if isinstance(got, str):
                faults.append(
                    Fault(
                        f"/rows/{m.row.line}/media",
                        say("plan.medium", line=m.row.line, address=medium[:80], reason=got),
                    )
                )
            else:
                m.media[n] = got
    if faults:
        raise InvalidError(faults=faults)


def row_content(m: MatchedRow, labels: Mapping[str, Label]) -> PostContent:
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
    return PostContent(m.row.title, row_master(m), versions, frozenset(named), campaign)


def _decide_schedules(
    context: BrandContext, change: PostChange, wanted: Sequence[MatchedRow], posts: Sequence[Post]
) -> dict[int, Schedule]:
    """When each delivery goes out, decided row by row: a slot that one takes is taken for the next. Raises InvalidError with every
    fault that shows only now."""
    faults, found = [], {}
    chosen: dict[int, set[datetime]] = defaultdict(set)
    stops = blocking_reasons(change, [delivery for post in posts for delivery in change.deliveries_of(post)])
    for m, post in zip(wanted, posts, strict=True):
        keys = [f"label:{label_id}" for label_id in sorted(change.content(post).labels)]
        for delivery in change.deliveries_of(post):
            at, zone, profile = m.at, m.zone, delivery.profile
            if at is None and m.row.day is not None:
                at = free_slot_on_day(context, profile, m.row.day, change.now, keys, chosen[profile.pk])
                zone = profile_zone(context, profile)
            words = stops.get(delivery.pk)
            if words is None and at is None:
                words = f"{profile.handle}: that day has passed."
            if words is not None or at is None:
                faults.append(Fault(f"/rows/{m.row.line}/profiles", say("plan.row", line=m.row.line, reason=words)))
                continue
            chosen[profile.pk].add(at)
            found[delivery.pk] = schedule_at(change.schedule(delivery), at, zone, Event.PLAN)
    if faults:
        raise InvalidError(faults=faults)
    return found
