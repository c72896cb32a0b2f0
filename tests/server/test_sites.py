"""Open sites that say of their sign-in what isn't so, and sites that would know whoever reads them again."""

import threading

import httpx2
import pytest

from menudo.base.fetch import FetchError, fetch
from menudo.networks import sign_in
from menudo.networks.client import BoundedTransport, client_for, request, request_outcome, transport_for
from menudo.networks.sites import discover_site
from menudo_core.sending.decision import Outcome
from tests.server.sites import Site, running_site

HOME = b'<link rel="micropub" href="/micropub"><link rel="indieauth-metadata" href="/auth/metadata">'


@pytest.fixture
def site(settings):
    with running_site() as site:
        settings.FETCH_ALLOWED = {site.host}
        site.pages = {"/": HOME, "/auth/metadata": metadata(site)}
        yield site


def metadata(site: Site, **more: object) -> dict[str, object]:
    return {
        "issuer": f"{site.url}/auth/",
        "authorization_endpoint": f"{site.url}/auth/",
        "token_endpoint": f"{site.url}/auth/token",
        "code_challenge_methods_supported": ["S256"],
        **more,
    }


@pytest.mark.parametrize("issuer", ["{site}/auth/", "{site}/auth", "{site}/", "{site}/auth/metadata"])
def test_a_sites_metadata_may_name_an_issuer_above_them(site, issuer):
    """IndieAuth, 4.1.1: a prefix of their own address."""
    issuer = issuer.format(site=site.url)
    site.pages["/auth/metadata"] = metadata(site, issuer=issuer)
    assert discover_site(f"{site.url}/")["issuer"] == issuer


@pytest.mark.parametrize(
    "issuer",
    [
        "https://bank.example/",
        "{site}/aut",
        "{site}/auth/metadata/x",
        "{site}/auth/?a=1",
        "{site}/#a",
        "",
        "http://[",
        5,
    ],
)
def test_an_issuer_that_is_anothers_is_refused(site, issuer):
    site.pages["/auth/metadata"] = metadata(site, issuer=issuer.format(site=site.url) if isinstance(issuer, str) else 5)
    with pytest.raises(sign_in.NetworkError):
        discover_site(f"{site.url}/")


@pytest.mark.parametrize("name", ["authorization_endpoint", "token_endpoint", "revocation_endpoint"])
@pytest.mark.parametrize("address", ["javascript:alert(1)", "file:///etc/passwd", "//bank.example", "", "http://["])
def test_nobody_is_sent_anywhere_but_to_a_web_address(site, name, address):
    site.pages["/auth/metadata"] = metadata(site, **{name: address})
    with pytest.raises(sign_in.NetworkError):
        discover_site(f"{site.url}/")
    if name != "revocation_endpoint":
        links = {"authorization_endpoint": f"{site.url}/auth/", "token_endpoint": f"{site.url}/token", name: address}
        site.pages["/"] = (
            b'<link rel="micropub" href="/micropub">'
            + "".join(f'<link rel="{rel}" href="{href}">' for rel, href in links.items()).encode()
        )
        if address.startswith("//"):
            # Of the same kind as the page's: one of the web's.
            assert discover_site(f"{site.url}/")
        else:
            with pytest.raises(sign_in.NetworkError):
                discover_site(f"{site.url}/")


def test_who_says_that_their_answers_say_whose_they_are_is_held_to_it(site):
    """RFC 9207, 2.3 and 2.4."""
    assert "says_issuer" not in discover_site(f"{site.url}/")
    site.pages["/auth/metadata"] = metadata(site, authorization_response_iss_parameter_supported=True)
    assert discover_site(f"{site.url}/")["says_issuer"] == "yes"


def test_no_cookie_is_kept_of_what_is_read(site):
    site.headers["Set-Cookie"] = "who=garden; Path=/"
    for _ in range(2):
        fetch(f"{site.url}/")
    assert len(site.asked) == 2 and all("Cookie" not in asked for asked in site.asked)


def test_a_site_that_drips_is_given_up_in_all_the_time_that_a_page_has(site, settings):
    """Each byte comes in time; what it says of itself never ends."""
    settings.FETCH_SECONDS, site.drip = 0.5, threading.Event()
    try:
        with pytest.raises(FetchError, match="took too long to answer"):
            fetch(f"{site.url}/")
        assert not site.drip.is_set()
    finally:
        site.drip.set()


@pytest.mark.parametrize("guarded", [False, True])
def test_a_network_that_drips_is_given_up_in_all_the_time_that_an_answer_has(site, settings, guarded):
    settings.FETCH_SECONDS = settings.WIRE_TIMEOUT = 0.5
    site.drip = threading.Event()
    try:
        told, response = request_outcome(client_for({"site": site.url} if guarded else {}), "GET", f"{site.url}/")
        assert (told.outcome, told.message, response) == (Outcome.DOWN, "it took too long to answer", None)
        client = httpx2.Client(transport=BoundedTransport(transport_for(guarded)), timeout=0.5)
        with client, pytest.raises(httpx2.ReadTimeout):
            client.get(f"{site.url}/")
        assert not site.drip.is_set()
    finally:
        site.drip.set()


def test_what_an_answer_may_take_begins_when_all_has_been_sent(site, settings):
    """A large file goes out slowly, for longer than an answer may take."""
    settings.FETCH_SECONDS = settings.WIRE_TIMEOUT = 0.5

    def slowly():
        for _ in range(8):
            yield b"m"
            # This is the slowness that is tried: the time passes while the request goes out.
            threading.Event().wait(0.1)

    site.pages["/media"] = {}
    assert (
        request(
            client_for({}), "POST", f"{site.url}/media", content=slowly(), headers={"Content-Length": "8"}
        ).status_code
        == 200
    )
