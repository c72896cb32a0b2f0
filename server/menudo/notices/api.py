"""Routes for notices, and the demo's mail tray."""

from datetime import datetime

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from menudo.base.problems import ERRORS, NotFound
from menudo.base.schemas import In
from menudo.notices.actions.read import read
from menudo.notices.models import Notice, SentMail

router = Router(tags=["notices"])
_SHOWN = 60


class NoticeOut(Schema):
    id: int
    kind: str
    words: str
    path: str
    at: datetime
    read: bool


class NoticesOut(Schema):
    unread: int
    notices: list[NoticeOut]


class ReadUpToIn(In):
    up_to: int = Field(ge=1, le=2**63 - 1)


class MailOut(Schema):
    id: int
    to: str
    subject: str
    body: str
    at: datetime


@router.get("/notices", response=NoticesOut, operation_id="notices")
def notices(request: HttpRequest) -> NoticesOut:
    """What I was told, newest first."""
    mine = Notice.objects.filter(user_id=request.user.pk or 0)
    rows = [
        NoticeOut(id=n.pk, kind=n.kind, words=n.words, path=n.path, at=n.at, read=n.read_at is not None)
        for n in mine.order_by("-id")[:_SHOWN]
    ]
    return NoticesOut(unread=mine.filter(read_at=None).count(), notices=rows)


@router.post("/notices/read", response={204: None, **ERRORS}, operation_id="readNotices")
def mark_read(request: HttpRequest, data: ReadUpToIn) -> Status[None]:
    """Mark my notices up to this one as read."""
    read(request.user.pk or 0, data.up_to)
    return Status(204, None)


@router.get("/mail-tray", response={200: list[MailOut], **ERRORS}, operation_id="mailTray", auth=None)
def mail_tray(request: HttpRequest) -> list[SentMail]:
    """Mail the demo would have sent, newest first. There is none outside the demo."""
    if not settings.DEMO:
        raise NotFound()
    return list(SentMail.objects.order_by("-id")[:_SHOWN])
