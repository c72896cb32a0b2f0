"""What one person may let another do in a brand, and take from them.

One gives and takes away only what one has oneself; nobody changes somebody who may more than they; somebody always manages
people. So no chain of changes and invitations gives anyone what nobody in it had.
"""

from collections.abc import Mapping, Set


def grant_refusal(granter: Set[str], wanted: Set[str]) -> str:
    """Why somebody with `granter` may not invite another person to do `wanted`; empty: they may."""
    return "You can't let someone do what you may not do yourself." if wanted - granter else ""


def change_refusal(people: Mapping[int, Set[str]], actor: int, person: int, wanted: Set[str] | None) -> str:
    """Why `actor` may not set what `person` may do to `wanted` (None: take them out of the brand); empty: they may.

    `people`: what each of the brand may do, by id. Whether the actor manages people at all isn't asked here.
    """
    granter, present = people.get(actor, frozenset()), people.get(person, frozenset())
    if person != actor and present - granter:
        return "They may do more here than you, so you can't change what they may do."
    if person != actor or wanted is not None:
        changed = present ^ (wanted or frozenset())
        # What one has, one may always lay down.
        if changed - granter:
            return "You can give and take away only what you may do yourself."
    return ""


def leaves_nobody(people: Mapping[int, Set[str]], person: int, wanted: Set[str] | None, managing: str) -> bool:
    """Whether the change would leave nobody with the capability `managing`."""
    if managing not in people.get(person, frozenset()) or managing in (wanted or frozenset()):
        return False
    return not any(managing in may for person_id, may in people.items() if person_id != person)
