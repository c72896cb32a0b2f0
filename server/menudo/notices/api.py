"""Routes for notices, and the demo's mail tray."""

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Status

from menudo.base.open_routes import open_to_all
from menudo.base.problems import NotFoundError
from menudo.notices.actions.mark_read import mark_read
from menudo.notices.actions.save_preferences import save_preferences
from menudo.notices.models import Notice, SentMail
from menudo.notices.preferences import preferences_of
from menudo.notices.schemas import ChannelOut, MailOut, NoticeOut, NoticesOut, PreferencesIn, PreferencesOut, ReadUpToIn
from menudo_core.notices.timing import KINDS

router = Router(tags=["notices"])
_SHOWN = 60


@router.get("/notices", response=NoticesOut, operation_id="notices")
def list_notices(request: HttpRequest) -> NoticesOut:
    """What I was told, newest first."""
    mine = Notice.objects.filter(user_id=request.user.pk or 0)
    rows = [
        NoticeOut(
            id=n.pk,
            kind=n.kind,
            summary=n.summary,
            code=n.code,
            params=n.params,
            path=n.path,
            created_at=n.created_at,
            is_read=n.read_at is not None,
        )
        for n in mine.order_by("-id")[:_SHOWN]
    ]
    return NoticesOut(unread=mine.filter(read_at=None).count(), notices=rows)


@router.post("/notices/read", response={204: None}, operation_id="readNotices")
def mark_notices_read(request: HttpRequest, data: ReadUpToIn) -> Status[None]:
    """Mark my notices up to this one as read."""
    mark_read(request.user.pk or 0, data.up_to)
    return Status(204, None)


@router.get("/notices/preferences", response=PreferencesOut, operation_id="notificationPreferences")
def get_preferences(request: HttpRequest) -> PreferencesOut:
    """How I am told outside the product."""
    return _preferences_out(request.user.pk or 0)


@router.put("/notices/preferences", response=PreferencesOut, operation_id="saveNotificationPreferences")
def update_preferences(request: HttpRequest, data: PreferencesIn) -> PreferencesOut:
    """Say how I wish to be told."""
    quiet = (data.quiet_from, data.quiet_to)
    save_preferences(request.user.pk or 0, data.channels, data.zone, quiet, data.digest_at, data.phone)
    return _preferences_out(request.user.pk or 0)


def _preferences_out(user: int) -> PreferencesOut:
    wished = preferences_of([user])[user]
    row = wished.row
    return PreferencesOut(
        kinds=[
            ChannelOut(kind=kind, about=about, channel=wished.channel(kind), standard=standard)
            for kind, (about, standard) in KINDS.items()
        ],
        zone=row.zone,
        quiet_from=f"{row.quiet_from:%H:%M}" if row.quiet_from else "",
        quiet_to=f"{row.quiet_to:%H:%M}" if row.quiet_to else "",
        digest_at=f"{row.digest_at:%H:%M}",
        phone=row.phone,
        texts=settings.DEMO,
    )


@router.get("/mail-tray", response=list[MailOut], operation_id="sentMail", auth=open_to_all)
def list_sent_mail(request: HttpRequest) -> list[SentMail]:
    """Mail the demo would have sent, newest first. There is none outside the demo."""
    if not settings.DEMO:
        raise NotFoundError()
    return list(SentMail.objects.order_by("-id")[:_SHOWN])
