"""Fill a rota: turns come of drafts, of posts that were out, and of pictures; several wordings of one."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date

from django.db.models import Max

from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.bin_post import DELETABLE_STATES
from menudo.posts.actions.create_drafts import draft_each
from menudo.posts.actions.duplicate_post import copy_content
from menudo.posts.change.decision import Decision, NewPost, PostStatus
from menudo.posts.change.kernel import PostChange
from menudo.posts.models import Post
from menudo.rotas.actions.change_rota import change_rota
from menudo.rotas.models import Rota, Turn, Wording
from menudo_core.signoff.states import DeliveryState

_MAX_TURNS = 1000


def add_turns(context: BrandContext, rota: Rota, posts: list[int], assets: list[int]) -> int:
    """A turn more for each post and picture. How many. Raises InvalidError, at what can't be one."""
    context.require(Capability.PUBLISH)
    with change_rota(context, rota, posts) as change:
        found = _posts_by_ids(change, posts)
        require_room(rota, len(posts) + len(assets), "/posts")
        profiles = list(rota.profiles.values_list("pk", flat=True))
        made = draft_each(context, change, dict.fromkeys(assets, profiles)).values()
        turns = make_evergreen(context, change, [*found, *made])
        return insert_turns(change, rota, [Filling([post]) for post in turns])


@dataclass(frozen=True, slots=True)
class Filling:
    """What becomes a turn: its wordings, evergreen already, and its limits."""

    posts: list[Post]
    times: int | None = None
    until: date | None = None
    quotation: str = ""


def insert_turns(change: PostChange, rota: Rota, fillings: Sequence[Filling]) -> int:
    """A turn more for each, after those there are; their posts are in the change. How many."""
    last = rota.turns.aggregate(last=Max("position"))["last"] or 0
    for number, one in enumerate(fillings):
        turn = Turn.objects.create(
            rota=rota, position=last + 1 + number, times=one.times, until=one.until, quotation=one.quotation
        )
        Wording.objects.bulk_create([Wording(turn=turn, post=post, position=n) for n, post in enumerate(one.posts)])
    set_profiles(change, rota, [post for one in fillings for post in one.posts])
    count = len(fillings)
    change.record("fill_rota", "rota", rota.pk, say("rota.filled", count=count, name=rota.name))
    return count


def require_room(rota: Rota, more: int, pointer: str) -> None:
    """Raises InvalidError where so many turns more would be too many."""
    if rota.turns.count() + more > _MAX_TURNS:
        raise InvalidError.at(pointer, say("rota.many_turns", most=_MAX_TURNS))


def add_wording(context: BrandContext, rota: Rota, turn: Turn, post: int | None) -> Wording:
    """A wording more for a turn: a draft, or a copy of its last one. Raises InvalidError."""
    context.require(Capability.PUBLISH)
    last = turn.wordings.last()
    if post is None and last is None:
        raise InvalidError.at("/post", say("rota.nothing_to_copy"))
    source = post if last is None or post is not None else last.post_id
    with change_rota(context, rota, [source or 0]) as change:
        if post is not None:
            [made] = make_evergreen(context, change, _posts_by_ids(change, [post]))
        else:
            content = copy_content(change.content(change.post(source or 0)))
            [made] = change.create([NewPost(content, (), context.user, PostStatus(evergreen=True))])
        position = (turn.wordings.aggregate(last=Max("position"))["last"] or 0) + 1
        wording = Wording.objects.create(turn=turn, post=made, position=position)
        set_profiles(change, rota, [made])
        change.record("fill_rota", "rota", rota.pk, say("rota.wording_added", name=rota.name))
    return wording


def remove_turn(context: BrandContext, rota: Rota, turn: Turn, wording: int | None = None) -> None:
    """A turn, or one of its wordings, out of the rota: what it says is a draft again, what was planned of it stays."""
    context.require(Capability.PUBLISH)
    gone = turn.wordings.filter(pk=wording) if wording is not None else turn.wordings.all()
    with change_rota(context, rota, list(gone.values_list("post_id", flat=True)), binned=True) as change:
        end_evergreen(change)
        gone.delete()
        if not turn.wordings.exists():
            # Where it was fixed the rota chooses again; where a copy was made of it none is made anew.
            turn.placements.filter(filled=False).delete()
            turn.delete()
        change.record("fill_rota", "rota", rota.pk, say("rota.turn_removed", name=rota.name))


def end_evergreen(change: PostChange) -> None:
    """All posts of the change are drafts as any other again."""
    rows = change.posts.values()
    change.apply(Decision(statuses={row.pk: replace(change.status(row), evergreen=False) for row in rows}))


def reorder_turns(context: BrandContext, rota: Rota, ids: list[int]) -> None:
    """The turns in another order; those that aren't named come last, as they were."""
    context.require(Capability.PUBLISH)
    with change_rota(context, rota):
        known = list(rota.turns.values_list("pk", flat=True))
        rank = {turn_id: n for n, turn_id in enumerate(ids)}
        ordered = sorted(known, key=lambda turn_id: rank.get(turn_id, len(rank)))
        Turn.objects.bulk_update([Turn(pk=turn_id, position=n) for n, turn_id in enumerate(ordered)], ["position"])


def set_profiles(change: PostChange, rota: Rota, posts: Iterable[Post]) -> None:
    """The wordings are for the rota's profiles, so that the Bench has their columns; what is planned of them stays."""
    mine, wanted = set(rota.profiles.values_list("pk", flat=True)), {}
    for post in posts:
        rows = change.deliveries_of(post)
        there = {row.profile_id for row in rows}
        kept = mine | {row.profile_id for row in rows if row.state != DeliveryState.UNPLANNED}
        if kept != there:
            wanted[post.pk] = kept
    change.apply(Decision(profiles=wanted))


def _posts_by_ids(change: PostChange, ids: list[int]) -> list[Post]:
    """The drafts and posts named, in their order, each once. Raises InvalidError."""
    faults = [
        Fault(f"/posts/{n}", say("rota.post_foreign")) for n, post_id in enumerate(ids) if post_id not in change.posts
    ]
    faults += [
        Fault(f"/posts/{n}", say("rota.turn_already"))
        for n, post_id in enumerate(ids)
        if post_id in change.posts and change.posts[post_id].evergreen
    ]
    if faults:
        raise InvalidError(faults=faults)
    return [change.posts[post_id] for post_id in dict.fromkeys(ids)]


def make_evergreen(context: BrandContext, change: PostChange, posts: Iterable[Post]) -> list[Post]:
    """The drafts themselves; of what is planned or out a copy."""
    found, statuses = [], {}
    for post in posts:
        if any(delivery.state not in DELETABLE_STATES for delivery in change.deliveries_of(post)):
            content = copy_content(change.content(post))
            found += change.create([NewPost(content, (), context.user, PostStatus(evergreen=True))])
        else:
            statuses[post.pk] = replace(change.status(post), evergreen=True)
            found.append(post)
    change.apply(Decision(statuses=statuses))
    return found
