"""Undo what was done to deliveries: put back what an entry says stood before."""

from datetime import datetime

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, NotFound
from menudo.history.actions.record import record
from menudo.history.models import Entry
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import put_job
from menudo.posts.actions.rehold import rehold
from menudo.posts.models import Delivery, Post
from menudo_core.signoff.states import DeliveryState, PostState

_CAN = {"plan", "move", "unplan", "call_off", "catch_up"}


def undo(place: Here, entry_id: int) -> str:
    """Put every delivery of an entry back as it stood, if none has changed since. Words that say what was undone."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        entry = Entry.objects.select_for_update().filter(pk=entry_id, brand_id=place.brand.pk, verb__in=_CAN).first()
        if entry is None:
            raise NotFound()
        if entry.actor_id != place.user.pk:
            raise Conflict("Someone else did that. Undo is for what you did yourself.")
        if entry.undone:
            raise Conflict("That has been undone already.")
        rows = Delivery.objects.select_for_update().filter(pk__in=[int(id) for id in entry.before], brand=place.brand)
        deliveries = {str(d.pk): d for d in rows.order_by("id")}
        for id, before in entry.before.items():
            _may_go_back(deliveries.get(id), before)
        for id, before in entry.before.items():
            _put_back(deliveries[id], before)
        if entry.verb == "plan":
            post = Post.objects.select_for_update().get(pk=entry.object_id)
            still = post.deliveries.exclude(state__in=[DeliveryState.UNPLANNED, DeliveryState.OFF]).exists()
            if not still and (post.state == PostState.UP or not place.brand.needs_signoff):
                post.state = PostState.DRAFT
                post.save(update_fields=["state"])
        # What it goes back to may not go out any more: a pause, a connection that ended.
        rehold(Delivery.objects.filter(pk__in=[d.pk for d in deliveries.values()]))
        entry.undone = True
        entry.save(update_fields=["undone"])
        record(place.brand.pk, place.actor, "undo", entry.kind, entry.object_id, f"undid: {entry.words}")
        tell(place.brand.pk, entry.kind, entry.object_id)
    return f"Undone: {entry.words}"


def _may_go_back(delivery: Delivery | None, before: dict) -> None:
    if delivery is None:
        raise Conflict("It is gone since, so it can't be undone.")
    if delivery.revision != before["revision"]:
        raise Conflict("It has been changed or sent since, so it can't be undone.")
    due = datetime.fromisoformat(before["due_at"]) if before["due_at"] else None
    if before["state"] == DeliveryState.PLANNED and due is not None and due <= clock.now():
        raise Conflict("Its time before has passed since, so it can't be undone.")


def _put_back(delivery: Delivery, before: dict) -> None:
    delivery.state = before["state"]
    delivery.due_at = datetime.fromisoformat(before["due_at"]) if before["due_at"] else None
    delivery.wall = datetime.fromisoformat(before["wall"]) if before["wall"] else None
    delivery.zone = before["zone"]
    delivery.reason, delivery.reason_code = before["reason"], before["reason_code"]
    delivery.held_for = before.get("held_for", "")
    delivery.revision += 1
    delivery.save()
    if delivery.state == DeliveryState.PLANNED:
        put_job(delivery)
