"""Undo what was done to deliveries: put back what an entry says stood before."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from menudo.base.problems import Conflict, NotFound
from menudo.history.models import Entry
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.change.decision import Decision, PostStatus
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.serializers import load_stored_schedule
from menudo_core.signoff.schedule import Schedule
from menudo_core.signoff.states import DeliveryState, PostState

_CAN = {"plan", "lay", "move", "swap", "unplan", "call_off", "catch_up", "zone"}
_LOOSE = {DeliveryState.UNPLANNED, DeliveryState.OFF}


def undo(place: Here, entry_id: int) -> str:
    """Put every delivery of an entry back as it stood, if none has changed since. Words that say what was undone."""
    place.needs(May.PUBLISH)
    entry = _entry(place, entry_id)
    wanted = [int(id) for id in entry.before]
    made = set(entry.after.get("made", ())) if entry.verb in ("plan", "lay") else set()
    with change_posts(place, deliveries=wanted, posts=made) as change:
        # Two who undo the same wait for each other here: the posts are locked.
        if _entry(place, entry_id).undone:
            raise Conflict("That has been undone already.")
        schedules = {}
        for id, kept in ((int(id), kept) for id, kept in entry.before.items()):
            row = change.deliveries.get(id)
            if row is None:
                raise Conflict(_why_gone(place, wanted))
            schedules[id] = _put_back(change, row, kept)
        statuses = _posts_back(change, schedules, made) if entry.verb in ("plan", "lay") else {}
        change.apply(Decision(schedules=schedules, statuses=statuses))
        Entry.objects.filter(pk=entry.pk).update(undone=True)
        change.record("undo", entry.kind, entry.object_id, f"undid: {entry.words}")
    return f"Undone: {entry.words}"


def _entry(place: Here, id: int) -> Entry:
    """The entry, if the person may undo it. Raises NotFound, Conflict."""
    entry = Entry.objects.filter(pk=id, brand_id=place.brand.pk, verb__in=_CAN).first()
    if entry is None:
        raise NotFound()
    if entry.actor_id != place.user.pk:
        raise Conflict("Someone else did that. Undo is for what you did yourself.")
    if entry.undone:
        raise Conflict("That has been undone already.")
    return entry


def _why_gone(place: Here, ids: list[int]) -> str:
    if Delivery.objects.filter(pk__in=ids, brand=place.brand, post__binned__isnull=False).exists():
        return "Its post is in the bin since, so it can't be undone. Restore it first."
    return "It is gone since, so it can't be undone."


def _put_back(change: PostChange, row: Delivery, kept: Mapping[str, Any]) -> Schedule:
    """How the delivery stood. Raises Conflict where it can't stand so any more."""
    if "profile" in kept:
        others = (d for d in change.deliveries_of(row.post) if d.pk != row.pk)
        if any(d.profile_id == kept["profile"] for d in others):
            raise Conflict("The post goes to that profile again since, so it can't be undone.")
    if row.revision != kept["revision"]:
        raise Conflict("It has been changed or sent since, so it can't be undone.")
    before = load_stored_schedule(kept, change.schedule(row))
    waits = before.state is DeliveryState.PLANNED or (before.state is DeliveryState.HELD and not before.in_hand)
    if waits and before.due_at is not None and before.due_at <= change.now:
        raise Conflict("Its time before has passed since, so it can't be undone.")
    return before


def _posts_back(change: PostChange, schedules: Mapping[int, Schedule], made: set[int]) -> dict[int, PostStatus]:
    """Posts of which nothing is planned any more are drafts again; those made in the same step go to the bin."""
    found = {}
    for post in change.posts.values():
        rows = change.deliveries_of(post)
        if any((schedules[d.pk].state if d.pk in schedules else d.state) not in _LOOSE for d in rows):
            continue
        status = change.status(post)
        if post.state == PostState.UP or not change.brand.needs_signoff:
            status = replace(status, requested_at=None)
        found[post.pk] = replace(status, deleted_at=change.now if post.pk in made else status.deleted_at)
    return found
