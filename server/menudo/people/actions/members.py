"""Change what a person may do in a brand, and take them out of it."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict, Forbidden, Invalid, NotFound
from menudo.history.actions.record import record
from menudo.people.capabilities import ROLES, May
from menudo.people.here import Here
from menudo.people.models import Invitation, Membership
from menudo_core.signoff.grants import nobody_left, why_not_change, why_not_give


def change_member(place: Here, user: int, role: str, capabilities: list[str]) -> Membership:
    """Set a person's role and capabilities; seeing always stays. Raises Invalid, NotFound, Forbidden for what isn't one's
    own to give or take, and Conflict for the last one who manages people."""
    place.needs(May.MANAGE_PEOPLE)
    wanted = checked(role, capabilities)
    with transaction.atomic():
        members = locked_members(place.brand.pk)
        member = _permitted(place, members, user, wanted)
        before = {"role": member.role, "capabilities": member.capabilities}
        member.role, member.capabilities = role, wanted
        member.save(update_fields=["role", "capabilities"])
        _end_invitations(place, member, frozenset(wanted))
        record(place.brand.pk, place.actor, "change", "member", member.user_id, f"changed what {member.user.name} may do",
               before, {"role": role, "capabilities": wanted})  # fmt: skip
        tell(place.brand.pk, "people", member.user_id)
    return member


def remove_member(place: Here, user: int) -> None:
    """Take a person out of the brand; what they wrote stays. One may take oneself out. Raises NotFound, Forbidden, Conflict."""
    if user != place.user.pk:
        place.needs(May.MANAGE_PEOPLE)
    with transaction.atomic():
        members = locked_members(place.brand.pk)
        member = _permitted(place, members, user, None)
        record(
            place.brand.pk, place.actor, "remove", "member", user, f"took {member.user.name} out of {place.brand.name}"
        )
        _end_invitations(place, member, frozenset())
        member.delete()
        tell(place.brand.pk, "people", user)


def checked(role: str, capabilities: list[str]) -> list[str]:
    """Capabilities fit to keep. Raises Invalid."""
    if role not in ROLES:
        raise Invalid.at("/role", f"The role is one of: {', '.join(ROLES)}.")
    unknown = sorted(set(capabilities) - set(May))
    if unknown:
        raise Invalid.at("/capabilities", f"“{unknown[0][:40]}” is nothing a person can be allowed.")
    return sorted({*capabilities, May.SEE})


def locked_members(brand: int) -> dict[int, Membership]:
    """Everyone of a brand, by their person's id, locked together: two people can't take the last manager's place from each
    other, nor give away what is being taken from them."""
    rows = Membership.objects.select_for_update(of=("self",)).select_related("user").filter(brand=brand)
    return {row.user_id: row for row in rows.order_by("pk")}


def _permitted(place: Here, members: dict[int, Membership], user: int, wanted: list[str] | None) -> Membership:
    """The person, where the one who acts may set them to `wanted` (None: take them out), by what holds now."""
    if user not in members:
        raise NotFound()
    people = {id: frozenset(member.capabilities) for id, member in members.items()}
    if user != place.user.pk and May.MANAGE_PEOPLE not in people.get(place.user.pk, ()):
        raise Forbidden("You may not manage people here any more.")
    after = None if wanted is None else frozenset(wanted)
    if words := why_not_change(people, place.user.pk, user, after):
        raise Forbidden(words)
    if nobody_left(people, user, after, May.MANAGE_PEOPLE):
        name = members[user].user.name
        raise Conflict(f"{name} is the only one who manages people here. Let someone else do so first.")
    return members[user]


def _end_invitations(place: Here, member: Membership, left: frozenset[str]) -> None:
    """What somebody has invited others to do ends with their own right to it."""
    theirs = Invitation.objects.filter(brand=place.brand, by=member.user_id, accepted=None)
    over = [row for row in theirs if May.MANAGE_PEOPLE not in left or why_not_give(left, frozenset(row.capabilities))]
    for row in over:
        words = f"ended the invitation of {row.email}, which {member.user.name} may not give any more"
        record(place.brand.pk, place.actor, "take_back", "invitation", row.pk, words)
    Invitation.objects.filter(pk__in=[row.pk for row in over]).delete()
