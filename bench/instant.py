"""An instant stand-in: answers every Micropub request at once and counts the keys it was given. No judging, no keeping."""

import asyncio
import sys

_CREATED = b"HTTP/1.1 201 Created\r\nLocation: http://127.0.0.1/brisk/p/1\r\nContent-Length: 0\r\n\r\n"


class Instant(asyncio.Protocol):
    """One kept connection. GET answers how many different keys were posted, and how often a key came twice."""

    keys: set[bytes] = set()
    twice = 0

    def __init__(self) -> None:
        self.buffer = b""

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        self.transport = transport

    def data_received(self, data: bytes) -> None:
        self.buffer += data
        while (end := self.buffer.find(b"\r\n\r\n")) >= 0:
            head = dict(line.lower().split(b": ", 1) for line in self.buffer[:end].split(b"\r\n")[1:])
            whole = end + 4 + int(head.get(b"content-length", b"0"))
            if len(self.buffer) < whole:
                return
            asked, self.buffer = self.buffer[:whole], self.buffer[whole:]
            self._answer(asked, head)

    def _answer(self, asked: bytes, head: dict[bytes, bytes]) -> None:
        if asked.startswith(b"POST"):
            # A token that is asked for is no post.
            if b"/micropub " in asked.partition(b"\r\n")[0]:
                key = head.get(b"idempotency-key", b"")
                Instant.twice += key in Instant.keys
                Instant.keys.add(key)
            self.transport.write(_CREATED)  # type: ignore[attr-defined]
            return
        body = f"{len(Instant.keys)} {Instant.twice}".encode()
        self.transport.write(b"HTTP/1.1 200 OK\r\nContent-Length: %d\r\n\r\n%b" % (len(body), body))  # type: ignore[attr-defined]


async def main(port: int) -> None:
    server = await asyncio.get_running_loop().create_server(Instant, "127.0.0.1", port, reuse_port=True)
    await server.serve_forever()


if __name__ == "__main__":
    asyncio.run(main(int(sys.argv[1])))
