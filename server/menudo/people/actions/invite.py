"""Invite a person by e-mail, take the invitation back, and accept it."""

from datetime import timedelta

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.mail import send_mail
from django.core.validators import validate_email
from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Fault, Forbidden, Invalid, NotFound
from menudo.base.tokens import hashed, new_token
from menudo.history.actions.record import Actor, record
from menudo.notices.mail_server import can_send_mail
from menudo.people.actions.members import checked, locked_members
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Invitation, Membership, User
from menudo_core.signoff.grants import why_not_give
from menudo_core.text.clean import unusable

GOOD_FOR = timedelta(days=14)


def invite(place: Here, email: str, role: str, capabilities: list[str]) -> tuple[Invitation, str]:
    """Mail an invitation; inviting the same address again replaces the one before. Where no mail leaves, its address comes
    back, to be handed over; else none does. Raises Invalid, Forbidden, Conflict."""
    place.needs(May.MANAGE_PEOPLE)
    email = email.strip().lower()
    try:
        validate_email(email)
    except ValidationError:
        raise Invalid.at("/email", "That is not an e-mail address.", "email") from None
    wanted = checked(role, capabilities)
    if Membership.objects.filter(brand=place.brand, user__email__iexact=email).exists():
        raise Conflict(f"{email} belongs to {place.brand.name} already.")
    token = new_token()
    with transaction.atomic():
        _may_give(place, wanted)
        replaced = Invitation.objects.filter(brand=place.brand, email=email, accepted=None).first()
        if replaced is not None:
            _may_give(place, replaced.capabilities)
        row, _ = Invitation.objects.update_or_create(
            brand=place.brand, email=email, accepted=None,
            defaults={
                "role": role, "capabilities": wanted, "token_hash": hashed(token), "by": place.user, "made": clock.now(),
                "ends": clock.now() + GOOD_FOR,
            },
        )  # fmt: skip
        record(place.brand.pk, place.actor, "invite", "invitation", row.pk, f"invited {email} as {role}")
        tell(place.brand.pk, "people", 0)
        address = f"{settings.PUBLIC_URL}/invitation/{token}"
        if not can_send_mail():
            return row, address
        body = (
            f"{place.user.name} invites you to {place.brand.name} on Menudo, as {role}.\n\n{address}\n\n"
            f"The link is good for {GOOD_FOR.days} days."
        )
        try:
            send_mail(f"{place.user.name} invites you to {place.brand.name}", body, None, [email])
        except OSError as error:
            # Nothing is kept that nobody was told of.
            raise Conflict("The mail could not be sent just now, so nobody was invited. Try again.") from error
    return row, ""


def take_back(place: Here, id: int) -> None:
    """The invitation leads nowhere any more. Raises NotFound, Forbidden for one to more than one may do oneself."""
    place.needs(May.MANAGE_PEOPLE)
    with transaction.atomic():
        row = Invitation.objects.filter(brand=place.brand, pk=id, accepted=None).first()
        if row is None:
            raise NotFound()
        _may_give(place, row.capabilities)
        record(
            place.brand.pk, place.actor, "take_back", "invitation", row.pk, f"took the invitation of {row.email} back"
        )
        row.delete()
        tell(place.brand.pk, "people", 0)


def _may_give(place: Here, wanted: list[str]) -> None:
    """By what holds now, which is locked. Raises Forbidden."""
    own = locked_members(place.brand.pk).get(place.user.pk)
    if own is None or May.MANAGE_PEOPLE not in own.capabilities:
        raise Forbidden("You may not manage people here any more.")
    if words := why_not_give(frozenset(own.capabilities), frozenset(wanted)):
        raise Forbidden(words)


def open_invitation(token: str) -> Invitation:
    """The invitation of a token that is still good. Raises NotFound."""
    row = Invitation.objects.select_related("brand", "by").filter(token_hash=hashed(token), accepted=None).first()
    if row is None or row.ends < clock.now():
        raise NotFound("This invitation has ended, was taken back, or has been used. Ask for a new one.")
    return row


def accept(token: str, signed_in: User | None, name: str, password: str) -> User:
    """Join the brand: as the person who is signed in, or as a new person with a name and a password. Who joined.

    An address that has an account must sign in first: the mail alone doesn't open an account that is there.
    """
    with transaction.atomic():
        row = Invitation.objects.select_for_update(of=("self",)).get(pk=open_invitation(token).pk)
        user = signed_in or _new_person(row, name, password)
        if row.accepted is not None:
            raise NotFound()
        member, new = Membership.objects.get_or_create(
            brand=row.brand, user=user, defaults={"role": row.role, "capabilities": row.capabilities}
        )
        row.accepted = clock.now()
        row.save(update_fields=["accepted"])
        if new:
            record(
                row.brand_id,
                Actor(user.pk, user.name),
                "join",
                "member",
                user.pk,
                f"joined {row.brand.name} as {member.role}",
            )
        tell(row.brand_id, "people", user.pk)
    return user


def _new_person(row: Invitation, name: str, password: str) -> User:
    name = name.strip()
    if User.objects.filter(email__iexact=row.email).exists():
        raise Conflict(f"{row.email} has an account. Sign in with it, then accept.")
    faults = []
    if not name or unusable(name):
        faults.append(Fault("/name", unusable(name) or "Say what you are called.", "missing"))
    try:
        validate_password(password, User(email=row.email, name=name))
    except ValidationError as error:
        faults.append(Fault("/password", " ".join(error.messages), "password"))
    if faults:
        raise Invalid(faults=faults)
    # The mail came to this address, or who may manage people handed its link over: it is theirs.
    return User.objects.create_user(row.email, password, name)
