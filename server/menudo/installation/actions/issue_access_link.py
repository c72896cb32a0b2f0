"""Offer a one-time address into the installation."""

from datetime import timedelta

import structlog
from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import connection, transaction

from menudo.base import clock
from menudo.base.problems import ConflictError, InvalidError
from menudo.base.sentences import say
from menudo.base.tokens import hash_token, new_token
from menudo.installation.models import AccessLink
from menudo.people.models import User

LINK_LIFETIME = timedelta(hours=24)
log = structlog.get_logger(__name__)


def issue_setup_link() -> str:
    """The address where the first person makes their account; the one offered before leads nowhere any more. Raises ConflictError
    when somebody has an account."""
    with transaction.atomic():
        lock_access_links()
        if User.objects.exists():
            raise ConflictError(say("account.some_already"))
        return _create_link("", None, True)


def issue_access_link_to(email: str, by_shell: bool) -> tuple[str, bool]:
    """The address for a person, and whether they have an account, so that it is for one who lost access. Raises InvalidError, and
    ConflictError for somebody who has an account unless it is asked `by_shell`: whoever has that has everything."""
    email = email.strip().lower()
    try:
        validate_email(email)
    except ValidationError:
        raise InvalidError.at("/email", say("email.malformed")) from None
    with transaction.atomic():
        lock_access_links()
        user = User.objects.filter(email__iexact=email).first()
        if user and not by_shell:
            raise ConflictError(say("account.exists_here", email=email))
        return _create_link(email, user, by_shell), user is not None


def lock_access_links() -> None:
    """One at a time, until the transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(hashtext('menudo.way-in'))")


def _create_link(email: str, user: User | None, grants_installation: bool) -> str:
    now, token = clock.now(), new_token()
    AccessLink.objects.filter(email=email, used_at=None).delete()
    AccessLink.objects.filter(expires_at__lt=now - timedelta(days=30)).delete()
    row = AccessLink.objects.create(
        token_hash=hash_token(token),
        email=email,
        user=user,
        grants_installation=grants_installation,
        created_at=now,
        expires_at=now + LINK_LIFETIME,
    )
    log.info("access_link.issued", link=row.pk, lost_access=user is not None)
    return f"{settings.PUBLIC_URL}/set-up/{token}"
