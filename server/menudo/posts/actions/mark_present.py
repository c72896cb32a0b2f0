"""Say that one has a post open, and see who else has."""

from datetime import timedelta

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.people.context import BrandContext
from menudo.people.models import User
from menudo.posts.models import Attendance, Post

_PRESENCE_TIMEOUT = timedelta(seconds=40)


def mark_present(context: BrandContext, post: Post) -> list[User]:
    """Note that the person has the post open; the others who have, in the order of their names."""
    now = clock.now()
    before = Attendance.objects.filter(post=post, user=context.user, seen_at__gt=now - _PRESENCE_TIMEOUT).exists()
    Attendance.objects.update_or_create(post=post, user=context.user, defaults={"seen_at": now})
    if not before:
        publish_change(context.brand.pk, "attendance", post.pk)
    there = Attendance.objects.filter(post=post, seen_at__gt=now - _PRESENCE_TIMEOUT).exclude(user=context.user)
    return [a.user for a in there.select_related("user").order_by("user__name")]


def mark_absent(context: BrandContext, post: Post) -> None:
    """The person has closed the post."""
    if Attendance.objects.filter(post=post, user=context.user).delete()[0]:
        publish_change(context.brand.pk, "attendance", post.pk)
