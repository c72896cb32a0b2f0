"""Undo what was done to deliveries: put back what an entry says stood before."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from menudo.base.problems import ConflictError, NotFoundError
from menudo.base.sentences import Sentence, say
from menudo.history.models import HistoryEvent
from menudo.history.serializers import load_sentence
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision, PostStatus
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.serializers_schedule import load_stored_schedule
from menudo_core.signoff.schedule import Schedule
from menudo_core.signoff.states import DeliveryState, PostState

_UNDOABLE_STATES = {"plan", "lay", "move", "swap", "unplan", "call_off", "catch_up", "zone"}
_UNPLANNED_STATES = {DeliveryState.UNPLANNED, DeliveryState.OFF}


def undo_event(context: BrandContext, entry_id: int) -> str:
    """Put every delivery of an entry back as it stood, if none has changed since. Words that say what was undone."""
    context.require(Capability.PUBLISH)
    entry = _undoable_event(context, entry_id)
    wanted = [int(delivery_id) for delivery_id in entry.before]
    made = set(entry.after.get("made", ())) if entry.verb in ("plan", "lay") else set()
    with change_posts(context, deliveries=wanted, posts=made) as change:
        # Two who undo the same wait for each other here: the posts are locked.
        if _undoable_event(context, entry_id).undone:
            raise ConflictError(say("undo.done"))
        schedules = {}
        for item_id, kept in ((int(delivery_id), kept) for delivery_id, kept in entry.before.items()):
            row = change.deliveries.get(item_id)
            if row is None:
                raise ConflictError(_deletion_reason(context, wanted))
            schedules[item_id] = _restored_schedule(change, row, kept)
        statuses = _restored_statuses(change, schedules, made) if entry.verb in ("plan", "lay") else {}
        change.apply(Decision(schedules=schedules, statuses=statuses))
        HistoryEvent.objects.filter(pk=entry.pk).update(undone=True)
        change.record(
            "undo", entry.kind, entry.object_id, say("event.undone", what=load_sentence(entry) or entry.summary)
        )
    return f"Undone: {entry.summary}"


def _undoable_event(context: BrandContext, event_id: int) -> HistoryEvent:
    """The entry, if the person may undo it. Raises NotFoundError, ConflictError."""
    entry = HistoryEvent.objects.filter(pk=event_id, brand_id=context.brand.pk, verb__in=_UNDOABLE_STATES).first()
    if entry is None:
        raise NotFoundError()
    if entry.actor_id != context.user.pk:
        raise ConflictError(say("undo.foreign"))
    if entry.undone:
        raise ConflictError(say("undo.done"))
    return entry


def _deletion_reason(context: BrandContext, ids: list[int]) -> Sentence:
    if Delivery.objects.filter(pk__in=ids, brand=context.brand, post__deleted_at__isnull=False).exists():
        return say("undo.binned")
    return say("undo.gone")


def _restored_schedule(change: PostChange, row: Delivery, kept: Mapping[str, Any]) -> Schedule:
    """How the delivery stood. Raises ConflictError where it can't stand so any more."""
    if "profile" in kept:
        others = (d for d in change.deliveries_of(row.post) if d.pk != row.pk)
        if any(d.profile_id == kept["profile"] for d in others):
            raise ConflictError(say("undo.goes_again"))
    if row.revision != kept["revision"]:
        raise ConflictError(say("undo.changed"))
    before = load_stored_schedule(kept, change.schedule(row))
    waits = before.state is DeliveryState.PLANNED or (before.state is DeliveryState.HELD and not before.in_hand)
    if waits and before.due_at is not None and before.due_at <= change.now:
        raise ConflictError(say("undo.passed"))
    return before


def _restored_statuses(change: PostChange, schedules: Mapping[int, Schedule], made: set[int]) -> dict[int, PostStatus]:
    """Posts of which nothing is planned any more are drafts again; those made in the same step go to the bin."""
    found = {}
    for post in change.posts.values():
        rows = change.deliveries_of(post)
        if any((schedules[d.pk].state if d.pk in schedules else d.state) not in _UNPLANNED_STATES for d in rows):
            continue
        status = change.status(post)
        if post.state == PostState.UP or not change.brand.needs_signoff:
            status = replace(status, requested_at=None)
        found[post.pk] = replace(status, deleted_at=change.now if post.pk in made else status.deleted_at)
    return found
