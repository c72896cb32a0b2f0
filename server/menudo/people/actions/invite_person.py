"""Invite a person by e-mail, take the invitation back, and accept it."""

from datetime import timedelta

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.mail import send_mail
from django.core.validators import validate_email
from django.db import transaction

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.problems import ConflictError, Fault, ForbiddenError, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.base.tokens import hash_token, new_token
from menudo.history.actions.record_event import Actor, record_event
from menudo.notices.mail_server import can_send_mail
from menudo.people.actions.change_member import locked_members, validate_grant
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Invitation, Membership, User
from menudo_core.signoff.grants import grant_refusal

INVITATION_LIFETIME = timedelta(days=14)


def invite_person(context: BrandContext, email: str, role: str, capabilities: list[str]) -> tuple[Invitation, str]:
    """Mail an invitation; inviting the same address again replaces the one before. Where no mail leaves, its address comes
    back, to be handed over; else none does. Raises InvalidError, ForbiddenError, ConflictError."""
    context.require(Capability.MANAGE_PEOPLE)
    email = email.strip().lower()
    try:
        validate_email(email)
    except ValidationError:
        raise InvalidError.at("/email", say("email.malformed")) from None
    wanted = validate_grant(role, capabilities)
    if Membership.objects.filter(brand=context.brand, user__email__iexact=email).exists():
        raise ConflictError(say("member.belongs_already", email=email, brand=context.brand.name))
    token = new_token()
    with transaction.atomic():
        _require_grantable(context, wanted)
        replaced = Invitation.objects.filter(brand=context.brand, email=email, accepted_at=None).first()
        if replaced is not None:
            _require_grantable(context, replaced.capabilities)
        row, _ = Invitation.objects.update_or_create(
            brand=context.brand,
            email=email,
            accepted_at=None,
            defaults={
                "role": role,
                "capabilities": wanted,
                "token_hash": hash_token(token),
                "created_by": context.user,
                "created_at": clock.now(),
                "expires_at": clock.now() + INVITATION_LIFETIME,
            },
        )
        record_event(
            context.brand.pk,
            context.actor,
            "invite",
            "invitation",
            row.pk,
            say("invitation.made", email=email, role=role),
        )
        publish_change(context.brand.pk, "people", 0)
        address = f"{settings.PUBLIC_URL}/invitation/{token}"
        if not can_send_mail():
            return row, address
        body = (
            f"{context.user.name} invites you to {context.brand.name} on Menudo, as {role}.\n\n{address}\n\n"
            f"The link is good for {INVITATION_LIFETIME.days} days."
        )
        try:
            send_mail(f"{context.user.name} invites you to {context.brand.name}", body, None, [email])
        except OSError as error:
            # Nothing is kept that nobody was told of.
            raise ConflictError(say("invitation.no_mail")) from error
    return row, ""


def withdraw_invitation(context: BrandContext, invitation_id: int) -> None:
    """The invitation leads nowhere any more. Raises NotFoundError, ForbiddenError for one to more than one may do oneself."""
    context.require(Capability.MANAGE_PEOPLE)
    with transaction.atomic():
        row = Invitation.objects.filter(brand=context.brand, pk=invitation_id, accepted_at=None).first()
        if row is None:
            raise NotFoundError()
        _require_grantable(context, row.capabilities)
        record_event(
            context.brand.pk,
            context.actor,
            "take_back",
            "invitation",
            row.pk,
            say("invitation.taken_back", email=row.email),
        )
        row.delete()
        publish_change(context.brand.pk, "people", 0)


def _require_grantable(context: BrandContext, wanted: list[str]) -> None:
    """By what holds now, which is locked. Raises ForbiddenError."""
    member = locked_members(context.brand.pk).get(context.user.pk)
    if member is None or Capability.MANAGE_PEOPLE not in member.capabilities:
        raise ForbiddenError(say("member.not_yours"))
    if words := grant_refusal(frozenset(member.capabilities), frozenset(wanted)):
        raise ForbiddenError(words)


def open_invitation(token: str) -> Invitation:
    """The invitation of a token that is still good. Raises NotFoundError."""
    row = (
        Invitation.objects.select_related("brand", "created_by")
        .filter(token_hash=hash_token(token), accepted_at=None)
        .first()
    )
    if row is None or row.expires_at < clock.now():
        raise NotFoundError(say("invitation.over"))
    return row


def is_invited(row: Invitation, user: User) -> bool:
    """Whether the invitation went to this person's own address."""
    return user.email.lower() == row.email.lower()


def accept_invitation(token: str, signed_in: User | None, name: str, password: str, email: str = "") -> User:
    """Join the brand: as the person who is signed in, or as a new person with a name and a password. Who joined.

    An address that has an account must sign in first: the mail alone doesn't open an account that is there. Whoever is signed in with
    another address than the one that was invited says so with `email`, their own. Raises ConflictError, InvalidError, NotFoundError.
    """
    with transaction.atomic():
        row = Invitation.objects.select_for_update(of=("self",)).get(pk=open_invitation(token).pk)
        if row.accepted_at is not None:
            raise NotFoundError()
        user = signed_in or _create_account(row, name, password)
        if not is_invited(row, user) and user.email.lower() != email.strip().lower():
            raise ConflictError(say("invitation.other_address", email=row.email, own=user.email))
        member, new = Membership.objects.get_or_create(
            brand=row.brand, user=user, defaults={"role": row.role, "capabilities": row.capabilities}
        )
        row.accepted_at = clock.now()
        row.save(update_fields=["accepted_at"])
        if new:
            record_event(
                row.brand_id,
                Actor(user.pk, user.name),
                "join",
                "member",
                user.pk,
                say("member.joined", brand=row.brand.name, role=member.role)
                if is_invited(row, user)
                else say("member.joined_otherwise", brand=row.brand.name, role=member.role, own=user.email),
            )
        publish_change(row.brand_id, "people", user.pk)
    return user


def _create_account(row: Invitation, name: str, password: str) -> User:
    name = name.strip()
    if User.objects.filter(email__iexact=row.email).exists():
        raise ConflictError(say("invitation.has_account", email=row.email))
    faults = []
    if not name or storage_refusal(name):
        faults.append(Fault("/name", storage_refusal(name) or say("person.nameless")))
    try:
        validate_password(password, User(email=row.email, name=name))
    except ValidationError as error:
        faults.append(Fault("/password", " ".join(error.messages), "password"))
    if faults:
        raise InvalidError(faults=faults)
    # The mail came to this address, or who may manage people handed its link over: it is theirs.
    return User.objects.create_user(row.email, password, name)
