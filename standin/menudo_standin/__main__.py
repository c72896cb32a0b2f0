"""Run the stand-in networks: python -m menudo_standin --port 8601 --data FOLDER --menudo http://127.0.0.1:8600"""

import argparse
import logging
import socket
from pathlib import Path

from waitress import serve

from menudo_standin.app import create_app
from menudo_standin.oauth import ACCESS_SECONDS


def main() -> None:
    parser = argparse.ArgumentParser(prog="menudo_standin", description="The stand-in networks")
    parser.add_argument("--port", type=int, default=8601)
    parser.add_argument("--data", type=Path, required=True)
    parser.add_argument("--menudo", default="http://127.0.0.1:8600", help="the address that people are sent back to")
    parser.add_argument("--access-seconds", type=int, default=ACCESS_SECONDS)
    parser.add_argument("--no-pace", action="store_true", help="the networks' pace and quotas aren't kept")
    given = parser.parse_args()
    # A broken-off answer is one of the things it is asked to do; waitress need not complain of it.
    logging.getLogger("waitress").setLevel(logging.ERROR)
    app = create_app(given.data, given.menudo + "/connect/back", given.access_seconds, not given.no_pace)
    # Whoever starts it may hold the port for it until it does.
    at = socket.socket()
    at.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    at.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    at.bind(("127.0.0.1", given.port))
    serve(app, sockets=[at], threads=48, channel_timeout=180)


if __name__ == "__main__":
    main()
