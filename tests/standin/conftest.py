"""A stand-in of its own for each file of tests, fresh for each test."""

import pytest

from tests.standins import StandIn, running


@pytest.fixture(scope="module")
def program(tmp_path_factory):
    with running(tmp_path_factory.mktemp("standin"), "http://127.0.0.1:8600/connect/back") as found:
        yield found


@pytest.fixture
def standin(program: StandIn) -> StandIn:
    program.fresh()
    return program
