"""What each kind of link opens, and that it opens nothing else."""

import re

import pytest
from django.core import mail
from django.test import Client

from menudo.api import api as ninja_api
from menudo.installation.actions.issue_access_link import issue_access_link_to
from tests.server.test_trust import FORGED


@pytest.fixture
def tokens(world, settings) -> dict[str, str]:
    """A link of each kind that works, by how the addresses of its kind begin."""
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    api = world.api()

    def made(room: str, body: dict) -> str:
        return api("POST", room, body, status=201)["address"]

    api("POST", "invitations", {"email": "new@example.org", "role": "viewer", "capabilities": []}, status=201)
    invited = re.search(r"/invitation/(\S+)", mail.outbox[-1].body)
    asked = [{"network": "plaza", "kinds": ["page"]}]
    return {
        "/api/sign/": made("sign-links", {"display_name": "The director"}).rsplit("/", 1)[1],
        "/api/links/": made("links", {"display_name": "Bruno", "requested": asked}).rsplit("/", 1)[1],
        "/feeds/calendar/": made("subscriptions", {}).rsplit("/", 1)[1].removesuffix(".ics"),
        "/api/invitations/": invited[1] if invited else "",
        "/api/set-up/": issue_access_link_to("maud@example.org", by_shell=True)[0].rsplit("/", 1)[1],
    }


def test_a_link_opens_what_it_is_for_and_no_other_kind_of_link(world, tokens):
    """Every address that a link opens, with every other kind's link and with letters of one's own."""
    addresses = [("GET", "/feeds/calendar/{token}.ics"), ("GET", "/media/sign/{token}/1/thumb")] + [
        (method.upper(), re.sub(r"\{\w+_id\}", "1", path))
        for path, item in ninja_api.get_openapi_schema()["paths"].items()
        if "{token}" in path
        for method in item
    ]
    assert len(addresses) > 12
    shown = set()
    for method, address in addresses:
        own = "/api/sign/" if address.startswith("/media") else address.partition("{")[0]
        wrong = [token for kind, token in tokens.items() if kind != own]
        for token in [*wrong, tokens[own][:-1], tokens[own] + "A", "x" * 43, "..", "%00", "'"]:
            answer = Client().generic(
                method, address.replace("{token}", token), "{}", "application/json", headers=FORGED
            )
            assert answer.status_code in (404, 422, 400), (method, address, token)
        if method == "GET" and "/1" not in address:
            assert Client().get(address.replace("{token}", tokens[own])).status_code == 200, address
            shown.add(own)
    assert shown == tokens.keys()
