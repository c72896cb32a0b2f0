"""Ask somebody to do something with a post, until when; and have it done."""

from zlib import crc32

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Forbidden, Invalid, NotFound
from menudo.history.actions.record import record
from menudo.notices.actions.notify import notify
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Membership
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.actions.watch import called, spot
from menudo.posts.models import Post
from menudo.talk.models import Task
from menudo_core.text.clean import unusable


def assign(place: Here, post: Post, user: int, words: str, wall: str) -> Task:
    """Ask a person of the brand; asked again, the words and the time are the new ones. `wall`: a wall time in the brand's
    zone, empty: no hurry. Raises Invalid."""
    place.needs(May.WRITE)
    member = Membership.objects.filter(brand=place.brand, user=user).select_related("user").first()
    if member is None:
        raise Invalid.at("/user", "Choose one of this brand's people.", "foreign")
    words = words.strip()
    if bad := unusable(words):
        raise Invalid.at("/words", bad)
    due = resolve_due(read_wall(wall, "/wall"), place.zone, clock.now(), "/wall").instant if wall.strip() else None
    with transaction.atomic():
        task, fresh = Task.objects.get_or_create(
            post=post, user=member.user, done_at=None, defaults={"made": clock.now(), "by": place.user}
        )
        task.words, task.due_at, task.by = words, due, place.user
        task.save()
        until = f" until {due.astimezone(place.zone):%a %-d %b, %H:%M}" if due else ""
        told = f"{place.user.name} asks you to see to {called(post)}{until}{f': {words}' if words else ''}"
        if user != place.user.pk:
            key = f"task:{task.pk}:{int(due.timestamp()) if due else 0}:{crc32(words.encode())}"
            notify([user], place.brand.pk, "task", key, told, spot(place.brand, post.pk, "talk"))
        verb = "asked" if fresh else "asked again"
        record(
            place.brand.pk,
            place.actor,
            "assign",
            "post",
            post.pk,
            f"{verb} {member.user.name} to see to {called(post)}{until}",
        )
        tell(place.brand.pk, "remarks", post.pk)
    return task


def done(place: Here, post: Post, id: int) -> Task:
    """It is done, or not wanted any more: said by who was asked, who asked, or who may edit others' posts."""
    with transaction.atomic():
        task = (
            Task.objects.select_for_update(of=("self",))
            .select_related("user")
            .filter(post=post, pk=id, done_at=None)
            .first()
        )
        if task is None:
            raise NotFound()
        if place.user.pk not in (task.user_id, task.by_id) and May.EDIT_OTHERS not in place.capabilities:
            raise Forbidden("It was asked of somebody else.")
        task.done_at = clock.now()
        task.save(update_fields=["done_at"])
        if task.by_id not in (None, place.user.pk):
            told = f"{place.user.name} has seen to {called(post)}"
            notify([task.by_id], place.brand.pk, "task", f"done:{task.pk}", told, spot(place.brand, post.pk, "talk"))
        record(place.brand.pk, place.actor, "done", "post", post.pk, f"saw to {called(post)}")
        tell(place.brand.pk, "remarks", post.pk)
    return task
