"""Say that one has a post open, and see who else has."""

from datetime import timedelta

from menudo.base import clock
from menudo.base.live import tell
from menudo.people.here import Here
from menudo.people.models import User
from menudo.posts.models import Attendance, Post

_STAYS = timedelta(seconds=40)


def attend(place: Here, post: Post) -> list[User]:
    """Note that the person has the post open; the others who have, in the order of their names."""
    now = clock.now()
    before = Attendance.objects.filter(post=post, user=place.user, seen__gt=now - _STAYS).exists()
    Attendance.objects.update_or_create(post=post, user=place.user, defaults={"seen": now})
    if not before:
        tell(place.brand.pk, "attendance", post.pk)
    there = Attendance.objects.filter(post=post, seen__gt=now - _STAYS).exclude(user=place.user)
    return [a.user for a in there.select_related("user").order_by("user__name")]


def leave(place: Here, post: Post) -> None:
    """The person has closed the post."""
    if Attendance.objects.filter(post=post, user=place.user).delete()[0]:
        tell(place.brand.pk, "attendance", post.pk)
