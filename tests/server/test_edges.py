"""Edges that answered 500, or told somebody something else than what is so."""

import importlib
import json
import re
import threading
from datetime import timedelta
from pathlib import Path
from smtplib import SMTPException
from urllib.parse import unquote

import httpx2
import pytest
from allauth.account.models import EmailAddress
from django.apps import apps
from django.core import mail
from django.db import DataError, OperationalError, connection
from django.test import Client, RequestFactory
from django.urls import get_resolver
from django.utils import timezone

from menudo.base.addresses import RESERVED_SLUGS, SERVER_PREFIXES, WEB_PREFIXES
from menudo.base.logs import mask_tokens
from menudo.base.numbers import parse_whole_number
from menudo.base.problems import on_data_error
from menudo.base.tokens import new_token
from menudo.library import files
from menudo.library.actions import bin_assets as binning
from menudo.library.models import Asset
from menudo.networks import sign_in
from menudo.networks.client import read_response
from menudo.people.models import Brand, User
from menudo.profiles.actions.begin_connecting import add_pending
from tests.server.conftest import in_thread, picture

JSON = "application/json"
ROUTER = Path(__file__).parents[2] / "web" / "src" / "app" / "router.tsx"
ACCOUNT = "/_allauth/browser/v1/account/email"
VERIFY = "/_allauth/browser/v1/auth/email/verify"


@pytest.mark.parametrize("path", ["history", "history.csv"])
def test_the_last_day_of_the_calendar_has_no_day_after_it(world, path):
    client = world.api().client
    for day, status in (("9999-12-31", 422), ("9000-12-31", 200), ("1971-01-01", 200), ("0001-01-01", 422)):
        for end in ("first", "last"):
            assert client.get(f"/api/brands/garden/{path}?{end}={day}").status_code == status, (end, day)


def test_nul_in_an_address_is_refused_at_its_field(world):
    client = world.api().client
    for path in ("assets", "history", "calendar", "snippets"):
        answer = client.get(f"/api/brands/garden/{path}?words=a%00b")
        assert answer.status_code == 422 and answer.json()["errors"][0]["pointer"] == "query:words", path
    assert client.get("/api/brands/gar%00den/profiles").status_code == 422
    assert client.get("/api/invitations/%00").status_code == 422


def test_a_number_too_large_for_its_column_is_told_not_broken_over(world):
    answer = world.api().client.get("/api/brands/garden/history?before=9223372036854775807")
    assert answer.status_code == 200
    # Past every check of a field, as no field of ours should be: the last word is still a problem.
    said = on_data_error(RequestFactory().post("/api/x"), DataError("integer out of range"))
    assert said.status_code == 422 and said["Content-Type"] == "application/problem+json"


@pytest.mark.parametrize(
    ("error", "status"), [(OperationalError("couldn't get a connection"), 503), (ValueError("x"), 500)]
)
@pytest.mark.parametrize("path", ["/api/brands/garden/history", "/media/garden/1/thumb"])
def test_what_the_database_does_not_do_just_now_can_be_asked_again(world, settings, error, status, path):
    """RFC 9110, 15.6.4. Whatever first asks it: the session, a middleware, a view."""
    settings.DEBUG = False
    client = world.api().client
    client.raise_request_exception = False

    def fail(*_):
        raise error

    with connection.execute_wrapper(fail):
        answer = client.get(path)
    assert (answer.status_code, answer["Content-Type"]) == (status, "application/problem+json")
    assert answer.headers.get("Retry-After") == ("2" if status == 503 else None)
    assert answer["Cache-Control"] == "no-store"
    assert client.get("/api/brands/garden/history").status_code == 200


# RFC 9110, 10.2.3: delay-seconds are plain digits; "²" and "٣" are digits to Python, not there.
@pytest.mark.parametrize("said", ["²", "٣", "-5", "1e9", "", "9" * 5000, "soon", "Wed, 99 Foo 2026 10:00:00 GMT"])
def test_a_network_may_say_anything_for_how_long_to_wait(said):
    answer = read_response(httpx2.Response(429, headers=[(b"Retry-After", said.encode())], json={"title": "slow down"}))
    assert answer.outcome == "too_many"
    assert answer.retry_at is None or answer.retry_at <= timezone.now() + timedelta(days=1, seconds=1)


