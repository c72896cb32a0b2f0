"""Change what a person may do in a brand, and take them out of it."""

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import ConflictError, ForbiddenError, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import ROLES, Capability
from menudo.people.context import BrandContext
from menudo.people.models import Invitation, Membership
from menudo_core.signoff.grants import change_refusal, grant_refusal, leaves_nobody


def change_member(context: BrandContext, user: int, role: str, capabilities: list[str]) -> Membership:
    """Set a person's role and capabilities; seeing always stays. Raises InvalidError, NotFoundError, ForbiddenError for what isn't one's
    own to give or take, and ConflictError for the last one who manages people."""
    context.require(Capability.MANAGE_PEOPLE)
    wanted = validate_grant(role, capabilities)
    with transaction.atomic():
        members = locked_members(context.brand.pk)
        member = _changeable_member(context, members, user, wanted)
        before = {"role": member.role, "capabilities": member.capabilities}
        member.role, member.capabilities = role, wanted
        member.save(update_fields=["role", "capabilities"])
        _end_invitations(context, member, frozenset(wanted))
        record_event(
            context.brand.pk,
            context.actor,
            "change",
            "member",
            member.user_id,
            say("member.changed", name=member.user.name),
            before,
            {"role": role, "capabilities": wanted},
        )
        publish_change(context.brand.pk, "people", member.user_id)
    return member


def remove_member(context: BrandContext, user: int) -> None:
    """Take a person out of the brand; what they wrote stays. One may take oneself out. Raises NotFoundError, ForbiddenError, ConflictError."""
    if user != context.user.pk:
        context.require(Capability.MANAGE_PEOPLE)
    with transaction.atomic():
        members = locked_members(context.brand.pk)
        member = _changeable_member(context, members, user, None)
        record_event(
            context.brand.pk,
            context.actor,
            "remove",
            "member",
            user,
            say("member.removed", name=member.user.name, brand=context.brand.name),
        )
        _end_invitations(context, member, frozenset())
        member.delete()
        publish_change(context.brand.pk, "people", user)


def validate_grant(role: str, capabilities: list[str]) -> list[str]:
    """Capabilities fit to keep. Raises InvalidError."""
    if role not in ROLES:
        raise InvalidError.at("/role", say("member.role", choices=", ".join(ROLES)))
    unknown = sorted(set(capabilities) - set(Capability))
    if unknown:
        raise InvalidError.at("/capabilities", say("member.capability", capability=unknown[0][:40]))
    return sorted({*capabilities, Capability.SEE})


def locked_members(brand: int) -> dict[int, Membership]:
    """Everyone of a brand, by their person's id, locked together: two people can't take the last manager's place from each
    other, nor give away what is being taken from them."""
    rows = Membership.objects.select_for_update(of=("self",)).select_related("user").filter(brand=brand)
    return {row.user_id: row for row in rows.order_by("pk")}


def _changeable_member(
    context: BrandContext, members: dict[int, Membership], user: int, wanted: list[str] | None
) -> Membership:
    """The person, where the one who acts may set them to `wanted` (None: take them out), by what holds now."""
    if user not in members:
        raise NotFoundError()
    people = {user_id: frozenset(member.capabilities) for user_id, member in members.items()}
    if user != context.user.pk and Capability.MANAGE_PEOPLE not in people.get(context.user.pk, ()):
        raise ForbiddenError(say("member.not_yours"))
    after = None if wanted is None else frozenset(wanted)
    if words := change_refusal(people, context.user.pk, user, after):
        raise ForbiddenError(words)
    if leaves_nobody(people, user, after, Capability.MANAGE_PEOPLE):
        name = members[user].user.name
        raise ConflictError(say("member.last", name=name))
    return members[user]


def _end_invitations(context: BrandContext, member: Membership, left: frozenset[str]) -> None:
    """What somebody has invited others to do ends with their own right to it."""
    theirs = Invitation.objects.filter(brand=context.brand, created_by=member.user_id, accepted_at=None)
    over = [
        row
        for row in theirs
        if Capability.MANAGE_PEOPLE not in left or grant_refusal(left, frozenset(row.capabilities))
    ]
    for row in over:
        record_event(
            context.brand.pk,
            context.actor,
            "take_back",
            "invitation",
            row.pk,
            say("invitation.ended", email=row.email, name=member.user.name),
        )
    Invitation.objects.filter(pk__in=[row.pk for row in over]).delete()
