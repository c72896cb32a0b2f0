"""Send what leaves the product: a notice's mail or text message, once; and each day's digest."""

from django.conf import settings
from django.core.mail import send_mail
from django.db import transaction

from menudo.base import clock
from menudo.notices.failures import failure_boundary
from menudo.notices.models import Notice, NotificationPreferences, SentMail
from menudo.notices.preferences import preferences_of
from menudo_core.notices.timing import Channel, digest_due

_LISTED = 50


def mail_notice(notice_id: int) -> None:
    """Send one notice. The row is locked, so that two jobs don't both send; a failure leaves it to be tried again."""
    with transaction.atomic():
        notice = (
            Notice.objects.select_for_update(of=("self",), no_key=True)
            .select_related("user")
            .filter(pk=notice_id, mailed_at=None)
            .first()
        )
        if notice is None or not notice.user.is_active:
            return
        if notice.channel == Channel.TEXT:
            _send_text_message(notice)
        else:
            body = f"{notice.summary}\n\n{settings.PUBLIC_URL}{notice.path}\n\nMenudo"
            send_mail(" ".join(notice.summary.split())[:120], body, None, [notice.user.email])
        notice.mailed_at = clock.now()
        notice.save(update_fields=["mailed_at"])


def _send_text_message(notice: Notice) -> None:
    """A text message: only the demo has a stand-in for it; see wishes.Wished.way."""
    wishes = NotificationPreferences.objects.get(user=notice.user)
    SentMail.objects.create(
        channel="text", to=wishes.phone, subject="", body=f"{notice.summary} {settings.PUBLIC_URL}{notice.path}"
    )


def send_digests() -> int:
    """Mail each person whose time for it has come what was kept for their digest: one mail. How many were sent."""
    waiting = Notice.objects.filter(channel=Channel.DIGEST, mailed_at=None, user__is_active=True)
    users = sorted(set(waiting.values_list("user_id", flat=True)))
    sent = 0
    for user, wished in preferences_of(users).items():
        with failure_boundary("digests", f"person {user}"):
            if digest_due(clock.now(), wished.zone, wished.row.digest_at, wished.row.digest_sent):
                sent += _send_digest(user)
    return sent


def _send_digest(user: int) -> bool:
    with transaction.atomic():
        rows = list(
            Notice.objects.select_for_update(of=("self",), skip_locked=True, no_key=True)
            .select_related("user")
            .filter(user=user, channel=Channel.DIGEST, mailed_at=None)
            .order_by("pk")
        )
        if not rows:
            return False
        lines = [f"{row.summary}\n{settings.PUBLIC_URL}{row.path}" for row in rows[:_LISTED]]
        if len(rows) > _LISTED:
            lines.append(f"And {len(rows) - _LISTED} more: {settings.PUBLIC_URL}/waiting")
        count = f"{len(rows)} {'thing' if len(rows) == 1 else 'things'} since the last digest"
        send_mail(f"Menudo: {count}", "\n\n".join([*lines, "Menudo"]), None, [rows[0].user.email])
        Notice.objects.filter(pk__in=[row.pk for row in rows]).update(mailed_at=clock.now())
        NotificationPreferences.objects.update_or_create(user_id=user, defaults={"digest_sent": clock.now()})
    return True