def test_whole_numbers_are_read_in_plain_digits_and_bounded():
    assert [
        parse_whole_number(said, 100) for said in ("7", " 7 ", "700", "²", "1_0", "+7", "", None, 5, "9" * 10_000)
    ] == [
        7,
        7,
        100,
        None,
        None,
        None,
        None,
        None,
        5,
        100,
    ]


@pytest.mark.parametrize("lasts", ["abc", -5, 10**30, None, "²", 1.5])
def test_a_network_may_say_anything_for_how_long_a_token_lasts(standin, monkeypatch, lasts):
    class Session:
        def close(self) -> None:
            pass

    monkeypatch.setattr(sign_in, "open_session", lambda endpoints: Session())
    token = {"access_token": "t", "expires_in": lasts, "connection_expires_in": lasts, "refresh_token": 7}
    found = sign_in.request_tokens({}, lambda session: token)
    assert found.access_expires_at > timezone.now() - timedelta(seconds=1) and found.refresh == ""


def test_the_description_of_the_api_is_where_the_docs_say(world):
    answer = world.api().client.get("/api/openapi.json")
    kept = json.loads((Path(__file__).parents[2] / "server" / "openapi.json").read_text())
    assert answer.status_code == 200 and answer.json()["paths"].keys() == kept["paths"].keys()


def test_no_brand_is_called_as_an_address_of_our_own():
    """The server's first parts are those of its patterns; the web's are those of its router."""
    patterns = [str(one.pattern).lstrip("^") for one in get_resolver().url_patterns]
    firsts = {re.split(r"[/<(]", pattern)[0] for pattern in patterns} - {""}
    assert firsts <= SERVER_PREFIXES
    pages = set(re.findall(r'getParentRoute: \(\) => root,\s+path: "/([\w-]+)', ROUTER.read_text()))
    assert pages and pages <= WEB_PREFIXES


@pytest.mark.parametrize("name", sorted(RESERVED_SLUGS - {"_allauth"}))
def test_a_brand_with_such_a_name_has_another_address_and_is_there_on_reload(world, name):
    client = world.api().client
    made = client.post("/api/brands", {"name": name.replace("-", " "), "zone": "UTC"}, JSON).json()["slug"]
    assert made == f"{name}-2"
    page = client.get(f"/{made}/calendar")
    assert page.status_code in (200, 503) and "application/json" not in page["Content-Type"]


def test_a_brand_that_was_called_so_before_gets_another_address(world):
    Brand.objects.filter(pk=world.garden.pk).update(slug="feeds")
    importlib.import_module("menudo.people.migrations.0007_no_brand_at_our_own_addresses").rename(apps, None)
    world.garden.refresh_from_db()
    assert world.garden.slug == "feeds-2"


def test_a_file_added_again_while_the_bin_is_emptied_is_not_deleted(world, monkeypatch):
    """Somebody adds the picture again just when the night's emptying has found that nobody has it any more."""
    asset = Asset.objects.get(pk=world.api().upload(picture()).json()["id"])
    Asset.objects.filter(pk=asset.pk).update(deleted_at=timezone.now() - timedelta(days=31))
    forget, added = files.delete_file, threading.Event()
    answers, others = [], []

    def add_again() -> None:
        answers.append(world.api("ines").upload(picture()))
        added.set()

    def forget_slowly(sha: str) -> None:
        others.append(in_thread(add_again))
        # It waits for the emptying to end; what isn't waited for here would be deleted below.
        added.wait(1)
        forget(sha)

    monkeypatch.setattr(binning.files, "delete_file", forget_slowly)
    assert binning.empty_bin() == 1
    others[0].join(20)
    assert added.is_set() and answers[0].status_code == 201
    kept = Asset.objects.get(pk=answers[0].json()["id"])
    assert files.file_path(kept.sha256).exists()


