"""What a person may do in a brand, and the roles that are starting points."""

from enum import StrEnum


class Capability(StrEnum):
    SEE = "see"
    WRITE = "write"
    EDIT_OTHERS = "edit_others"
    SIGN_OFF = "sign_off"
    PUBLISH = "publish"
    DELETE = "delete"
    MANAGE_PROFILES = "manage_profiles"
    MANAGE_PEOPLE = "manage_people"
    ANSWER = "answer"
    RESULTS = "results"


ROLES: dict[str, frozenset[Capability]] = {
    "coordinator": frozenset(Capability),
    "author": frozenset({Capability.SEE, Capability.WRITE, Capability.ANSWER, Capability.RESULTS}),
    "approver": frozenset(
        {Capability.SEE, Capability.WRITE, Capability.EDIT_OTHERS, Capability.SIGN_OFF, Capability.RESULTS}
    ),
    "client": frozenset(
        {Capability.SEE, Capability.WRITE, Capability.EDIT_OTHERS, Capability.SIGN_OFF, Capability.RESULTS}
    ),
    "viewer": frozenset({Capability.SEE, Capability.RESULTS}),
}
