"""Fill a rota: turns come of drafts, of posts that were out, and of pictures; several wordings of one."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from django.db import transaction
from django.db.models import F, Max

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.add_deliveries import add_deliveries
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.draft_from import draft_from
from menudo.posts.actions.duplicate import copy_of
from menudo.posts.models import Post
from menudo.rotas.models import Rota, Turn, Wording
from menudo_core.signoff.states import DeliveryState

_LOOSE = [DeliveryState.UNPLANNED, DeliveryState.OFF]
_MOST = 1000


def add_turns(place: Here, rota: Rota, posts: list[int], assets: list[int]) -> int:
    """A turn more for each post and picture. How many. Raises Invalid, at what can't be one."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        found = _posts(place, posts)
        room_for(rota, len(posts) + len(assets), "/posts")
        made = draft_from(place, assets, list(rota.profiles.values_list("pk", flat=True))) if assets else []
        return put_in(place, rota, [Filling([_evergreen(place, post)]) for post in [*found, *made]])


@dataclass(frozen=True, slots=True)
class Filling:
    """What becomes a turn: its wordings, evergreen already, and its limits."""

    posts: list[Post]
    times: int | None = None
    until: date | None = None
    quotation: str = ""


def put_in(place: Here, rota: Rota, fillings: Sequence[Filling]) -> int:
    """A turn more for each, after those there are; part of the caller's transaction. How many."""
    last = rota.turns.aggregate(last=Max("position"))["last"] or 0
    for number, one in enumerate(fillings):
        turn = Turn.objects.create(
            rota=rota, position=last + 1 + number, times=one.times, until=one.until, quotation=one.quotation
        )
        Wording.objects.bulk_create([Wording(turn=turn, post=post, position=n) for n, post in enumerate(one.posts)])
    for_its_profiles(rota, [post for one in fillings for post in one.posts])
    count = len(fillings)
    words = f"put {count} turn{'' if count == 1 else 's'} into {rota.name}"
    record(place.brand.pk, place.actor, "fill_rota", "rota", rota.pk, words)
    _changed(rota)
    return count


def room_for(rota: Rota, more: int, pointer: str) -> None:
    """Raises Invalid where so many turns more would be too many."""
    if rota.turns.count() + more > _MOST:
        raise Invalid.at(pointer, f"A rota has {_MOST} turns at most.", "many")


def add_wording(place: Here, rota: Rota, turn: Turn, post: int | None) -> Wording:
    """A wording more for a turn: a draft, or a copy of its last one. Raises Invalid."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        if post is not None:
            made = _evergreen(place, _posts(place, [post])[0])
        else:
            last = turn.wordings.select_related("post").last()
            if last is None:
                raise Invalid.at("/post", "There is nothing to copy. Choose a draft.", "none")
            made = copy_of(last.post, place.user, last.post.title)
            made.evergreen = True
            made.save(update_fields=["evergreen"])
        position = (turn.wordings.aggregate(last=Max("position"))["last"] or 0) + 1
        wording = Wording.objects.create(turn=turn, post=made, position=position)
        for_its_profiles(rota, Post.objects.filter(pk=made.pk))
        record(place.brand.pk, place.actor, "fill_rota", "rota", rota.pk, f"gave a turn of {rota.name} another wording")
        _changed(rota)
    return wording


def take_out(place: Here, rota: Rota, turn: Turn, wording: int | None = None) -> None:
    """A turn, or one of its wordings, out of the rota: what it says is a draft again, what was planned of it stays."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        gone = turn.wordings.filter(pk=wording) if wording is not None else turn.wordings.all()
        Post.objects.filter(wording__in=gone).update(evergreen=False)
        gone.delete()
        if not turn.wordings.exists():
            # Where it was fixed the rota chooses again; where a copy was made of it none is made anew.
            turn.places.filter(done=False).delete()
            turn.delete()
        record(place.brand.pk, place.actor, "fill_rota", "rota", rota.pk, f"took a turn out of {rota.name}")
        _changed(rota)


def put_in_order(place: Here, rota: Rota, ids: list[int]) -> None:
    """The turns in another order; those that aren't named come last, as they were."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        known = list(rota.turns.values_list("pk", flat=True))
        rank = {id: n for n, id in enumerate(ids)}
        ordered = sorted(known, key=lambda id: rank.get(id, len(rank)))
        Turn.objects.bulk_update([Turn(pk=id, position=n) for n, id in enumerate(ordered)], ["position"])
        _changed(rota)


def for_its_profiles(rota: Rota, posts: Iterable[Post]) -> None:
    """The wordings are for the rota's profiles, so that the Bench has their columns."""
    profiles = set(rota.profiles.values_list("pk", flat=True))
    for post in posts:
        there = set(post.deliveries.values_list("profile_id", flat=True))
        post.deliveries.filter(state=DeliveryState.UNPLANNED).exclude(profile__in=profiles).delete()
        add_deliveries(rota.brand_id, [(post.pk, id) for id in sorted(profiles - there)])
        write_cards(post)


def _posts(place: Here, ids: list[int]) -> list[Post]:
    rows = Post.objects.select_for_update().filter(brand=place.brand, pk__in=ids, binned__isnull=True).order_by("pk")
    found = {post.pk: post for post in rows}
    faults = [
        Fault(f"/posts/{n}", "It is no post of this brand's any more.", "foreign")
        for n, id in enumerate(ids)
        if id not in found
    ]
    faults += [
        Fault(f"/posts/{n}", "It is a turn of a rota already.", "twice")
        for n, id in enumerate(ids)
        if id in found and found[id].evergreen
    ]
    if faults:
        raise Invalid(faults=faults)
    return [found[id] for id in dict.fromkeys(ids)]


def _evergreen(place: Here, post: Post) -> Post:
    """The draft itself; of what is planned or out a copy."""
    if post.deliveries.exclude(state__in=_LOOSE).exists():
        post = copy_of(post, place.user, post.title)
    post.evergreen = True
    post.save(update_fields=["evergreen"])
    return post


def _changed(rota: Rota) -> None:
    Rota.objects.filter(pk=rota.pk).update(revision=F("revision") + 1)
    tell(rota.brand_id, "rota", rota.pk)
