"""What must hold before an app may post to a profile, as the networks themselves see it.

Judged by code of the stand-in's own, not by the sheets' conditions: where both agree, that is evidence.
"""

import json
from typing import Any

from menudo_standin.oauth import current_store

# By network and kind: the fact, what it starts as, what is good enough, and the reason given otherwise.
_BARS: dict[tuple[str, str], list[tuple[str, str, tuple[str, ...], str]]] = {
    ("brisk", "account"): [
        ("role", "owner", ("owner", "keeper"), "only the account's owner and keepers may let an app post")
    ],
    ("plaza", "page"): [
        ("role", "administrator", ("administrator",), "only administrators may let an app post to a page")
    ],
    ("plaza", "group"): [("app", "off", ("on",), "the group's administrator has not switched this app on")],
    ("vitrine", "business"): [
        ("tied_page", "none", ("administered",), "the profile is not tied to a Plaza page that you administer")
    ],
    ("guildhall", "company"): [
        (
            "role",
            "super-administrator",
            ("super-administrator",),
            "only super-administrators may let an app post to a company page",
        )
    ],
    ("cinta", "channel"): [
        ("role", "owner", ("owner", "manager"), "only the channel's owner and managers may let an app post")
    ],
    ("waypost", "location"): [
        ("verified", "no", ("yes",), "the location is not verified"),
        ("role", "owner", ("owner", "manager"), "only the listing's owner and managers may let an app post"),
    ],
}
_CHOICES = {
    "app": ("off", "on"),
    "verified": ("no", "yes"),
    "tied_page": ("none", "not administered", "administered"),
    "role": ("editor", "owner", "keeper", "manager", "administrator", "super-administrator"),
}


def profile_facts(row: Any) -> dict[str, str]:
    """What the network tells of a profile: what was set, and what it starts as."""
    start = {fact: first for fact, first, _, _ in _BARS.get((row["network"], row["kind"]), [])}
    return {**start, **json.loads(row["facts"])}


def refusal_reasons(row: Any) -> list[str]:
    """Why an app may not post to the profile; empty when it may."""
    facts = profile_facts(row)
    return [why for fact, _, good, why in _BARS.get((row["network"], row["kind"]), []) if facts[fact] not in good]


def first_refusal(network: str, uid: str) -> str:
    """The first reason why an app may not post to a profile; empty when it may."""
    row = current_store().fetch_one("SELECT * FROM profile WHERE network = ? AND uid = ?", network, uid)
    return next(iter(refusal_reasons(row)), "") if row else "no such profile"


def fact_switches(row: Any) -> list[tuple[str, str, tuple[str, ...]]]:
    """The facts that a profile's owner can change: name, present value, and the values there are."""
    facts = profile_facts(row)
    return [(fact, facts[fact], _CHOICES[fact]) for fact, _, _, _ in _BARS.get((row["network"], row["kind"]), [])]


def change_facts(network: str, uid: str, facts: dict[str, str]) -> int:
    """Set facts of a profile; how many profiles were changed (none: there is no such one)."""
    row = current_store().fetch_one("SELECT * FROM profile WHERE network = ? AND uid = ?", network, uid)
    if row is None:
        return 0
    kept = json.dumps({**json.loads(row["facts"]), **facts})
    return current_store().execute("UPDATE profile SET facts = ? WHERE network = ? AND uid = ?", kept, network, uid)
