"""The brand sheet, reading a page, and the guarded way out."""

import socket
import threading
from http.server import BaseHTTPRequestHandler, HTTPServer

import httpcore2
import pytest
from PIL import Image

from menudo.base.fetch import FetchError, fetch
from menudo.brandsheet.logo_colours import main_colours
from menudo.brandsheet.page_parser import logo_candidates, parse_page

PAGE = """<!doctype html><html lang="es-ES"><head><title>Hogaza | pan de Valdemora</title>
<meta name="description" content="Pan con nombre."><meta name="theme-color" content="#B57">
<meta name="keywords" content="pan, centeno , "><meta property="og:site_name" content="Hogaza Bakery">
<meta property="og:description" content="A family bakery."><meta property="og:image" content="/og.png">
<link rel="icon" href="icon.png"><link rel="alternate" type="application/atom+xml" href="/notes.atom">
<script type="application/ld+json">{"@graph": [{"@type": "WebSite", "name": "no"}, {"@type": ["Bakery", "Thing"], "name": "Hogaza",
"telephone": "+34 900 000 222", "logo": {"url": "/logo.svg"}, "address": {"streetAddress": "Mill Lane 1", "addressCountry": "ES"}}]}</script>
<script type="application/ld+json">{ not json</script></head>
<body><a href="mailto:pan@example.org?subject=x">write</a> <a href="tel:call">call</a></body></html>"""


def test_a_page_is_read_by_its_best_source_and_nothing_is_guessed():
    # Open Graph and schema.org as ogp.me and schema.org describe them (from memory).
    found = {f.part: f.value for f in parse_page(PAGE, "https://hogaza.example.org/")}
    assert found == {
        "name": "Hogaza",
        "about": "A family bakery.",
        "site": "https://hogaza.example.org/",
        "topics": ["pan", "centeno"],
        "colours": ["#bb5577"],
        "language": "es-ES",
        "feeds": ["https://hogaza.example.org/notes.atom"],
        "country": "ES",
        "contact/phone": "+34 900 000 222",
        "contact/address": "Mill Lane 1",
        "contact/email": "pan@example.org",
    }
    assert logo_candidates(PAGE, "https://hogaza.example.org/")[:2] == [
        "https://hogaza.example.org/logo.svg",
        "https://hogaza.example.org/icon.png",
    ]


@pytest.mark.parametrize(
    "html",
    ["", "<", "<html>", "\x00", "<script type='application/ld+json'>[1, null, {\"@type\": 3}]</script>", "x" * 100_000],
)
def test_any_page_is_read_without_falling_over(html):
    assert all(f.value for f in parse_page(html, "https://example.org/"))


def test_the_main_colours_of_a_logo_leave_out_paper_and_ink(tmp_path):
    image = Image.new("RGB", (100, 100), "#ffffff")
    image.paste("#2f6b4a", (0, 0, 100, 60))
    image.paste("#b57a06", (0, 60, 100, 80))
    image.paste("#000000", (0, 80, 100, 85))
    logo, other = tmp_path / "logo", tmp_path / "other"
    image.save(logo, "PNG")
    other.write_bytes(b"no picture")
    assert main_colours(str(logo)) == ["#2f6b4a", "#b57a06"]
    assert main_colours(str(other)) == []


def test_reading_the_brands_own_page_proposes_and_keeps_nothing_but_the_logo(world, standin):
    api = world.api()
    said = api("POST", "sheet/read", {"address": f"{standin.url}/site/fernhollow/"}, status=200)
    proposals = {p["part"]: p["value"] for p in said["proposals"]}
    assert proposals["name"] == "Fernhollow Botanic Garden" and proposals["contact/email"] == "garden@example.org"
    assert proposals["colours"][0] == "#2f6b4a" and proposals["feeds"] == [f"{standin.url}/site/fernhollow/notes.xml"]
    sheet = api("GET", "sheet")
    assert (sheet["revision"], sheet["filled"]) == (0, 0)
    whole = {
        **sheet["sheet"],
        "about": "A garden",
        "logo": proposals["logo"],
        "country": "ES",
        "colours": proposals["colours"],
    }
    kept = api("PUT", "sheet", whole, 0, 200)
    assert (kept["revision"], kept["filled"]) == (1, 4)
    api("PUT", "sheet", whole, 0, 412)


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"site": "hogaza"}, "/site"),
        ({"contact": {"email": "nobody"}}, "/contact/email"),
        ({"country": "XX"}, "/country"),
        ({"language": "¿?"}, "/language"),
        ({"hashtags": ["fine", "two words"]}, "/hashtags/1"),
        ({"about": "a\x00b"}, "/about"),
        ({"logo": 999_999}, "/logo"),
        ({"colours": ["red"]}, "/colours/0"),
        ({"voice": {"formal": 9}}, "/voice/formal"),
    ],
)
def test_a_faulty_part_of_the_sheet_is_told_at_its_field(world, change, pointer):
    assert pointer in {e["pointer"] for e in world.api()("PUT", "sheet", change, 0, 422)["errors"]}


