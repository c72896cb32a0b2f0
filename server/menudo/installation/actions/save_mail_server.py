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
from menudo.notices.mail_server import SmtpServer, saved_server, smtp_connection
from menudo.notices.models import MailServer
from menudo.people.models import User
from menudo_core.text.storable import unstorable_reason

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
        raise InvalidError.at("/password", "The server doesn't take this user and password.") from error
    except smtplib.SMTPSenderRefused as error:
        raise InvalidError.at(
            "/sender", f"The server doesn't take this sender: {_error_text(error.smtp_error)}"
        ) from error
    except smtplib.SMTPRecipientsRefused as error:
        raise ConflictError(f"The server takes no mail for {user.email}.") from error
    except (smtplib.SMTPNotSupportedError, ssl.SSLError) as error:
        raise InvalidError.at("/security", "The server doesn't speak this way. Try another.") from error
    except socket.gaierror as error:
        raise InvalidError.at("/host", f"There is no server called {server.host}.") from error
    except TimeoutError as error:
        raise InvalidError.at("/port", "The server doesn't answer there. Is the port right?") from error
    except ConnectionRefusedError as error:
        raise InvalidError.at("/port", "Nothing listens at this port of the server.") from error
    except smtplib.SMTPResponseException as error:
        raise ConflictError(f"The server said no: {error.smtp_code} {_error_text(error.smtp_error)}") from error
    except (smtplib.SMTPServerDisconnected, OSError) as error:
        raise InvalidError.at("/host", "The server broke off. Are the port and the security right?") from error


def validate_server(server: SmtpServer) -> SmtpServer:
    """With its parts tidied, and the kept password where none is typed. Raises InvalidError."""
    host, user, sender = server.host.strip(), server.user.strip(), server.sender.strip()
    faults = []
    if not host or unstorable_reason(host) or any(ch.isspace() or ch in "/@" for ch in host):
        faults.append(Fault("/host", "Write the server's name, for instance mail.example.org.", "missing"))
    if not 1 <= server.port <= 65535:
        faults.append(Fault("/port", "A port is a number from 1 to 65535; 587 is usual."))
    if server.security not in SECURITIES:
        faults.append(Fault("/security", f"One of: {', '.join(SECURITIES)}."))
    if words := unstorable_reason(user):
        faults.append(Fault("/user", words))
    try:
        validate_email(sender)
    except ValidationError:
        faults.append(Fault("/sender", "Write the address that mail comes from.", "email"))
    password, kept = server.password, saved_server()
    if not password and kept and kept.password:
        if (kept.host, kept.port, kept.user) == (host, server.port, user):
            password = kept.password
        elif user:
            # The one that is kept is never sent to another server than the one it was typed for.
            faults.append(Fault("/password", "Type the password for this server and user.", "missing"))
    if faults:
        raise InvalidError(faults=faults)
    return SmtpServer(host, server.port, server.security, user, password, sender)


def _error_text(words: bytes | str) -> str:
    return (words.decode("utf-8", "replace") if isinstance(words, bytes) else words)[:200]
