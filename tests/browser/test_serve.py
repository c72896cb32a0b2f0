"""./menudo build, migrate and serve, as on a server: nothing is made at start, and the database is migrated apart."""

import os
import signal
import subprocess
import sys
import tarfile
import uuid
from collections.abc import Iterator
from pathlib import Path

import httpx2
import pytest
from tools.database import Cluster, hold_port
from tools.programs import Programs
from tools.setup import ROOT

# A connection for each request, so that either process may get it.
ANEW = httpx2.Limits(max_keepalive_connections=0)


@pytest.fixture
def server(tmp_path: Path) -> Iterator[dict[str, str]]:
    """What ./menudo serve is told: an empty database, and no demo."""
    cluster, name = Cluster(), f"menudo_serve_{uuid.uuid4().hex[:8]}"
    cluster.start()
    cluster.make_database(name)
    held = hold_port()
    port = held.getsockname()[1]
    held.close()
    env = {key: value for key, value in os.environ.items() if not key.startswith("MENUDO_")}
    yield {
        **env,
        "MENUDO_SECRET_KEY": "k" * 50,
        "MENUDO_TOKEN_KEYS": "t" * 50,
        "MENUDO_DATABASE_URL": cluster.url(name),
        "MENUDO_PUBLIC_URL": f"http://127.0.0.1:{port}",
        "MENUDO_MEDIA": str(tmp_path / "media"),
        "MENUDO_METRICS_TOKEN": "scrape",
    }
    cluster.drop_database(name)
    cluster.stop()


def command(*arguments: str) -> list[str]:
    return [sys.executable, "-m", "tools.main", *arguments]


def run(env: dict[str, str], *arguments: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(command(*arguments), cwd=ROOT, env=env, capture_output=True, text=True)


def test_a_server_is_migrated_then_served_and_told_what_is_wrong(server, tmp_path):
    wrong = run({**server, "MENUDO_LEASE_SECONDS": "soon", "MENUDO_PUBLIC_URL": ""}, "serve")
    assert wrong.returncode == 1 and "Traceback" not in wrong.stderr
    assert (
        "MENUDO_LEASE_SECONDS is a number of seconds" in wrong.stderr and "MENUDO_PUBLIC_URL is not set" in wrong.stderr
    )
    early = run(server, "serve")
    assert early.returncode == 1 and "./menudo migrate" in early.stderr
    # Two at once, as two machines would: one waits, and only one of them finds nobody there.
    both = [subprocess.Popen(command("migrate"), cwd=ROOT, env=server, stdout=subprocess.PIPE, text=True) for _ in "ab"]
    told = [process.communicate()[0] for process in both]
    assert [process.returncode for process in both] == [0, 0] and any("/set-up/" in words for words in told)
    port = server["MENUDO_PUBLIC_URL"].rsplit(":", 1)[1]
    # How long it takes is not what is asked: two web processes and a worker start at once here, beside the other tests.
    ask = httpx2.Client(base_url=server["MENUDO_PUBLIC_URL"], timeout=60, limits=ANEW).get
    programs = Programs(tmp_path, server)
    serving = programs.start("serve", command("serve", "--web", "2", "--bind", f"127.0.0.1:{port}"))
    try:
        programs.wait_for(f"{server['MENUDO_PUBLIC_URL']}/health", "serve")
        # As a proxy keeps its connections.
        patient = httpx2.Limits(keepalive_expiry=60)
        kept = httpx2.Client(base_url=server["MENUDO_PUBLIC_URL"], timeout=60, limits=patient)
        connection = kept.get("/health").extensions["network_stream"]
        page = ask("/")
        assert page.status_code == 200 and "<div id=" in page.text
        counts = ask("/metrics", headers={"Authorization": "Bearer scrape"}).text
        assert 'menudo_request_seconds_count{method="GET"' in counts and "menudo_worker_hearts" in counts
        # No program of this machine can say that it asks for another, where no proxy is named.
        forged = [{"X-Forwarded-For": f"192.0.2.{n}", "X-Real-IP": f"192.0.2.{n}"} for n in range(31)]
        asked = [ask("/api/invitations/x", headers=one) for one in forged]
        assert [answer.status_code for answer in asked] == [404] * 30 + [429]
        # Beside what runs it does no harm.
        assert run(server, "migrate").returncode == 0
        # Seconds later the connection is still good for a request.
        assert kept.get("/health").extensions["network_stream"] is connection
        kept.close()
    finally:
        serving.send_signal(signal.SIGTERM)
        assert serving.wait(60) == 0
        programs.stop()


def test_a_release_holds_what_runs_and_nothing_else(server, tmp_path):
    file = tmp_path / "release.tar.gz"
    assert run(server, "build", "--release", str(file)).returncode == 0
    again = tmp_path / "again.tar.gz"
    assert run(server, "build", "--release", str(again)).returncode == 0 and again.read_bytes() == file.read_bytes()
    with tarfile.open(file) as tar:
        names = {name.split("/", 1)[1] for name in tar.getnames() if "/" in name}
        tar.extractall(tmp_path, filter="data")
    assert {
        "menudo",
        "requirements.txt",
        "server/manage.py",
        "web/dist/index.html",
        "deploy/compose.yaml",
        "RELEASE",
    } <= names
    assert not [name for name in names if name.startswith(("standin", "tests", "demo", "web/src", "var"))]
    (folder,) = (path for path in tmp_path.iterdir() if path.name.startswith("menudo-"))
    # It says what is missing there instead of making it at start.
    said = subprocess.run([folder / "menudo", "serve"], env=server, capture_output=True, text=True)
    assert said.returncode == 1 and "./menudo build" in said.stderr
