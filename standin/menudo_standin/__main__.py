"""Run the stand-in networks: python -m menudo_standin --port 8601 --data FOLDER --menudo http://127.0.0.1:8600"""

import argparse
import logging
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
    given = parser.parse_args()
    # A broken-off answer is one of the things it is asked to do; waitress need not complain of it.
    logging.getLogger("waitress").setLevel(logging.ERROR)
    app = create_app(given.data, given.menudo + "/connect/back", given.access_seconds)
    serve(app, host="127.0.0.1", port=given.port, threads=48, channel_timeout=180)


if __name__ == "__main__":
    main()
