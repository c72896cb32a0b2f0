"""Change what a person may do in a brand, and take them out of it."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict, Invalid, NotFound
from menudo.history.actions.record import record
from menudo.people.capabilities import ROLES, May
from menudo.people.here import Here
from menudo.people.models import Membership


def change_member(place: Here, user: int, role: str, capabilities: list[str]) -> Membership:
    """Set a person's role and capabilities; seeing always stays. Raises Invalid, NotFound, and Conflict for the last one who manages people."""
    place.needs(May.MANAGE_PEOPLE)
    wanted = checked(role, capabilities)
    with transaction.atomic():
        member = _locked(place, user)
        _somebody_stays(place, member, wanted)
        before = {"role": member.role, "capabilities": member.capabilities}
        member.role, member.capabilities = role, wanted
        member.save(update_fields=["role", "capabilities"])
        record(place.brand.pk, place.actor, "change", "member", member.user_id, f"changed what {member.user.name} may do",
               before, {"role": role, "capabilities": wanted})  # fmt: skip
        tell(place.brand.pk, "people", member.user_id)
    return member


def remove_member(place: Here, user: int) -> None:
    """Take a person out of the brand; what they wrote stays. One may take oneself out. Raises NotFound, Conflict."""
    if user != place.user.pk:
        place.needs(May.MANAGE_PEOPLE)
    with transaction.atomic():
        member = _locked(place, user)
        _somebody_stays(place, member, [])
        record(
            place.brand.pk, place.actor, "remove", "member", user, f"took {member.user.name} out of {place.brand.name}"
        )
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


def _locked(place: Here, user: int) -> Membership:
    # All of the brand's rows are locked, so that two people can't take the last manager's place from each other.
    rows = list(Membership.objects.select_for_update(of=("self",)).select_related("user").filter(brand=place.brand))
    found = next((row for row in rows if row.user_id == user), None)
    if found is None:
        raise NotFound()
    return found


def _somebody_stays(place: Here, member: Membership, wanted: list[str]) -> None:
    if May.MANAGE_PEOPLE in wanted or May.MANAGE_PEOPLE not in member.capabilities:
        return
    others = Membership.objects.filter(brand=place.brand, capabilities__contains=[May.MANAGE_PEOPLE]).exclude(
        pk=member.pk
    )
    if not others.exists():
        raise Conflict(f"{member.user.name} is the only one who manages people here. Let someone else do so first.")
