"""An e-mail backend for the demo: mail is kept for the mail tray, and goes nowhere."""

from collections.abc import Sequence

from django.core.mail import EmailMessage
from django.core.mail.backends.base import BaseEmailBackend

from menudo.notices.models import SentMail


class Backend(BaseEmailBackend):
    def send_messages(self, email_messages: Sequence[EmailMessage]) -> int:
        kept = [
            SentMail(to=", ".join(m.to)[:300], subject=str(m.subject)[:300], body=str(m.body)) for m in email_messages
        ]
        return len(SentMail.objects.bulk_create(kept))
