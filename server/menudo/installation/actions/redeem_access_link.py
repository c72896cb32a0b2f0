"""Come in by a one-time address: as the first person, as a new one, or again after access was lost."""

import structlog
from allauth.account.models import EmailAddress
from allauth.mfa.models import Authenticator
from allauth.usersessions.models import UserSession
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction

from menudo.base import clock
from menudo.base.problems import Fault, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.base.tokens import hash_token
from menudo.installation.actions.issue_access_link import lock_access_links
from menudo.installation.models import AccessLink
from menudo.people.models import User

log = structlog.get_logger(__name__)


def find_access_link(token: str) -> AccessLink:
    """What the address of a token leads to. Raises NotFoundError when it leads nowhere any more."""
    row = AccessLink.objects.select_related("user").filter(token_hash=hash_token(token), used_at=None).first()
    if row is None or row.expires_at < clock.now() or (not row.email and User.objects.exists()):
        raise NotFoundError(say("access.ended"))
    return row


def redeem_access_link(token: str, name: str, email: str, password: str) -> User:
    """Make the account, or give access back; the address serves once. Raises NotFoundError, InvalidError with each fault at its field."""
    with transaction.atomic():
        lock_access_links()
        row = find_access_link(token)
        user = (
            _restore_access(row.user, password)
            if row.user
            else _create_account(row, name, row.email or email, password)
        )
        row.used_at = clock.now()
        row.save(update_fields=["used_at"])
    log.info("access_link.used", link=row.pk, user=user.pk)
    return user


def _create_account(row: AccessLink, name: str, email: str, password: str) -> User:
    name, email, faults = name.strip(), email.strip().lower(), []
    if not name or storage_refusal(name):
        faults.append(Fault("/name", storage_refusal(name) or say("person.nameless")))
    try:
        validate_email(email)
    except ValidationError:
        faults.append(Fault("/email", say("email.malformed")))
    else:
        taken = EmailAddress.objects.filter(email__iexact=email, verified=True).exists()
        if taken or User.objects.filter(email__iexact=email).exists():
            faults.append(Fault("/email", say("account.address_taken")))
    faults += _password_faults(password, User(email=email, name=name))
    if faults:
        raise InvalidError(faults=faults)
    user = User.objects.create_user(email, password, name)
    user.manages_installation = row.grants_installation
    user.save(update_fields=["manages_installation"])
    return user


def _restore_access(user: User, password: str) -> User:
    """A new password; the second factor, which may be lost with a phone, is off, and whoever was signed in isn't any more."""
    if faults := _password_faults(password, user):
        raise InvalidError(faults=faults)
    user = User.objects.select_for_update(no_key=True).get(pk=user.pk)
    user.set_password(password)
    user.is_active = True
    if not User.objects.filter(manages_installation=True, is_active=True).exists():
        user.manages_installation = True
    user.save(update_fields=["password", "is_active", "manages_installation"])
    EmailAddress.objects.filter(user=user, email__iexact=user.email).update(verified=True, primary=True)
    Authenticator.objects.filter(user=user).delete()
    for session in UserSession.objects.filter(user=user):
        session.end()
    return user


def _password_faults(password: str, user: User) -> list[Fault]:
    try:
        validate_password(password, user)
    except ValidationError as error:
        return [Fault("/password", " ".join(error.messages), "password")]
    return []
