"""./menudo start: Menudo for one's own use on one machine. Everything it keeps is in one folder: see tools/home.py."""

import argparse
import signal
import socket
import time
from datetime import UTC, datetime

from tools import setup
from tools.backup import write_backup
from tools.home import DATABASE, PORT, Home
from tools.programs import Programs, gunicorn
from tools.stack import migrations_digest

# A program that ends again and again isn't started for ever.
_ENDS_MOST, _WITHIN_SECONDS = 5, 60
# How long a port may be left in the hands of what was killed a moment ago.
_PORT_SECONDS = 15


def run(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./menudo start")
    parser.add_argument(
        "--port", type=int, default=0, help=f"the port on this machine (first {PORT}, then as last time)"
    )
    parser.add_argument("--web", type=int, default=1, help="web processes")
    given = parser.parse_args(arguments)
    if not 0 <= given.port < 65536 or given.web < 1:
        parser.error("a port is between 1 and 65535, and there is at least one web process")
    setup.install_debian("postgresql", "ca-certificates")
    setup.install_python()
    setup.install_web()
    home = Home(given.port)
    with home.lock("./menudo start"):
        _wait_for_port(home.port)
        home.save_port()
        home.secrets()
        return _run(home, given.web)


def _run(home: Home, web: int) -> int:
    signals: list[int] = []
    for sign in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(sign, lambda number, _: signals.append(number))
    programs = None
    try:
        home.cluster.start()
        # One that was left running, when this was killed last time, is ended too.
        home.cluster.started = True
        home.cluster.make_database(DATABASE)
        programs = Programs(home.logs, home.env())
        migrate_database(home, programs)
        # Each ends when this does, however this ends.
        commands = {
            "web": _ending_with_parent(gunicorn(f"127.0.0.1:{home.port}", web)),
            "worker": _ending_with_parent([str(setup.PYTHON), "server/manage.py", "work"]),
        }
        for name, command in commands.items():
            programs.start(name, command)
        programs.wait_for(f"http://127.0.0.1:{home.port}/health", "web")
        _print_addresses(home, programs)
        _supervise(programs, commands, signals)
        return 0
    finally:
        if programs:
            programs.stop()
        home.cluster.stop()


def migrate_database(home: Home, programs: Programs) -> None:
    """Migrate the database, after a backup when there is something in it. Raises SetupError for one of a newer Menudo's."""
    stamp, now = home.folder / "migrated", migrations_digest()
    if stamp.is_file() and stamp.read_text() == now:
        return
    if _has_users(home):
        rows = home.cluster.sql("SELECT app || '/' || name FROM django_migrations", DATABASE).split()
        refuse_newer(rows, f"The database in {home.folder}")
        file = home.backups / f"before-migrating-{datetime.now(UTC):%Y%m%d-%H%M%S}.tar"
        setup.print_step(f"this Menudo is another than the one before; what there is, is kept first: {file}")
        write_backup(home, file)
    programs.manage("migrate", "--no-input", "-v", "0")
    programs.manage("createcachetable")
    stamp.write_text(now)


def _has_users(home: Home) -> bool:
    """Whether somebody has an account: what was broken off while it was made for the first time holds nothing to keep."""
    there = home.cluster.sql("SELECT to_regclass('people_user')", DATABASE).strip()
    return bool(there and home.cluster.sql("SELECT 1 FROM people_user LIMIT 1", DATABASE).strip())


def refuse_newer(applied: list[str], what: str) -> None:
    """Raises SetupError when migrations were applied that this checkout doesn't have."""
    apps = {folder.parent.name for folder in (setup.ROOT / "server" / "menudo").glob("*/migrations")}
    known = {
        f"{file.parent.parent.name}/{file.stem}"
        for file in (setup.ROOT / "server" / "menudo").glob("*/migrations/*.py")
    }
    if newer := sorted(one for one in applied if one.split("/")[0] in apps and one not in known):
        raise setup.SetupError(
            f"{what} is a newer Menudo's than this one ({newer[0]} is unknown here): update Menudo, then try again"
        )


def _ending_with_parent(command: list[str]) -> list[str]:
    return ["setpriv", "--pdeathsig", "TERM", *command]


def _wait_for_port(port: int) -> None:
    until = time.monotonic() + _PORT_SECONDS
    while True:
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
                return
            except OSError as error:
                if time.monotonic() > until:
                    raise setup.SetupError(
                        f"port {port} is in use: end what uses it, or choose another (./menudo start --port 8700)"
                    ) from error
        time.sleep(0.2)


def _print_addresses(home: Home, programs: Programs) -> None:
    print(f"\n  Menudo  {home.url}")
    if not _has_users(home):
        print(programs.manage("issue_access_link"), end="")
    print(f"  all it keeps: {home.folder}\n\n  ctrl-C ends everything.\n", flush=True)


def _supervise(programs: Programs, commands: dict[str, list[str]], signals: list[int]) -> None:
    """Start again what ends by itself, until this is told to end."""
    ends: list[float] = []
    while not signals:
        for name, process in list(programs.processes.items()):
            if process.poll() is None:
                continue
            ends = [one for one in ends if time.monotonic() - one < _WITHIN_SECONDS] + [time.monotonic()]
            if len(ends) > _ENDS_MOST:
                raise setup.SetupError(f"{name} ends again and again: see {programs.folder}/{name}.log")
            setup.print_step(f"{name} ended; starting it again")
            programs.start(name, commands[name])
        time.sleep(0.2)
    setup.print_step("ending")
