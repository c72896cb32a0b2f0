"""Mark a person's notices as read."""

from menudo.base import clock
from menudo.notices.models import Notice


def mark_read(user: int, up_to: int) -> int:
    """Every notice of the person's with an id up to `up_to`. How many were unread."""
    return Notice.objects.filter(user_id=user, pk__lte=up_to, read_at=None).update(read_at=clock.now())
