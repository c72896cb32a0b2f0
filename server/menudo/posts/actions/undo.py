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
from menudo.posts.actions.cards import write_all_cards
from menudo.posts.actions.rehold import rehold
from menudo.posts.actions.resign import resign
from menudo.posts.actions.schedule import write_deliveries
from menudo.posts.locking import lock_deliveries
from menudo.posts.models import Delivery, Post
from menudo_core.signoff.states import DeliveryState, PostState

_CAN = {"plan", "lay", "move", "swap", "unplan", "call_off", "catch_up", "zone"}


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
        rows = Delivery.objects.filter(pk__in=[int(id) for id in entry.before], brand=place.brand)
        binned = rows.filter(post__binned__isnull=False).exists()
        deliveries = {str(id): delivery for id, delivery in lock_deliveries(rows).items()}
        for id, before in entry.before.items():
            _may_go_back(deliveries.get(id), before, binned)
        for id, before in entry.before.items():
            _put_back(deliveries[id], before)
        write_deliveries(deliveries.values())
        if entry.verb in ("plan", "lay"):
            _posts_back(place, {d.post_id for d in deliveries.values()}, set(entry.after.get("made", ())))
        elsewhere = {d.post_id for id, d in deliveries.items() if "profile" in entry.before[id]}
        if elsewhere:
            write_all_cards(place.brand, list(Post.objects.filter(pk__in=elsewhere).select_related("campaign")))
        resign(place.brand, {d.post_id for d in deliveries.values()}, place.user.pk)
        # What it goes back to may not go out any more: a pause, a connection that ended.
        rehold(Delivery.objects.filter(pk__in=[d.pk for d in deliveries.values()]))
        entry.undone = True
        entry.save(update_fields=["undone"])
        record(place.brand.pk, place.actor, "undo", entry.kind, entry.object_id, f"undid: {entry.words}")
        tell(place.brand.pk, entry.kind, entry.object_id)
    return f"Undone: {entry.words}"


def _posts_back(place: Here, posts: set[int], made: set[int]) -> None:
    """Posts of which nothing is planned any more are drafts again; those made in the same step go to the bin."""
    for post in Post.objects.select_for_update(no_key=True).filter(pk__in=posts | made).order_by("pk"):
        if post.deliveries.exclude(state__in=[DeliveryState.UNPLANNED, DeliveryState.OFF]).exists():
            continue
        if post.state == PostState.UP or not place.brand.needs_signoff:
            post.up_at = None
        if post.pk in made:
            post.binned = clock.now()
        post.save(update_fields=["up_at", "binned"])


def _may_go_back(delivery: Delivery | None, before: dict, binned: bool) -> None:
    if delivery is None:
        raise Conflict(
            "Its post is in the bin since, so it can't be undone. Restore it first."
            if binned
            else "It is gone since, so it can't be undone."
        )
    if "profile" in before and _goes_there(delivery, before["profile"]):
        raise Conflict("The post goes to that profile again since, so it can't be undone.")
    if delivery.revision != before["revision"]:
        raise Conflict("It has been changed or sent since, so it can't be undone.")
    due = datetime.fromisoformat(before["due_at"]) if before["due_at"] else None
    if before["state"] == DeliveryState.PLANNED and due is not None and due <= clock.now():
        raise Conflict("Its time before has passed since, so it can't be undone.")


def _goes_there(delivery: Delivery, profile: int) -> bool:
    return Delivery.objects.filter(post_id=delivery.post_id, profile_id=profile).exclude(pk=delivery.pk).exists()


def _put_back(delivery: Delivery, before: dict) -> None:
    delivery.state = before["state"]
    delivery.due_at = datetime.fromisoformat(before["due_at"]) if before["due_at"] else None
    delivery.wall = datetime.fromisoformat(before["wall"]) if before["wall"] else None
    delivery.zone = before["zone"]
    delivery.reason, delivery.reason_code = before["reason"], before["reason_code"]
    delivery.held_for = before.get("held_for", "")
    if before.get("handed"):
        delivery.step = Delivery.Step.HAND
    delivery.delay, delivery.sway, delivery.seed = before.get("delay", 0), before.get("sway", 0), before.get("seed")
    was_due = before.get("was_due")
    delivery.was_due = datetime.fromisoformat(was_due) if was_due else None
    if "profile" in before:
        delivery.profile_id = before["profile"]
    delivery.revision += 1
