"""By which server mail leaves: the one set on the installation's page, else the environment's, else none."""

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass, field
from smtplib import SMTPException

import structlog
from django.conf import settings
from django.core.mail import EmailMessage, get_connection
from django.core.mail.backends.base import BaseEmailBackend
from django.core.mail.backends.smtp import EmailBackend

from menudo.base.sealing import unseal
from menudo.notices.models import MailServer

log = structlog.get_logger(__name__)


@dataclass(frozen=True, slots=True)
class SmtpServer:
    """An SMTP server. `security`: "starttls", "tls" from the start, or "none". `sender`: the address mail comes from."""

    host: str
    port: int
    security: str
    user: str
    password: str = field(repr=False)
    sender: str


class Backend(BaseEmailBackend):
    """Sends by the server that counts now. Without one nothing is sent and nothing of it is logged: mails hold secrets."""

    def send_messages(self, email_messages: Sequence[EmailMessage]) -> int:
        server = active_server()
        if server is None:
            log.warning("mail.not_sent", mails=len(email_messages))
            return 0
        for message in email_messages:
            if message.from_email == settings.DEFAULT_FROM_EMAIL:
                message.from_email = server.sender
        return smtp_connection(server).send_messages(list(email_messages)) or 0


class SmtpConnection(EmailBackend):
    """Django's, which leaves its line to a server open when that refuses the sign-in: until the garbage collector comes by."""

    def open(self) -> bool | None:
        try:
            return super().open()
        except OSError:
            with suppress(SMTPException):
                self.close()
            raise


def smtp_connection(server: SmtpServer) -> BaseEmailBackend:
    found: BaseEmailBackend = get_connection(
        "menudo.notices.mail_server.SmtpConnection",
        host=server.host,
        port=server.port,
        username=server.user,
        password=server.password,
        use_tls=server.security == "starttls",
        use_ssl=server.security == "tls",
        timeout=settings.EMAIL_TIMEOUT,
    )
    return found


def saved_server() -> SmtpServer | None:
    """The one set on the installation's page."""
    row = MailServer.objects.first()
    if row is None:
        return None
    password = unseal(row.password) if row.password else ""
    return SmtpServer(row.host, row.port, row.security, row.user, password, row.sender)


def environment_server() -> SmtpServer | None:
    if not settings.EMAIL_HOST:
        return None
    security = "tls" if settings.EMAIL_USE_SSL else "starttls"
    user, password = settings.EMAIL_HOST_USER, settings.EMAIL_HOST_PASSWORD
    return SmtpServer(settings.EMAIL_HOST, settings.EMAIL_PORT, security, user, password, settings.DEFAULT_FROM_EMAIL)


def active_server() -> SmtpServer | None:
    return saved_server() or environment_server()


def can_send_mail() -> bool:
    """Whether mail leaves this installation; in the demo, to its mail tray. Where it doesn't, links are there to copy."""
    return settings.DEMO or active_server() is not None
