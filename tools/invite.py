"""./menudo invite EMAIL: a one-time address, for a new person or for one who lost access."""

import argparse
import os

from tools import setup
from tools.home import Home
from tools.programs import Programs
from tools.serve import require_built, serving_env


def run(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./menudo invite")
    parser.add_argument("email", help="of whom it is for: a new person, or one who lost access")
    email = parser.parse_args(arguments).email
    # Where ./menudo serve is told of its database, that one is meant; else the one of ./menudo start.
    if os.environ.get("MENUDO_DATABASE_URL"):
        require_built()
        print(Programs(setup.VAR, serving_env()).manage("issue_access_link", "--email", email), end="")
        return 0
    home = Home()
    if not home.cluster.is_running():
        raise setup.SetupError("Menudo doesn't run: ./menudo start starts it; then try again in another window")
    print(Programs(home.logs, home.env()).manage("issue_access_link", "--email", email), end="")
    return 0