@pytest.mark.parametrize(
    "address",
    ["{standin}/nowhere", "{standin}/site/fernhollow/logo.png", "not an address", "http://[::1"],
)
def test_an_address_that_is_no_page_says_so_at_its_field(world, standin, address):
    problem = world.api()("POST", "sheet/read", {"address": address.replace("{standin}", standin.url)}, status=422)
    assert problem["errors"][0]["pointer"] == "/address"


# The guarded way out (OWASP: server-side request forgery).
class Site(BaseHTTPRequestHandler):
    """A site that redirects, drips, swells, or lies about its size."""

    def do_GET(self) -> None:
        if self.path.startswith("/to/"):
            self.send_response(302)
            self.send_header("Location", self.path[4:])
            self.end_headers()
            return
        self.send_response(200)
        self.send_header("Content-Type", "text/html; charset=latin-1" if self.path == "/latin" else "text/html")
        if self.path == "/packed":
            self.send_header("Content-Encoding", "gzip")
        self.end_headers()
        self.wfile.write("ñ".encode("latin-1") if self.path == "/latin" else b"hello")
        try:
            while self.path in ("/huge", "/drip") and not self.server.over.wait(0.05 if self.path == "/drip" else 0):  # type: ignore[attr-defined]
                self.wfile.write(b"." if self.path == "/drip" else b"x" * 65536)
        except OSError:
            return

    def log_message(self, *_: object) -> None:
        return


@pytest.fixture
def site(settings):
    server = HTTPServer(("127.0.0.1", 0), Site)
    server.over = threading.Event()  # type: ignore[attr-defined]
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    settings.FETCH_ALLOWED = {f"127.0.0.1:{server.server_port}"}
    settings.FETCH_SECONDS = 1
    yield f"http://127.0.0.1:{server.server_port}"
    server.over.set()  # type: ignore[attr-defined]
    server.shutdown()
    server.server_close()


@pytest.mark.parametrize(
    "address",
    [
        "http://127.0.0.1/",
        "http://localhost/",
        "http://[::1]/",
        "http://10.0.0.1/",
        "http://192.168.1.1/",
        "http://172.16.0.9/",
        "http://169.254.169.254/latest",
        "http://0.0.0.0/",
        "http://[::ffff:127.0.0.1]/",
        "http://[fe80::1]/",
        "http://[fc00::1]/",
        "http://100.64.0.1/",
        "http://224.0.0.1/",
        "http://[64:ff9b::7f00:1]/",
        "http://[2002:7f00:1::]/",
        "http://2130706433/",
        "http://0x7f.1/",
    ],
)
def test_no_address_that_is_not_public_is_opened(settings, address):
    settings.DEMO, settings.FETCH_ALLOWED = False, set()
    with pytest.raises(FetchError):
        fetch(address)


@pytest.mark.parametrize(
    "address",
    [
        "file:///etc/hosts",
        "ftp://example.org/",
        "//example.org",
        "javascript:1",
        "http://",
        "http://user:pw@127.0.0.1:1/",
    ],
)
def test_only_whole_web_addresses_are_opened(site, address):
    with pytest.raises(FetchError):
        fetch(address)


def test_a_name_is_judged_by_every_address_it_has_and_the_one_judged_is_the_one_opened(settings, monkeypatch):
    settings.DEMO, settings.FETCH_ALLOWED = False, set()
    answers = iter([["93.184.216.34"], ["93.184.216.34", "10.0.0.1"], ["127.0.0.1"]])
    asked: list[str] = []

    def resolve(host: str, port: int, **_: object) -> list:
        asked.append(host)
        return [(socket.AF_INET, socket.SOCK_STREAM, 6, "", (a, port)) for a in next(answers)]

    opened: list[str] = []

    def connect(self: object, host: str, port: int, *args: object, **named: object) -> object:
        opened.append(host)
        raise httpcore2.ConnectError("not really")

    monkeypatch.setattr(socket, "getaddrinfo", resolve)
    monkeypatch.setattr(httpcore2.SyncBackend, "connect_tcp", connect)
    for _ in range(3):
        with pytest.raises(FetchError):
            fetch("https://rebinding.example.org/")
    assert asked == ["rebinding.example.org"] * 3, "one look-up for each request: the connection makes none of its own"
    assert opened == ["93.184.216.34"]


def test_redirects_are_followed_a_few_times_and_judged_each_time(site):
    assert fetch(f"{site}/to/{site}/").text == "hello"
    assert fetch(f"{site}/latin").text == "ñ"
    for leads_to in ("http://127.0.0.1:9/", "file:///etc/hosts", f"{site}/to/" * 8):
        with pytest.raises(FetchError):
            fetch(f"{site}/to/{leads_to}")


@pytest.mark.parametrize(("path", "told"), [("/huge", "too large"), ("/drip", "too long"), ("/packed", "packed")])
def test_a_page_that_swells_drips_or_comes_packed_is_let_go(site, path, told):
    with pytest.raises(FetchError, match=told):
        fetch(site + path)
