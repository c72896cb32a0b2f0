"""./menudo, from where the shell hands over. Only the standard library may be imported here and in what this imports."""

import sys
from collections.abc import Callable

from tools import (
    backup,
    bench,
    build,
    check,
    demo,
    invite,
    lock,
    migrate,
    restore,
    rotate_keys,
    serve,
    shots,
    start,
    test,
)

COMMANDS: dict[str, tuple[Callable[[list[str]], int], str]] = {
    "demo": (
        demo.run,
        "set up, load the demo's world, start everything, print the address and the sign-ins [--fresh] [--large]",
    ),
    "start": (start.run, "Menudo for one's own use: everything in one folder, MENUDO_HOME [--port N]"),
    "backup": (backup.run, "keep everything of ./menudo start in one file: FILE"),
    "restore": (restore.run, "make everything as it was when the backup was made: FILE"),
    "invite": (invite.run, "a one-time address for a new person, or for one who lost access: EMAIL"),
    "test": (test.run, "run the tests: [core|server|standin|web|browser] [pytest arguments]"),
    "check": (
        check.run,
        "ruff, mypy, import-linter, tsc, biome; migrations and the API schema up to date [--write] [--fast]",
    ),
    "bench": (bench.run, "measure against the budgets: [name] [--json]"),
    "shots": (shots.run, "make the pictures in docs/screenshots from the demo's world"),
    "lock": (lock.run, "resolve the Python packages anew, for every Python that Menudo runs on [uv's arguments]"),
    "build": (build.run, "make all that serve needs; or a release to unpack elsewhere [--release FILE.tar.gz]"),
    "migrate": (migrate.run, "bring the database of serve to this version, beside what runs"),
    "rotate-keys": (rotate_keys.run, "seal every secret of serve again with the first of MENUDO_TOKEN_KEYS"),
    "serve": (
        serve.run,
        "production: starts, and does nothing else; settings from the environment [--web N] [--workers N] [--bind HOST:PORT]",
    ),
}


def main() -> int:
    if len(sys.argv) < 2 or sys.argv[1] not in COMMANDS:
        print("usage: ./menudo COMMAND\n")
        for name, (_, words) in COMMANDS.items():
            print(f"  {name:11} {words}")
        return 0 if len(sys.argv) < 2 or sys.argv[1] in ("-h", "--help", "help") else 2
    try:
        return COMMANDS[sys.argv[1]][0](sys.argv[2:])
    except KeyboardInterrupt:
        return 130


if __name__ == "__main__":
    sys.exit(main())
