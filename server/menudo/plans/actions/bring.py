"""Bring a plan in: the rows chosen become posts, all of them or none."""

from collections.abc import Collection
from dataclasses import dataclass, field
from datetime import datetime

from django.db import transaction

from menudo.base import clock
from menudo.base.fetch import CantFetch
from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid, Problem
from menudo.history.actions.record import record
from menudo.labels.models import Ink, Label
from menudo.library.actions.fetch_in import fetch_in
from menudo.library.models import Asset
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.plans.matched import Matched, master_of
from menudo.plans.models import Import, ImportedRow
from menudo.plans.reading import read_plan
from menudo.posts.actions.add_deliveries import add_deliveries
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.plan import put_up, stopped_by
from menudo.posts.actions.resign import as_left, resign
from menudo.posts.actions.schedule import set_due, snapshot, write_deliveries
from menudo.posts.locking import lock_slots
from menudo.posts.models import Post, Version
from menudo.posts.times import on_day, zone_of
from menudo.profiles.standing import pauses_of
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
    before: dict[str, dict] = {}
    with transaction.atomic():
        if plans:
            lock_slots(profile.pk for m in wanted if m.row.day is not None for profile in m.profiles)
        kept = Import.objects.create(
            brand=place.brand,
            by=place.user,
            name="".join(c for c in name if c.isprintable())[-200:],
            digest=read.digest,
        )
        labels = _labels(place, wanted)
        for m in wanted:
            post = _post(place, m, labels)
            if plans:
                _plan(place, m, post, now, before)
            done.posts.append(post.pk)
            ImportedRow.objects.create(came_with=kept, brand=place.brand, line=m.row.line, mark=m.row.mark, post=post)
        done.planned = len(before)
        words = f"brought in {len(done.posts)} posts of {name[:80]}"
        done.undo = record(
            place.brand.pk, place.actor, "lay", "post", done.posts[0], words, as_left(before), {"made": done.posts}
        ).pk
        tell(place.brand.pk, "post", 0)
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


def _post(place: Here, m: Matched, labels: dict[str, Label]) -> Post:
    row = m.row
    post = Post.objects.create(
        brand=place.brand, author=place.user, title=row.title, master=master_of(m), campaign=m.campaign
    )
    post.labels.set([*m.labels, *(labels[name.casefold()] for name in m.new_labels)])
    networks = {p.network for p in m.profiles}
    Version.objects.bulk_create(
        [Version(post=post, network=n, own={"text": t}) for n, t in row.texts.items() if n in networks]
    )
    add_deliveries(place.brand.pk, [(post.pk, profile.pk) for profile in m.profiles])
    write_cards(post)
    record(place.brand.pk, place.actor, "make", "post", post.pk, f"brought in row {row.line} of a plan")
    return post


def _plan(place: Here, m: Matched, post: Post, now: datetime, before: dict) -> None:
    """Plan the deliveries of a row; a fault that shows only now undoes everything."""
    pauses = pauses_of([place.brand.pk])
    faults = []
    for delivery in post.deliveries.select_related("post", "profile", "brand").order_by("pk"):
        at, zone = m.at, m.zone
        if at is None and m.row.day is not None:
            keys = [f"label:{label.pk}" for label in post.labels.all()]
            at, zone = on_day(place, delivery.profile, m.row.day, now, keys), zone_of(place, delivery.profile)
        words = stopped_by(delivery)
        if words is None and at is None:
            words = f"{delivery.profile.handle}: that day has passed."
        if words is not None or at is None:
            faults.append(Fault(f"/rows/{m.row.line}/profiles", f"Row {m.row.line}: {words}", "left"))
            continue
        before[str(delivery.pk)] = snapshot(delivery)
        set_due(delivery, at, zone, Event.PLAN, pauses)
        # The next row that looks for a slot of this profile sees that it is taken.
        write_deliveries([delivery])
    if faults:
        raise Invalid(faults=faults)
    put_up(post, now)
    post.save(update_fields=["up_at"])
    resign(place.brand, [post.pk], place.user.pk)