# The e-mail address of an account.
@pytest.fixture
def ines(world, settings) -> Client:
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    client = Client()
    login = {"email": "ines@example.org", "password": "a-long-password"}
    assert client.post("/_allauth/browser/v1/auth/login", login, JSON).status_code == 200
    return client


def addresses(email: str) -> dict[str, bool]:
    return dict(EmailAddress.objects.filter(user__email=email).values_list("email", "verified"))


def test_another_address_takes_the_place_of_the_first_when_it_is_confirmed(ines):
    assert ines.post(ACCOUNT, {"email": "new@example.org"}, JSON).status_code == 200
    (sent,) = mail.outbox
    assert sent.to == ["new@example.org"]
    key = re.search(r"http://127.0.0.1:8600/confirm-email/(\S+)", sent.body)
    assert key, sent.body
    # Until then one signs in with the first, and with no other.
    for email, status in (("ines@example.org", 200), ("new@example.org", 401)):
        other = Client()
        login = {"email": email, "password": "a-long-password"}
        assert other.post("/_allauth/browser/v1/auth/login", login, JSON).status_code == status
        assert other.get("/api/me").status_code == status
    assert ines.get("/api/me").json()["email"] == "ines@example.org"
    assert ines.post(VERIFY, {"key": unquote(key.group(1))}, JSON).status_code == 200
    assert ines.get("/api/me").json()["email"] == "new@example.org"
    assert addresses("new@example.org") == {"new@example.org": True}


def test_an_address_nobody_could_be_asked_to_confirm_is_not_kept(ines, monkeypatch):
    def away(*given, **named):
        raise SMTPException("the mail server is away")

    monkeypatch.setattr("django.core.mail.backends.locmem.EmailBackend.send_messages", away)
    answer = ines.post(ACCOUNT, {"email": "new@example.org"}, JSON)
    assert answer.status_code == 503 and "nothing was changed" in answer.json()["errors"][0]["message"]
    assert addresses("ines@example.org") == {"ines@example.org": True}


def test_somebody_elses_address_is_not_attached(ines):
    ines.post(ACCOUNT, {"email": "maud@example.org"}, JSON)
    assert not EmailAddress.objects.filter(email="maud@example.org").exclude(user__email="maud@example.org").exists()
    assert User.objects.get(email="maud@example.org").name == "Maud"


def test_a_links_secret_is_in_no_log():
    token = new_token()
    said = mask_tokens(None, "warning", {"event": f"Not Found: /api/set-up/{token}", "level": "warning"})
    assert said == {"event": "Not Found: /api/set-up/…", "level": "warning"}
    assert (
        mask_tokens(None, "warning", {"event": "request.refused", "path": f"/api/sign/{token}"})["path"]
        == "/api/sign/…"
    )
    said = mask_tokens(None, "error", {"error": "GET /connect/back?code=abc&state=def 500", "request_id": "a" * 44})
    assert said == {"error": "GET /connect/back?code=…&state=… 500", "request_id": "a" * 44}
    said = mask_tokens(None, "error", {"exception": f"Traceback\n  state = 1\nAuthorization: Bearer {token[:20]}"})
    assert said["exception"] == "Traceback\n  state = 1\nAuthorization: Bearer …"


def test_what_a_network_says_nested_too_deep_is_no_answer():
    answer = read_response(httpx2.Response(400, content=b"[" * 100_000))
    assert (answer.outcome.value, answer.message) == ("refused", "it answered 400")
    with pytest.raises(sign_in.NetworkError):
        sign_in.read_metadata(httpx2.Response(200, content=b'{"a":' * 50_000))


def test_a_browser_remembers_no_end_of_trips():
    trips: dict[str, str] = {}
    for n in range(100):
        trips = add_pending(trips, str(n), "profiles")
    assert list(trips) == [str(n) for n in range(80, 100)]
