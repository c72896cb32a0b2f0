"""Open live streams as browsers do, and read them: `python -m bench.listeners HOST PORT PATH COUNT`, with
COUNT sessions' keys on stdin, a line each.

Says "open N" when all are, and how many changes came at one line more.
"""

import asyncio
import sys


async def main(host: str, port: int, path: str, sessions: list[str]) -> None:
    heard = [0]

    async def listen(session: str, ready: asyncio.Event) -> None:
        reader, writer = await asyncio.open_connection(host, port)
        writer.write(f"GET {path} HTTP/1.1\r\nHost: {host}:{port}\r\nCookie: sessionid={session}\r\n\r\n".encode())
        while line := await reader.readline():
            if line == b"event: ready\n":
                ready.set()
            heard[0] += line == b"event: change\n"
        # A refused or lost stream is told: the count wouldn't be that of the bench.
        print("lost", flush=True)

    tasks = []
    for session in sessions:
        ready = asyncio.Event()
        tasks.append(asyncio.create_task(listen(session, ready)))
        await ready.wait()
    print(f"open {len(tasks)}", flush=True)
    await asyncio.get_running_loop().run_in_executor(None, sys.stdin.readline)
    print(f"heard {heard[0]}", flush=True)
    for task in tasks:
        task.cancel()


if __name__ == "__main__":
    count = int(sys.argv[4])
    asyncio.run(main(sys.argv[1], int(sys.argv[2]), sys.argv[3], [sys.stdin.readline().strip() for _ in range(count)]))
