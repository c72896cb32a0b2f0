"""One's account: a second factor, a new password and address, sessions; and what keeps others out of it."""

import hmac
import json
import re
import struct
import time
from base64 import b32decode

from allauth.mfa.models import Authenticator
from allauth.usersessions.models import UserSession
from django.core import mail
from django.core.cache import cache
from django.db import connection
from django.test import Client

from menudo.base.sealing import seal, unseal
from menudo.installation.actions.rotate_keys import rotate_keys
from menudo.library.models import Store
from menudo.notices.cache_upkeep import delete_expired_entries
from menudo.notices.models import SentMail
from menudo.people.models import User
from tests.server.test_people import JSON, PASSWORD, mailbox

__all__ = ["mailbox"]


def totp(secret: str, at: float) -> str:
    """RFC 6238 with SHA-1, 30 seconds, six digits, written here anew; checked with the RFC's vector below."""
    digest = hmac.new(b32decode(secret + "=" * (-len(secret) % 8)), struct.pack(">Q", int(at // 30)), "sha1").digest()
    place = digest[-1] & 15
    return f"{(struct.unpack('>I', digest[place : place + 4])[0] & 0x7FFFFFFF) % 1_000_000:06d}"


def test_our_reckoning_of_codes_is_the_standards():
    # RFC 6238, appendix B, SHA-1 at 59 s, the last six digits of 94287082.
    assert totp("GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ", 59) == "287082"


def auth(client: Client, method: str, path: str, body: dict | None = None):
    return client.generic(method, f"/_allauth/browser/v1/{path}", json.dumps(body or {}), JSON)


def test_a_second_factor_is_set_up_asked_for_and_switched_off(world):
    client = Client()
    login = {"email": "ines@example.org", "password": "a-long-password"}
    assert auth(client, "POST", "auth/login", login).status_code == 200
    meta = client.get("/_allauth/browser/v1/account/authenticators/totp").json()["meta"]
    svg = client.post("/api/me/totp-picture", {"address": meta["totp_url"]}, JSON)
    assert svg.status_code == 200 and "<svg" in svg.json()
    assert auth(client, "POST", "account/authenticators/totp", {"code": "000000"}).status_code == 400
    right = {"code": totp(meta["secret"], time.time())}
    asked = auth(client, "POST", "account/authenticators/totp", right)
    assert asked.status_code == 401 and "reauthenticate" in asked.content.decode(), (
        "the password is asked for once more"
    )
    assert auth(client, "POST", "auth/reauthenticate", {"password": "a-long-password"}).status_code == 200
    assert auth(client, "POST", "account/authenticators/totp", right).status_code == 200
    other = Client()
    asked = auth(other, "POST", "auth/login", login)
    assert asked.status_code == 401 and other.get("/api/me").status_code == 401
    code = client.get("/_allauth/browser/v1/account/authenticators/recovery-codes").json()["data"]["unused_codes"][0]
    assert auth(other, "POST", "auth/2fa/authenticate", {"code": code}).status_code == 200
    assert other.get("/api/me").json()["name"] == "Ines"
    assert auth(client, "DELETE", "account/authenticators/totp").status_code == 200


def test_a_forgotten_password_is_set_anew_by_mail_and_nobody_learns_who_has_an_account(world):
    client = Client()
    for email in ("ines@example.org", "nobody@example.org"):
        assert auth(client, "POST", "auth/password/request", {"email": email}).status_code == 200
    body = next(m.body for m in mail.outbox if m.to == ["ines@example.org"])
    key = re.search(r"/reset/(\S+)", body).group(1)
    assert auth(client, "POST", "auth/password/reset", {"key": key, "password": PASSWORD}).status_code in (200, 401)
    assert auth(Client(), "POST", "auth/login", {"email": "ines@example.org", "password": PASSWORD}).status_code == 200
    assert auth(client, "POST", "auth/password/reset", {"key": key, "password": PASSWORD + "x"}).status_code == 400


def test_an_address_without_an_account_is_written_to_once_a_day_at_most(world):
    for email in ("nobody@example.org", "Nobody@example.org", "nobody@example.org"):
        assert auth(Client(), "POST", "auth/password/request", {"email": email}).status_code == 200
    assert [m.subject for m in mail.outbox] == ["No account with this address"]


def test_a_link_in_a_mail_leads_to_the_public_address_whatever_a_request_says(world, settings):
    forged = {"HTTP_HOST": "localhost", "HTTP_X_FORWARDED_HOST": "evil.example"}
    body = json.dumps({"email": "ines@example.org"})
    assert Client().post("/_allauth/browser/v1/auth/password/request", body, JSON, **forged).status_code == 200
    assert f"{settings.PUBLIC_URL}/reset/" in mail.outbox[-1].body
    assert Client().get("/api/public-status", HTTP_HOST="evil.example").status_code == 400


def test_a_code_serves_once_also_the_one_that_switched_it_on(world):
    """RFC 6238, 5.2: a second attempt with the same code is refused, for as long as it would be taken."""
    here = Client()
    login = {"email": "ines@example.org", "password": "a-long-password"}
    auth(here, "POST", "auth/login", login)
    secret = here.get("/_allauth/browser/v1/account/authenticators/totp").json()["meta"]["secret"]
    first, second = (totp(secret, time.time() + later) for later in (0, 30))
    auth(here, "POST", "account/authenticators/totp", {"code": first})
    auth(here, "POST", "auth/reauthenticate", {"password": "a-long-password"})
    assert auth(here, "POST", "account/authenticators/totp", {"code": first}).status_code == 200
    assert secret not in str(Authenticator.objects.values())
    other = Client()
    auth(other, "POST", "auth/login", login)
    used = auth(other, "POST", "auth/2fa/authenticate", {"code": first})
    assert (used.status_code, used.json()["errors"][0]["code"]) == (400, "incorrect_code")
    assert other.get("/api/me").status_code == 401
    assert auth(other, "POST", "auth/2fa/authenticate", {"code": second}).status_code == 200
    third = Client()
    auth(third, "POST", "auth/login", login)
    # allauth itself has forgotten it after its step.
    cache.delete(f"allauth.mfa.totp.used?user={User.objects.get(name='Ines').pk}&code={second}")
    assert auth(third, "POST", "auth/2fa/authenticate", {"code": second}).status_code == 400
    assert third.get("/api/me").status_code == 401


def test_what_is_counted_against_guessing_isnt_pushed_out_by_others(world):
    """Django's cache in a table makes room at 300 entries, if it isn't told otherwise."""
    wrong = {"email": "ines@example.org", "password": "guess-guess-guess"}
    for n in range(12):
        auth(Client(), "POST", "auth/login", wrong)
        cache.set_many({f"other-{n}-{m}": m for m in range(60)})
    blocked = auth(Client(), "POST", "auth/login", {**wrong, "password": "a-long-password"}).json()
    assert blocked["errors"][0]["code"] == "too_many_login_attempts"
    cache.set("stays", 1, 600)
    with connection.cursor() as cursor:
        cursor.execute("UPDATE menudo_cache SET expires = now() - interval '1 second' WHERE cache_key LIKE '%other-%'")
    assert delete_expired_entries() == 720
    assert cache.get("stays") == 1


def test_keys_are_rotated_and_the_old_one_can_go(world, settings):
    store = Store.objects.create(brand=world.garden, name="Store", address="https://a.example", password=seal("moss"))
    lost = Store.objects.create(brand=world.garden, name="Lost", address="https://b.example", password="no seal")
    settings.TOKEN_KEYS = ["new", *settings.TOKEN_KEYS]
    told: list[str] = []
    assert rotate_keys(told.append) == 1
    assert "library.Store: 2 of 2" in told
    settings.TOKEN_KEYS = ["new"]
    store.refresh_from_db(), lost.refresh_from_db(), world.connection.refresh_from_db()
    assert (unseal(store.password), lost.password) == ("moss", "no seal")
    assert unseal(world.connection.access_token) and unseal(world.connection.refresh_token)


def test_what_comes_of_signing_in_is_logged_without_who_was_guessed(world, caplog):
    """OWASP ASVS 5.0, 16.3.1 and 16.2.5."""
    caplog.set_level("INFO")
    right = {"email": "ines@example.org", "password": "a-long-password"}
    client = Client()
    auth(client, "POST", "auth/login", {**right, "password": "guess-guess-guess"})
    auth(client, "POST", "auth/login", right)
    auth(client, "DELETE", "auth/session")
    told = [words for words in ("sign_in.refused", "sign_in.done", "sign_in.ended") if words in caplog.text]
    assert told == ["sign_in.refused", "sign_in.done", "sign_in.ended"]
    assert "ines@example.org" not in caplog.text and "guess-guess" not in caplog.text and "127.0.0.1" in caplog.text


def test_sessions_are_listed_and_another_is_ended_from_here(world):
    login = {"email": "ines@example.org", "password": "a-long-password"}
    here, there = Client(), Client()
    for client in (here, there):
        auth(client, "POST", "auth/login", login)
    sessions = here.get("/_allauth/browser/v1/auth/sessions").json()["data"]
    other = next(s["id"] for s in sessions if not s["is_current"])
    assert auth(here, "DELETE", "auth/sessions", {"sessions": [other]}).status_code == 200
    assert (here.get("/api/me").status_code, there.get("/api/me").status_code) == (200, 401)


def test_guessing_a_password_is_slowed_down(world):
    wrong = {"email": "ines@example.org", "password": "guess-guess-guess"}
    answers = [auth(Client(), "POST", "auth/login", wrong).json() for _ in range(12)]
    assert answers[0]["errors"][0]["code"] == "email_password_mismatch"
    assert answers[-1]["errors"][0]["code"] == "too_many_login_attempts"


def test_the_mail_tray_is_the_demos_alone(world, settings):
    settings.EMAIL_BACKEND = "menudo.notices.mail_tray.Backend"
    mail.send_mail("Hello", "There", None, ["a@example.org"])
    assert SentMail.objects.get().to == "a@example.org"
    assert Client().get("/api/mail-tray").json()[0]["subject"] == "Hello"
    settings.DEMO = False
    assert Client().get("/api/mail-tray").status_code == 404


def test_where_a_session_is_used_is_noted_when_it_changes_and_not_at_each_request(world):
    client = Client()
    client.force_login(User.objects.get(email="ines@example.org"))

    def use(agent: str) -> UserSession:
        assert client.get("/api/me", headers={"User-Agent": agent}).status_code == 200
        return UserSession.objects.get()

    assert [use(agent).user_agent for agent in ("a desk", "a phone", "a desk")] == ["a desk", "a phone", "a desk"]
    noted = use("a desk").last_seen_at
    assert use("a desk").last_seen_at == noted
    assert use("a phone").last_seen_at > noted
