"""Send a notice's mail, once."""

from django.conf import settings
from django.core.mail import send_mail
from django.db import transaction

from menudo.base import clock
from menudo.notices.models import Notice


def mail(id: int) -> None:
    """Mail one notice. The row is locked, so that two jobs don't both send; a failure leaves it to be tried again."""
    with transaction.atomic():
        notice = (
            Notice.objects.select_for_update(of=("self",)).select_related("user").filter(pk=id, mailed_at=None).first()
        )
        if notice is None or not notice.user.is_active:
            return
        body = f"{notice.words}\n\n{settings.PUBLIC_URL}{notice.path}\n\nMenudo"
        send_mail(notice.words[:120], body, None, [notice.user.email])
        notice.mailed_at = clock.now()
        notice.save(update_fields=["mailed_at"])
