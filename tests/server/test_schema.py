"""The API's own description, tried against it: whatever is asked, no answer is a server error (schemathesis)."""

import json

import pytest
import requests
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, Phase, settings
from hypothesis import strategies as st

from menudo.api import api
from menudo.posts.models import Delivery
from tests.server.conftest import post_in

schemathesis.openapi.format("time-local", st.times().map(str))
schema = schemathesis.openapi.from_dict(json.loads(json.dumps(api.get_openapi_schema(), default=str)))
quiet = settings(
    max_examples=6,
    phases=[Phase.explicit, Phase.generate],
    derandomize=True,
    suppress_health_check=list(HealthCheck),
)


@pytest.fixture
def person(world) -> Client:
    """Ines is signed in, and there is a post and a delivery with ids to be hit."""
    post = world.api()("POST", "posts", post_in(profiles=[world.profile.pk]), status=201)
    Delivery.objects.filter(post_id=post["id"]).update(headline="Moss")
    client = world.api().client
    client.raise_request_exception = False
    return client


@schema.parametrize()
@quiet
def test_whatever_is_asked_no_answer_is_a_server_error(case, person):
    if "brand" in (case.path_parameters or {}):
        case.path_parameters["brand"] = "garden"
    asked = requests.Request(**case.as_transport_kwargs(base_url="http://testserver")).prepare()
    answer = person.generic(
        asked.method,
        asked.path_url,
        asked.body or b"",
        asked.headers.get("Content-Type", "application/json"),
        headers={"If-Match": '"1"'},
    )
    assert answer.status_code < 500, f"{asked.method} {asked.path_url} {asked.body!r}: {answer.content[:400]!r}"
    if answer.status_code >= 400 and answer.status_code != 405:
        assert answer["Content-Type"] == "application/problem+json"
