"""Fill a rota: turns come of drafts, of posts that were out, and of pictures; several wordings of one."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date

from django.db.models import Max

from menudo.base.problems import Fault, Invalid
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.bin import LOOSE
from menudo.posts.actions.draft_from import draft_all
from menudo.posts.actions.duplicate import copied
from menudo.posts.change.decision import Decision, NewPost, PostStatus
from menudo.posts.change.kernel import PostChange
from menudo.posts.models import Post
from menudo.rotas.actions.change_rota import change_rota
from menudo.rotas.models import Rota, Turn, Wording
from menudo_core.signoff.states import DeliveryState

_MOST = 1000


def add_turns(place: Here, rota: Rota, posts: list[int], assets: list[int]) -> int:
    """A turn more for each post and picture. How many. Raises Invalid, at what can't be one."""
    place.needs(May.PUBLISH)
    with change_rota(place, rota, posts) as change:
        found = _posts(change, posts)
        room_for(rota, len(posts) + len(assets), "/posts")
        profiles = list(rota.profiles.values_list("pk", flat=True))
        made = draft_all(place, change, dict.fromkeys(assets, profiles)).values()
        turns = make_evergreen(place, change, [*found, *made])
        return put_in(change, rota, [Filling([post]) for post in turns])


@dataclass(frozen=True, slots=True)
class Filling:
    """What becomes a turn: its wordings, evergreen already, and its limits."""

    posts: list[Post]
    times: int | None = None
    until: date | None = None
    quotation: str = ""


def put_in(change: PostChange, rota: Rota, fillings: Sequence[Filling]) -> int:
    """A turn more for each, after those there are; their posts are in the change. How many."""
    last = rota.turns.aggregate(last=Max("position"))["last"] or 0
    for number, one in enumerate(fillings):
        turn = Turn.objects.create(
            rota=rota, position=last + 1 + number, times=one.times, until=one.until, quotation=one.quotation
        )
        Wording.objects.bulk_create([Wording(turn=turn, post=post, position=n) for n, post in enumerate(one.posts)])
    set_profiles(change, rota, [post for one in fillings for post in one.posts])
    count = len(fillings)
    words = f"put {count} turn{'' if count == 1 else 's'} into {rota.name}"
    change.record("fill_rota", "rota", rota.pk, words)
    return count


def room_for(rota: Rota, more: int, pointer: str) -> None:
    """Raises Invalid where so many turns more would be too many."""
    if rota.turns.count() + more > _MOST:
        raise Invalid.at(pointer, f"A rota has {_MOST} turns at most.", "many")


def add_wording(place: Here, rota: Rota, turn: Turn, post: int | None) -> Wording:
    """A wording more for a turn: a draft, or a copy of its last one. Raises Invalid."""
    place.needs(May.PUBLISH)
    last = turn.wordings.last()
    if post is None and last is None:
        raise Invalid.at("/post", "There is nothing to copy. Choose a draft.", "none")
    source = post if last is None or post is not None else last.post_id
    with change_rota(place, rota, [source or 0]) as change:
        if post is not None:
            [made] = make_evergreen(place, change, _posts(change, [post]))
        else:
            content = copied(change.content(change.post(source or 0)))
            [made] = change.create([NewPost(content, (), place.user, PostStatus(evergreen=True))])
        position = (turn.wordings.aggregate(last=Max("position"))["last"] or 0) + 1
        wording = Wording.objects.create(turn=turn, post=made, position=position)
        set_profiles(change, rota, [made])
        change.record("fill_rota", "rota", rota.pk, f"gave a turn of {rota.name} another wording")
    return wording


def take_out(place: Here, rota: Rota, turn: Turn, wording: int | None = None) -> None:
    """A turn, or one of its wordings, out of the rota: what it says is a draft again, what was planned of it stays."""
    place.needs(May.PUBLISH)
    gone = turn.wordings.filter(pk=wording) if wording is not None else turn.wordings.all()
    with change_rota(place, rota, list(gone.values_list("post_id", flat=True)), binned=True) as change:
        end_evergreen(change)
        gone.delete()
        if not turn.wordings.exists():
            # Where it was fixed the rota chooses again; where a copy was made of it none is made anew.
            turn.places.filter(done=False).delete()
            turn.delete()
        change.record("fill_rota", "rota", rota.pk, f"took a turn out of {rota.name}")


def end_evergreen(change: PostChange) -> None:
    """All posts of the change are drafts as any other again."""
    rows = change.posts.values()
    change.apply(Decision(statuses={row.pk: replace(change.status(row), evergreen=False) for row in rows}))


def put_in_order(place: Here, rota: Rota, ids: list[int]) -> None:
    """The turns in another order; those that aren't named come last, as they were."""
    place.needs(May.PUBLISH)
    with change_rota(place, rota):
        known = list(rota.turns.values_list("pk", flat=True))
        rank = {id: n for n, id in enumerate(ids)}
        ordered = sorted(known, key=lambda id: rank.get(id, len(rank)))
        Turn.objects.bulk_update([Turn(pk=id, position=n) for n, id in enumerate(ordered)], ["position"])


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


def _posts(change: PostChange, ids: list[int]) -> list[Post]:
    """The drafts and posts named, in their order, each once. Raises Invalid."""
    faults = [
        Fault(f"/posts/{n}", "It is no post of this brand's any more.", "foreign")
        for n, id in enumerate(ids)
        if id not in change.posts
    ]
    faults += [
        Fault(f"/posts/{n}", "It is a turn of a rota already.", "twice")
        for n, id in enumerate(ids)
        if id in change.posts and change.posts[id].evergreen
    ]
    if faults:
        raise Invalid(faults=faults)
    return [change.posts[id] for id in dict.fromkeys(ids)]


def make_evergreen(place: Here, change: PostChange, posts: Iterable[Post]) -> list[Post]:
    """The drafts themselves; of what is planned or out a copy."""
    found, statuses = [], {}
    for post in posts:
        if any(delivery.state not in LOOSE for delivery in change.deliveries_of(post)):
            content = copied(change.content(post))
            found += change.create([NewPost(content, (), place.user, PostStatus(evergreen=True))])
        else:
            statuses[post.pk] = replace(change.status(post), evergreen=True)
            found.append(post)
    change.apply(Decision(statuses=statuses))
    return found
