"""A site of somebody else's, which answers as a test says."""

import json
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any


class Site(ThreadingHTTPServer):
    """`pages`: by path, what is answered, with its type; JSON for what isn't bytes. `asked`: the requests' headers, in their order."""

    def __init__(self) -> None:
        super().__init__(("127.0.0.1", 0), _Answer)
        self.pages: dict[str, Any] = {}
        self.headers: dict[str, str] = {}
        # Where it is set, what it says of itself drips, a byte each time, until it is set again.
        self.drip: threading.Event | None = None
        self.asked: list[dict[str, str]] = []

    @property
    def host(self) -> str:
        return f"127.0.0.1:{self.server_address[1]}"

    @property
    def url(self) -> str:
        return f"http://{self.host}"


class _Answer(BaseHTTPRequestHandler):
    server: Site

    def do_GET(self) -> None:
        self.server.asked.append(dict(self.headers))
        if self.server.drip is not None:
            self._drip(self.server.drip)
            return
        page = self.server.pages.get(self.path)
        body = page if isinstance(page, bytes) else json.dumps(page).encode()
        self.send_response(404 if page is None else 200)
        self.send_header("Content-Type", "text/html" if isinstance(page, bytes) else "application/json")
        for name, value in self.server.headers.items():
            self.send_header(name, value)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def do_POST(self) -> None:
        self.rfile.read(int(self.headers["Content-Length"]))
        self.do_GET()

    def _drip(self, ended: threading.Event) -> None:
        try:
            for byte in b"HTTP/1.1 200 OK\r\nX-Moss: " + b"a" * 10_000:
                self.wfile.write(bytes([byte]))
                if ended.wait(0.05):
                    return
        except OSError:
            return

    def log_message(self, *_: object) -> None:
        pass


@contextmanager
def running_site() -> Iterator[Site]:
    site = Site()
    thread = threading.Thread(target=site.serve_forever, daemon=True)
    thread.start()
    try:
        yield site
    finally:
        site.shutdown()
        site.server_close()
        thread.join(5)
