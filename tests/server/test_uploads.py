"""Large files on their way to a network: no other worker starts them again meanwhile, and none is held in memory."""

import threading
import tracemalloc
from collections.abc import Iterator
from datetime import timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest

from menudo.delivery.actions.claim import claim_due
from menudo.delivery.actions.send import send_due
from menudo.library import files
from menudo.library.models import Asset
from menudo.posts.models import Delivery
from tests.server.conftest import in_thread
from tests.server.test_delivery import due

_PIECE = 1 << 16


class Network(ThreadingHTTPServer):
    """Takes files and posts, and keeps nothing but their size. `pause`: seconds between the pieces it reads; `begun`: one came."""

    def __init__(self) -> None:
        super().__init__(("127.0.0.1", 0), _Answer)
        self.pause, self.media, self.posts = 0.0, 0, 0
        self.begun, self.never = threading.Event(), threading.Event()


class _Answer(BaseHTTPRequestHandler):
    protocol_version = "HTTP/1.1"
    server: Network

    def do_POST(self) -> None:
        self.server.begun.set()
        left = int(self.headers["Content-Length"])
        while left > 0:
            left -= len(self.rfile.read(min(left, _PIECE * 4)))
            self.server.never.wait(self.server.pause)
        if self.path == "/media":
            self.server.media += int(self.headers["Content-Length"])
        else:
            self.server.posts += 1
        self.send_response(201)
        self.send_header("Location", f"http://127.0.0.1/{self.path.strip('/')}/1")
        self.send_header("Content-Length", "0")
        self.end_headers()

    def log_message(self, *_: object) -> None:
        pass


@pytest.fixture
def network(world) -> Iterator[Network]:
    server = Network()
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    address = f"http://127.0.0.1:{server.server_address[1]}"
    world.connection.endpoints |= {"micropub": f"{address}/micropub", "media": f"{address}/media"}
    world.connection.save()
    yield server
    server.shutdown()
    server.server_close()


def large(world, size: int) -> Delivery:
    """A post with a file of so many bytes; what the rules look at says that it is a small picture."""
    sha = f"{size:064x}"
    path = files.file_path(sha)
    path.parent.mkdir(parents=True, exist_ok=True)
    with path.open("wb") as file:
        file.truncate(size)
    asset = Asset.objects.create(
        brand=world.garden, name="moss.jpg", kind="picture", format="jpeg", width=640, height=480, size=9, sha256=sha
    )
    return due(world, "Large", [asset.pk])


def test_an_upload_longer_than_its_lease_stays_its_workers(world, network, settings):
    settings.LEASE = timedelta(seconds=3)
    # Some eight seconds; what lies in between holds less than a second of it.
    delivery, network.pause = large(world, 40_000_000), 0.05
    stolen: list[Delivery] = []
    ended = threading.Event()

    def another_worker() -> None:
        # Before that it would only be the first to take what is due.
        network.begun.wait(60)
        while not ended.wait(0.05):
            stolen.extend(claim_due())

    other = in_thread(another_worker)
    send_due()
    ended.set()
    other.join()
    delivery.refresh_from_db()
    assert (delivery.state, delivery.tries, stolen) == ("published", 1, [])
    assert network.posts == 1 and network.media >= 40_000_000


def test_an_upload_that_never_ends_is_a_try_that_failed(world, network, settings):
    settings.UPLOAD_SECONDS, network.pause = 0.5, 0.1
    delivery = large(world, 24_000_000)
    send_due()
    delivery.refresh_from_db()
    assert (delivery.state, delivery.reason_code, delivery.tries) == ("planned", "down", 1)
    assert delivery.not_before is not None and "too slowly" in delivery.reason and network.posts == 0


def test_a_video_of_half_a_gigabyte_is_never_held_in_memory(world, network):
    delivery = large(world, 500_000_000)
    tracemalloc.start()
    try:
        send_due()
        _, most = tracemalloc.get_traced_memory()
    finally:
        tracemalloc.stop()
    delivery.refresh_from_db()
    assert delivery.state == "published" and network.media >= 500_000_000
    assert most < 40_000_000
