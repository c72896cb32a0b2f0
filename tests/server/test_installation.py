"""The first person, ways in, mail set on a page, and networks of an installation's own."""

import gc
import io
import json
import re
import socketserver
import tarfile
import threading
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from pathlib import PurePosixPath

import pytest
from allauth.mfa.models import Authenticator
from django.core import mail
from django.core.mail import send_mail
from django.core.management import call_command
from django.db import connections
from django.test import Client
from tools.restore import media_path

from menudo.base import clock
from menudo.installation.models import AccessLink
from menudo.networks.networks_file import ADAPTER_NAMES, InvalidNetworksFileError, Network, read_networks
from menudo.networks.registry import ADAPTERS
from menudo.networks.sign_in import client_credentials
from menudo.notices.failures import failure_boundary
from menudo.notices.models import MailServer
from menudo.people.models import User
from menudo.profiles.models import Profile

JSON, PHRASE = "application/json", "quite-another-phrase"
ANN = {"name": "Ann", "email": "ann@example.org", "password": PHRASE}


def offered(*arguments: str) -> str:
    """What ./menudo start, serve and invite print: the token of the address."""
    out = io.StringIO()
    call_command("issue_access_link", *arguments, stdout=out)
    found = re.search(r"/set-up/(\S+)", out.getvalue())
    return found.group(1) if found else ""


def come(token: str, said: dict = ANN, client: Client | None = None):
    return (client or Client()).post(f"/api/set-up/{token}", said, JSON)


def faults(answer) -> set[str]:
    return {fault["pointer"] for fault in answer.json()["errors"]}


@pytest.fixture
def nobody(world) -> None:
    User.objects.all().delete()


def test_the_first_person_makes_an_account_once_and_then_a_brand(nobody):
    assert Client().get("/api/public-status").json() == {"mail": True, "begun": False}
    first = offered()
    token = offered()
    assert token not in str(AccessLink.objects.values()) and AccessLink.objects.count() == 1
    assert come(first).status_code == 404, "a new address takes the place of the one before"
    assert Client().get(f"/api/set-up/{token}").json() == {"kind": "first", "email": "", "name": ""}
    wrong = come(token, {"name": " ", "email": "ann", "password": "short"})
    assert wrong.status_code == 422 and faults(wrong) == {"/name", "/email", "/password"}
    client = Client()
    assert come(token, client=client).json() == {"slug": ""}
    me = client.get("/api/me").json()
    assert (me["name"], me["manages_installation"], me["may_make_brands"]) == ("Ann", True, True)
    made = client.post("/api/brands", {"name": "Pots", "zone": "Europe/Madrid"}, JSON)
    assert made.status_code == 201
    steps = client.get("/api/brands/pots/first-steps").json()
    assert steps == {"sheet": False, "profiles": False, "timetable": False, "post": False}
    # It serves once, and nobody is offered another.
    assert come(token, {**ANN, "email": "eve@example.org"}).status_code == 404 and not offered()
    assert Client().get("/api/public-status").json()["begun"] is True


def test_an_address_of_yesterday_leads_nowhere(nobody):
    token = offered()
    AccessLink.objects.update(expires_at=clock.now() - timedelta(seconds=1))
    assert come(token).status_code == Client().get(f"/api/set-up/{token}").status_code == 404
    assert not User.objects.exists()


def test_two_at_once_make_one_account(nobody):
    token = offered()

    def one(name: str) -> int:
        try:
            return come(token, {**ANN, "email": f"{name}@example.org"}).status_code
        finally:
            connections.close_all()

    with ThreadPoolExecutor(4) as hands:
        assert sorted(hands.map(one, "abcd")) == [200, 404, 404, 404]
    assert User.objects.count() == 1


