"""Routes for notices, and the demo's mail tray."""

from datetime import datetime

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from menudo.base.problems import ERRORS, NotFound
from menudo.base.schemas import In
from menudo.notices.actions.read import read
from menudo.notices.actions.wish import wish
from menudo.notices.models import Notice, SentMail
from menudo.notices.wishes import wishes_of
from menudo_core.notices.when import KINDS

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


class WayOut(Schema):
    kind: str
    about: str
    way: str
    standard: str


class WishesOut(Schema):
    """How one is told outside the product. Times are of the wall in `zone`."""

    kinds: list[WayOut]
    zone: str
    quiet_from: str
    quiet_to: str
    digest_at: str
    phone: str
    texts: bool = Field(description="whether text messages can be sent from here")


class WishesIn(In):
    ways: dict[str, str]
    zone: str = Field(max_length=64)
    quiet_from: str = Field(default="", max_length=10)
    quiet_to: str = Field(default="", max_length=10)
    digest_at: str = Field(default="08:00", max_length=10)
    phone: str = Field(default="", max_length=40)


class MailOut(Schema):
    id: int
    way: str
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


@router.get("/notices/wishes", response=WishesOut, operation_id="noticeWishes")
def wishes(request: HttpRequest) -> WishesOut:
    """How I am told outside the product."""
    return _wishes(request.user.pk or 0)


@router.put("/notices/wishes", response={200: WishesOut, **ERRORS}, operation_id="keepNoticeWishes")
def keep_wishes(request: HttpRequest, data: WishesIn) -> WishesOut:
    """Say how I wish to be told."""
    quiet = (data.quiet_from, data.quiet_to)
    wish(request.user.pk or 0, data.ways, data.zone, quiet, data.digest_at, data.phone)
    return _wishes(request.user.pk or 0)


def _wishes(user: int) -> WishesOut:
    wished = wishes_of([user])[user]
    row = wished.row
    return WishesOut(
        kinds=[
            WayOut(kind=kind, about=about, way=wished.way(kind), standard=standard)
            for kind, (about, standard) in KINDS.items()
        ],
        zone=row.zone, quiet_from=f"{row.quiet_from:%H:%M}" if row.quiet_from else "",
        quiet_to=f"{row.quiet_to:%H:%M}" if row.quiet_to else "", digest_at=f"{row.digest_at:%H:%M}", phone=row.phone,
        texts=settings.DEMO,
    )  # fmt: skip


@router.get("/mail-tray", response={200: list[MailOut], **ERRORS}, operation_id="mailTray", auth=None)
def mail_tray(request: HttpRequest) -> list[SentMail]:
    """Mail the demo would have sent, newest first. There is none outside the demo."""
    if not settings.DEMO:
        raise NotFound()
    return list(SentMail.objects.order_by("-id")[:_SHOWN])
