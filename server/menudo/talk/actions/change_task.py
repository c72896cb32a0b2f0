"""Ask somebody to do something with a post, until when; and have it done."""

from zlib import crc32

from django.db import transaction

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.problems import ForbiddenError, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.notices.actions.notify import notify
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Membership
from menudo.posts.actions.enqueue_delivery import parse_wall_time, resolve_due
from menudo.posts.actions.watch import bench_path, title_of
from menudo.posts.models import Post
from menudo.talk.models import Task


def assign_task(context: BrandContext, post: Post, user: int, words: str, wall_time: str) -> Task:
    """Ask a person of the brand; asked again, the words and the time are the new ones. `wall`: a wall time in the brand's
    zone, empty: no hurry. Raises InvalidError."""
    context.require(Capability.WRITE)
    member = Membership.objects.filter(brand=context.brand, user=user).select_related("user").first()
    if member is None:
        raise InvalidError.at("/user", say("person.choose"))
    words = words.strip()
    if bad := storage_refusal(words):
        raise InvalidError.at("/summary", bad)
    due = (
        resolve_due(parse_wall_time(wall_time, "/due_wall_time"), context.zone, clock.now(), "/due_wall_time").instant
        if wall_time.strip()
        else None
    )
    with transaction.atomic():
        task, fresh = Task.objects.get_or_create(
            post=post, user=member.user, done_at=None, defaults={"created_at": clock.now(), "assigned_by": context.user}
        )
        task.summary, task.due_at, task.assigned_by = words, due, context.user
        task.save()
        until = {"until": due.astimezone(context.zone)} if due else {}
        about = {"post": title_of(post), **until}
        if user != context.user.pk:
            key = f"task:{task.pk}:{int(due.timestamp()) if due else 0}:{crc32(words.encode())}"
            asked = f"task.asked{'_until' if due else ''}"
            told = (
                say(f"{asked}_saying", name=context.user.name, words=words, **about)
                if words
                else say(asked, name=context.user.name, **about)
            )
            notify([user], context.brand.pk, "task", key, told, bench_path(context.brand, post.pk, "talk"))
        code = f"task.assigned{'' if fresh else '_again'}{'_until' if due else ''}"
        record_event(
            context.brand.pk,
            context.actor,
            "assign",
            "post",
            post.pk,
            say(code, name=member.user.name, **about),
        )
        publish_change(context.brand.pk, "remarks", post.pk)
    return task


def complete_task(context: BrandContext, post: Post, task_id: int) -> Task:
    """It is done, or not wanted any more: said by who was asked, who asked, or who may edit others' posts."""
    with transaction.atomic():
        task = (
            Task.objects.select_for_update(of=("self",))
            .select_related("user")
            .filter(post=post, pk=task_id, done_at=None)
            .first()
        )
        if task is None:
            raise NotFoundError()
        if (
            context.user.pk not in (task.user_id, task.assigned_by_id)
            and Capability.EDIT_OTHERS not in context.capabilities
        ):
            raise ForbiddenError(say("task.foreign"))
        task.done_at = clock.now()
        task.save(update_fields=["done_at"])
        if task.assigned_by_id not in (None, context.user.pk):
            message = say("task.seen_to", name=context.user.name, post=title_of(post))
            notify(
                [task.assigned_by_id],
                context.brand.pk,
                "task",
                f"done:{task.pk}",
                message,
                bench_path(context.brand, post.pk, "talk"),
            )
        record_event(context.brand.pk, context.actor, "done", "post", post.pk, say("task.done", post=title_of(post)))
        publish_change(context.brand.pk, "remarks", post.pk)
    return task
