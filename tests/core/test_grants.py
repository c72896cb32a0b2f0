"""What one may let another do: the rules one by one, and that no chain of them gives anybody more than its givers had."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.signoff.grants import change_refusal, grant_refusal, leaves_nobody

ALL = ("see", "write", "publish", "delete", "manage_people")
MANAGER, AUTHOR = frozenset({"see", "write", "manage_people"}), frozenset({"see", "write"})
OWNER = frozenset(ALL)
PEOPLE = {1: OWNER, 2: MANAGER, 3: AUTHOR}


@pytest.mark.parametrize(
    ("actor", "person", "wanted", "words"),
    [
        (2, 2, OWNER, "only what you may do yourself"),
        (2, 3, OWNER, "only what you may do yourself"),
        (2, 3, MANAGER, ""),
        (2, 1, AUTHOR, "may do more here than you"),
        (2, 1, None, "may do more here than you"),
        (2, 1, OWNER, "may do more here than you"),
        (2, 3, None, ""),
        (2, 2, AUTHOR, ""),
        (3, 3, None, ""),
        (1, 2, OWNER, ""),
        (1, 2, None, ""),
    ],
)
def test_one_gives_and_takes_what_one_has_from_who_may_no_more(actor, person, wanted, words):
    found = change_refusal(PEOPLE, actor, person, wanted)
    assert words in found and bool(found) == bool(words)


def test_one_invites_to_what_one_has():
    assert grant_refusal(MANAGER, AUTHOR) == "" == grant_refusal(MANAGER, MANAGER)
    assert grant_refusal(MANAGER, AUTHOR | {"delete"})


def test_somebody_always_manages_people():
    assert leaves_nobody({2: MANAGER, 3: AUTHOR}, 2, AUTHOR, "manage_people")
    assert leaves_nobody({2: MANAGER, 3: AUTHOR}, 2, None, "manage_people")
    assert not leaves_nobody(PEOPLE, 2, None, "manage_people") and not leaves_nobody(PEOPLE, 3, None, "manage_people")


MAY = st.frozensets(st.sampled_from(ALL))
STEPS = st.lists(st.tuples(st.integers(2, 4), st.integers(1, 6), st.one_of(st.none(), MAY)), max_size=30)


@given(STEPS)
def test_no_chain_of_changes_gives_anyone_what_nobody_in_it_had(steps):
    """Everyone but the owner (1) works together, with new people (5, 6) too: what none of them had, none of them gets, and
    the owner loses nothing."""
    people = {1: OWNER, 2: MANAGER, 3: AUTHOR, 4: frozenset({"see", "publish", "manage_people"})}
    had = frozenset().union(*(may for person_id, may in people.items() if person_id != 1))
    for actor, person, wanted in steps:
        if "manage_people" not in people.get(actor, ()):
            continue
        if person in people and not change_refusal(people, actor, person, wanted):
            if leaves_nobody(people, person, wanted, "manage_people"):
                continue
            if wanted is None:
                del people[person]
            else:
                people[person] = wanted
        elif person not in people and wanted is not None and not grant_refusal(people[actor], wanted):
            people[person] = wanted
    assert people[1] == OWNER
    assert all(may <= had for person_id, may in people.items() if person_id != 1)
    assert any("manage_people" in may for may in people.values())
