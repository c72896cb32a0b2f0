"""Whether a profile's conditions are met, by what its network tells of it."""

from collections.abc import Mapping

from menudo_core.networks.sheet import Condition, ProfileKind


def unmet_conditions(kind: ProfileKind, facts: Mapping[str, str]) -> list[Condition]:
    """The conditions of `kind` that the network's facts speak against, in the sheet's order.

    A condition without a fact, or whose fact the network doesn't tell, isn't held against
    the profile: the network will say so itself when something is posted.
    """
    return [c for c in kind.conditions if c.fact and c.fact in facts and facts[c.fact] not in c.accepts]
