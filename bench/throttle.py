"""A slow way to the stand-in: a relay on a port of its own that lets large requests through at so many bytes a second."""

import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from urllib.parse import urlsplit

_PIECE = 32_768
# Whoever sends must not be able to hand all of it to the kernel at once.
_BUFFER = 65_536
# A connection that says nothing for so long has ended its request.
_PAUSE_SECONDS = 0.05


@contextmanager
def throttled_relay(address: str, bytes_a_second: int, free: int = 200_000) -> Iterator[str]:
    """The address of the relay to `address`; each connection's first `free` bytes pass at once."""
    there = (urlsplit(address).hostname or "", urlsplit(address).port or 80)
    with socket.socket() as listening:
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, _BUFFER)
        listening.bind(("127.0.0.1", 0))
        listening.listen(64)
        thread = threading.Thread(
            target=_accept_connections, args=(listening, there, bytes_a_second, free), daemon=True
        )
        thread.start()
        yield f"http://127.0.0.1:{listening.getsockname()[1]}"
        # Wakes the thread that waits for the next connection.
        listening.shutdown(socket.SHUT_RDWR)
    thread.join(5)


def _accept_connections(listening: socket.socket, there: tuple[str, int], rate: int, free: int) -> None:
    while True:
        try:
            here, _ = listening.accept()
        except OSError:
            return
        try:
            beyond = socket.create_connection(there, 5)
        except OSError:
            here.close()
            continue
        beyond.settimeout(None)
        for one, other, pace in ((here, beyond, rate), (beyond, here, 0)):
            threading.Thread(target=_copy_throttled, args=(one, other, pace, free), daemon=True).start()


def _copy_throttled(one: socket.socket, other: socket.socket, rate: int, free: int) -> None:
    passed, last = 0, time.monotonic()
    with suppress(OSError):
        while piece := one.recv(_PIECE):
            if time.monotonic() - last > _PAUSE_SECONDS:
                # Another request, as near as can be told.
                passed = 0
            other.sendall(piece)
            passed += len(piece)
            if rate and passed > free:
                time.sleep(len(piece) / rate)
            last = time.monotonic()
    for end in (one, other):
        with suppress(OSError):
            end.shutdown(socket.SHUT_RDWR)