def test_whoever_lost_access_is_let_in_from_the_shell_and_everybody_else_is_out(world):
    api = world.api()
    user = User.objects.get(email="ines@example.org")
    Authenticator.objects.create(user=user, type=Authenticator.Type.TOTP, data={"secret": "x"})
    token = offered("--email", " Ines@Example.org ")
    assert Client().get(f"/api/set-up/{token}").json() == {
        "kind": "again",
        "email": "ines@example.org",
        "name": user.name,
    }
    assert faults(come(token, {"password": "short"})) == {"/password"}
    client = Client()
    assert come(token, {"password": PHRASE}, client).json() == {"slug": "garden"}
    assert client.get("/api/me").json()["manages_installation"], "nobody did"
    assert api.client.get("/api/me").status_code == 401 and not Authenticator.objects.exists()
    assert come(token, {"password": PHRASE}).status_code == 404
    fresh = Client()
    said = {"email": "ines@example.org", "password": PHRASE}
    assert fresh.post("/_allauth/browser/v1/auth/login", said, JSON).status_code == 200


def test_a_new_person_from_the_page_manages_nothing_and_one_with_an_account_is_not_let_in(world):
    api = world.api()
    paths = {
        "GET": ["installation"],
        "POST": ["installation/people", "installation/mail/try"],
        "PUT": ["installation/mail"],
        "DELETE": ["installation/mail"],
    }
    mails = {"host": "127.0.0.1", "port": 25, "security": "none", "sender": "a@example.org"}
    for method, some in paths.items():
        for path in some:
            body = {"email": "new@example.org"} if path.endswith("people") else mails
            answer = api.client.generic(method, f"/api/{path}", json.dumps(body), JSON)
            assert answer.status_code == 403, path
    User.objects.filter(email="ines@example.org").update(manages_installation=True)
    said = api.client.post("/api/installation/people", {"email": "teo@example.org"}, JSON)
    assert said.status_code == 409 and "./menudo invite" in said.json()["detail"]
    assert faults(api.client.post("/api/installation/people", {"email": "x"}, JSON)) == {"/email"}
    address = api.client.post("/api/installation/people", {"email": "new@example.org"}, JSON).json()["address"]
    client = Client()
    # The address is whom it was made for: another isn't taken.
    assert come(address.rpartition("/")[2], ANN, client).status_code == 200
    me = client.get("/api/me").json()
    assert (me["email"], me["manages_installation"], me["brands"]) == ("new@example.org", False, [])
    # From the shell a new person manages the installation.
    assert come(offered("--email", "shell@example.org")).status_code == 200
    assert User.objects.get(email="shell@example.org").manages_installation


class Smtp(socketserver.StreamRequestHandler):
    """As little of a mail server as sending needs (RFC 5321)."""

    def handle(self) -> None:
        self.say("220 here")
        while line := self.rfile.readline().decode().strip():
            verb = line.split(":")[0].split()[0].upper()
            if verb == "DATA":
                self.say("354 go on")
                body = b""
                while (part := self.rfile.readline()) != b".\r\n":
                    body += part
                self.server.kept.append(body.decode())
            if verb == "AUTH":
                self.say("535 no")
            elif "refused@example.org" in line:
                self.say("550 not from you")
            elif verb == "EHLO":
                self.say("250-here\r\n250 AUTH PLAIN")
            else:
                self.say("221 bye" if verb == "QUIT" else "250 fine")

    def finish(self) -> None:
        super().finish()
        self.server.ended.release()

    def say(self, words: str) -> None:
        self.wfile.write(words.encode() + b"\r\n")


@pytest.fixture
def smtp():
    with socketserver.ThreadingTCPServer(("127.0.0.1", 0), Smtp) as server:
        server.kept, server.ended = [], threading.Semaphore(0)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield server
        server.shutdown()


