"""Keep the first comment that follows a published post, and give it its job."""

import uuid
from datetime import datetime

from menudo.base.engine import defer_job
from menudo.delivery.models import FirstComment
from menudo.posts.models import Delivery


def create_comment(delivery: Delivery, text: str) -> None:
    """Keep the first comment of what has just been published, and its job; part of the caller's transaction."""
    FirstComment.objects.get_or_create(delivery=delivery, defaults={"text": text, "key": uuid.uuid4()})
    enqueue_comment(delivery.pk)


def enqueue_comment(delivery: int, at: datetime | None = None) -> None:
    defer_job("comment", "send", at, delivery=delivery)
