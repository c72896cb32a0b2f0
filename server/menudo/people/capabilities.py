"""What a person may do in a brand, and the roles that are starting points."""

from enum import StrEnum


class May(StrEnum):
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


ROLES: dict[str, frozenset[May]] = {
    "coordinator": frozenset(May),
    "author": frozenset({May.SEE, May.WRITE, May.ANSWER, May.RESULTS}),
    "approver": frozenset({May.SEE, May.WRITE, May.EDIT_OTHERS, May.SIGN_OFF, May.RESULTS}),
    "client": frozenset({May.SEE, May.WRITE, May.EDIT_OTHERS, May.SIGN_OFF, May.RESULTS}),
    "viewer": frozenset({May.SEE, May.RESULTS}),
}