def test_mail_is_set_and_tried_on_the_page_and_its_password_stays_there(world, settings, smtp):
    settings.DEMO, settings.EMAIL_HOST = False, ""
    settings.EMAIL_BACKEND = "menudo.notices.mail_server.Backend"
    User.objects.filter(email="ines@example.org").update(manages_installation=True)
    client = world.api().client
    here = {"host": "127.0.0.1", "port": smtp.server_address[1], "security": "none", "sender": "menudo@example.org"}

    def tried(**more):
        return client.post("/api/installation/mail/try", {**here, **more}, JSON)

    # Nothing is sent and nothing breaks while there is no server.
    assert (
        client.get("/api/installation").json()["mail_by"] == "nothing" and send_mail("a", "b", None, ["x@x.org"]) == 0
    )
    assert faults(tried(host=" ", port=0, security="any", sender="me")) == {"/host", "/port", "/security", "/sender"}
    assert faults(tried(user="ann", password="no")) == {"/password"}
    assert faults(tried(sender="refused@example.org")) == {"/sender"}
    assert faults(tried(security="starttls")) == {"/security"}
    assert faults(tried(host="nowhere.invalid")) == {"/host"}
    assert tried().status_code == 204 and "To: ines@example.org" in smtp.kept[-1]
    assert not MailServer.objects.exists(), "trying keeps nothing"

    said = {**here, "user": "ann", "password": "sesame"}
    assert client.put("/api/installation/mail", said, JSON).status_code == 204
    told = client.get("/api/installation").content.decode()
    assert "sesame" not in told + str(MailServer.objects.values()) and '"has_password": true' in told
    # The kept password goes to no other server, and to no other user.
    for other in ({"host": "mail.example.org"}, {"port": 26}, {"user": "eve"}):
        answer = client.put("/api/installation/mail", {**said, "password": "", **other}, JSON)
        assert faults(answer) == {"/password"}, other
    assert (
        client.put("/api/installation/mail", {**said, "password": "", "sender": "b@example.org"}, JSON).status_code
        == 204
    )
    assert client.put("/api/installation/mail", here, JSON).status_code == 204
    send_mail("Told", "words", None, ["lucia@example.org"])
    assert "From: menudo@example.org" in smtp.kept[-1]
    assert client.delete("/api/installation/mail").status_code == 204 and not MailServer.objects.exists()


def test_a_mail_server_that_refuses_the_sign_in_keeps_no_open_line(world, smtp):
    User.objects.filter(email="ines@example.org").update(manages_installation=True)
    said = {"host": "127.0.0.1", "port": smtp.server_address[1], "security": "none", "sender": "menudo@example.org"}
    # The garbage collector would end it, sooner or later.
    gc.disable()
    try:
        answer = world.api().client.post("/api/installation/mail/try", {**said, "user": "ann", "password": "no"}, JSON)
        assert faults(answer) == {"/password"} and smtp.ended.acquire(timeout=10)
    finally:
        gc.enable()
        gc.collect()


def test_without_mail_there_are_links_to_copy_and_nobody_waits_for_a_mail(world, settings):
    settings.DEMO, settings.EMAIL_HOST = False, ""
    settings.EMAIL_BACKEND = "menudo.notices.mail_server.Backend"
    body = {"email": "new@example.org", "role": "author", "capabilities": ["write"]}
    address = world.api()("POST", "invitations", body, status=201)["address"]
    token = address.rpartition("/")[2]
    assert Client().get(f"/api/invitations/{token}").json()["email"] == "new@example.org" and not mail.outbox
    assert world.api()("GET", "people")["invitations"][0]["address"] == "", "shown this once"
    client = world.api().client
    for path in ("account/email", "auth/password/request"):
        answer = client.post(f"/_allauth/browser/v1/{path}", {"email": "other@example.org"}, JSON)
        assert answer.status_code == 503 and "sends no mail" in answer.json()["errors"][0]["message"], path


def test_what_broke_stands_on_the_page(world):
    User.objects.filter(email="ines@example.org").update(manages_installation=True)
    with failure_boundary("sweep", "delivery 12"):
        raise ValueError("a\0b")
    (told,) = world.api().client.get("/api/installation").json()["failures"]
    assert (told["step"], told["subject"], told["error"], told["times"]) == (
        "sweep",
        "delivery 12",
        "ValueError: ab",
        1,
    )


