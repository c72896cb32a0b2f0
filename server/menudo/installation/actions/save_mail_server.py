"""Say how the installation sends mail, stop saying so, and try it."""

import smtplib
import socket
import ssl

from django.core.exceptions import ValidationError
from django.core.mail import EmailMessage
from django.core.validators import validate_email
from django.db import transaction

from menudo.base import clock
from menudo.base.problems import ConflictError, Fault, InvalidError
from menudo.base.sealing import seal
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.notices.mail_server import SmtpServer, saved_server, smtp_connection
from menudo.notices.models import MailServer
from menudo.people.models import User

SECURITIES = ("starttls", "tls", "none")


def save_mail_server(server: SmtpServer) -> None:
    """From the next mail on. An empty password is the one that is kept, for the same server and user. Raises InvalidError."""
    server = validate_server(server)
    with transaction.atomic():
        MailServer.objects.update_or_create(
            pk=1,
            defaults={
                "host": server.host,
                "port": server.port,
                "security": server.security,
                "user": server.user,
                "password": seal(server.password) if server.password else "",
                "sender": server.sender,
                "updated_at": clock.now(),
            },
        )


def delete_mail_server() -> None:
    """What the environment says counts again; where it says nothing, no mail is sent."""
    MailServer.objects.all().delete()


def send_test_mail(server: SmtpServer, user: User) -> None:
    """Send one mail to the person by that server, which isn't kept. Raises InvalidError with what went wrong at its field."""
    server = validate_server(server)
    words = "This is how mail from Menudo arrives.\n\nMenudo"
    message = EmailMessage("A mail to try it", words, server.sender, [user.email], connection=smtp_connection(server))
    try:
        message.send()
    except smtplib.SMTPAuthenticationError as error:
        raise InvalidError.at("/password", say("mail.sign_in")) from error
    except smtplib.SMTPSenderRefused as error:
        raise InvalidError.at("/sender", say("mail.sender", reason=_error_text(error.smtp_error))) from error
    except smtplib.SMTPRecipientsRefused as error:
        raise ConflictError(say("mail.recipient", email=user.email)) from error
    except (smtplib.SMTPNotSupportedError, ssl.SSLError) as error:
        raise InvalidError.at("/security", say("mail.security")) from error
    except socket.gaierror as error:
        raise InvalidError.at("/host", say("mail.no_host", host=server.host)) from error
    except TimeoutError as error:
        raise InvalidError.at("/port", say("mail.no_answer")) from error
    except ConnectionRefusedError as error:
        raise InvalidError.at("/port", say("mail.nothing_listens")) from error
    except smtplib.SMTPResponseException as error:
        raise ConflictError(
            say("mail.refused", status=error.smtp_code, reason=_error_text(error.smtp_error))
        ) from error
    except (smtplib.SMTPServerDisconnected, OSError) as error:
        raise InvalidError.at("/host", say("mail.broke_off")) from error


def validate_server(server: SmtpServer) -> SmtpServer:
    """With its parts tidied, and the kept password where none is typed. Raises InvalidError."""
    host, user, sender = server.host.strip(), server.user.strip(), server.sender.strip()
    faults = []
    if not host or storage_refusal(host) or any(ch.isspace() or ch in "/@" for ch in host):
        faults.append(Fault("/host", say("mail.hostless")))
    if not 1 <= server.port <= 65535:
        faults.append(Fault("/port", say("mail.port")))
    if server.security not in SECURITIES:
        faults.append(Fault("/security", say("mail.security_choice", choices=", ".join(SECURITIES))))
    if words := storage_refusal(user):
        faults.append(Fault("/user", words))
    try:
        validate_email(sender)
    except ValidationError:
        faults.append(Fault("/sender", say("mail.senderless")))
    password, kept = server.password, saved_server()
    if not password and kept and kept.password:
        if (kept.host, kept.port, kept.user) == (host, server.port, user):
            password = kept.password
        elif user:
            # The one that is kept is never sent to another server than the one it was typed for.
            faults.append(Fault("/password", say("mail.passwordless")))
    if faults:
        raise InvalidError(faults=faults)
    return SmtpServer(host, server.port, server.security, user, password, sender)


def _error_text(words: bytes | str) -> str:
    return (words.decode("utf-8", "replace") if isinstance(words, bytes) else words)[:200]