def test_networks_come_from_a_file_that_is_told_what_is_wrong_with_it(tmp_path, monkeypatch):
    assert set(ADAPTERS) == set(ADAPTER_NAMES)
    monkeypatch.setenv("BRISK_SECRET", "s")
    file, known = tmp_path / "networks.toml", {"brisk", "plaza"}
    assert read_networks("", known) == {}
    file.write_text(
        '[brisk]\naddress = "https://brisk.example/"\nclient_id = "m"\nclient_secret_variable = "BRISK_SECRET"'
    )
    assert read_networks(str(file), known) == {"brisk": Network("https://brisk.example", "micropub", "m", "s")}
    for text, words in {
        "[brisk": "isn't TOML",
        "[brusk]": "no rule sheet is called so",
        "[brisk]\nurl = 'x'": "url means nothing",
        "[brisk]\naddress = 'brisk.example'": "isn't a whole web address",
        "brisk = 1": "a table",
        "[brisk]\naddress = 'https://a.example'\nadapter = 'pigeon'": "no adapter “pigeon”",
        "[brisk]\naddress = 'https://a.example'\nclient_secret_variable = 'NONE_SUCH'": "no variable NONE_SUCH",
        "[brisk]\naddress = 'https://a.example'\nclient_secret = 's'": "as client_secret_variable",
        "[brisk]\naddress = 5": "a table",
        "[brisk]\naddress = 'http://a:b'": "isn't a whole web address",
    }.items():
        file.write_text(text)
        with pytest.raises(InvalidNetworksFileError, match=words):
            read_networks(str(file), known)
    with pytest.raises(InvalidNetworksFileError, match="can't be read"):
        read_networks(str(tmp_path / "none.toml"), known)


def test_only_what_is_set_up_here_is_offered(world, settings):
    settings.NETWORKS = {}
    api = world.api()
    found = {one["network"]: one for one in api("GET", "networks", status=200)}
    # A profile that is on one that isn't set up any more keeps its sheet; the others aren't offered.
    assert set(found) == {"brisk", "open-site", "by-hand"} and [n for n, one in found.items() if one["connects"]] == [
        "open-site"
    ]
    assert api("POST", "connections", {"network": "brisk"}, status=422)["errors"][0]["pointer"] == "/network"
    want = {"display_name": "Client", "requested": [{"network": "brisk", "kinds": ["account"]}], "days": 7}
    assert api("POST", "links", want, status=422)["errors"][0]["pointer"] == "/requested/0"
    Profile.objects.filter(brand=world.garden).delete()
    assert {one["network"] for one in api("GET", "networks", status=200)} == {"open-site", "by-hand"}


def test_a_network_that_gave_a_secret_is_shown_it(standin, settings):
    settings.NETWORKS = {"brisk": Network("https://brisk.example", "micropub", "m", "s")}
    known = client_credentials({"issuer": "https://brisk.example"})
    assert known == {"client_id": "m", "client_secret": "s", "token_endpoint_auth_method": "client_secret_basic"}
    assert client_credentials({"issuer": "https://other.example"})["client_id"] == "menudo"
    assert client_credentials({"site": "https://a.example", "issuer": ""})["client_id"] == settings.PUBLIC_URL + "/"


@pytest.mark.parametrize(
    ("name", "where"),
    [
        ("media/a/b.jpg", "a/b.jpg"),
        ("./media/a.jpg", "a.jpg"),
        ("media//etc/passwd", "etc/passwd"),
        ("media", None),
        ("/media/a.jpg", None),
        ("media/../../a.jpg", None),
        ("secrets.json", None),
        ("", None),
    ],
)
def test_a_backup_unpacks_nothing_outside_its_media(name, where):
    found = media_path(tarfile.TarInfo(name))
    assert found == (PurePosixPath(where) if where else None)
    link = tarfile.TarInfo("media/a.jpg")
    link.type, link.linkname = tarfile.SYMTYPE, "/etc/passwd"
    assert media_path(link) is None
