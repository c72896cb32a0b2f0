"""From an empty folder to one's own first post: ./menudo start, the first account, an open site, kill -9, backup and restore."""

import json
import os
import re
import shutil
import signal
import subprocess
import sys
import tarfile
import tempfile
import threading
from collections.abc import Iterator
from pathlib import Path

import httpx2
import pytest
from playwright.sync_api import Page, expect
from tools.database import hold_port
from tools.home import DATABASE, Home
from tools.programs import Programs
from tools.setup import PYTHON, ROOT

from tests.browser.conftest import violations
from tests.browser.test_profiles import network_sign_in
from tests.browser.test_story import tickets
from tests.standins import SITE

PHRASE = "quite-another-phrase"


class Site:
    """A web site that speaks Micropub, run by somebody else: all that Menudo learns of it is its address."""

    def __init__(self, folder: Path, menudo: str) -> None:
        self.held = hold_port()
        port = self.held.getsockname()[1]
        self.host = f"127.0.0.1:{port}"
        self.address = f"http://{self.host}/site/fernhollow/"
        paths = {**os.environ, "PYTHONPATH": str(ROOT / "standin")}
        self.programs = Programs(folder, paths)
        command = [
            str(PYTHON),
            "-m",
            "menudo_standin",
            "--port",
            str(port),
            "--data",
            str(folder / "data"),
            "--menudo",
            menudo,
        ]
        self.programs.start("site", [*command, "--no-pace"])
        self.programs.wait_for(f"http://{self.host}/health", "site")
        profile = {
            "uid": "fernhollow",
            "handle": "fernhollow",
            "name": "Fernhollow",
            "kind": "site",
            "followers": 0,
            "facts": {},
        }
        owner = {
            "network": "open-site",
            "login": "desk",
            "password": "starlight",
            "name": "The desk",
            "profiles": [profile],
        }
        httpx2.post(
            f"http://{self.host}/control/api/seed", json={"empty": True, "accounts": [owner], "sites": [SITE]}
        ).raise_for_status()

    def says(self) -> str:
        return httpx2.get(self.address).text

    def stop(self) -> None:
        self.programs.stop()
        self.held.close()


class Installation:
    """`./menudo` on a folder of its own, as a person at a shell runs it."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.held = hold_port()
        self.port = self.held.getsockname()[1]
        self.held.close()
        self.url = f"http://127.0.0.1:{self.port}"
        self.env = {name: value for name, value in os.environ.items() if not name.startswith("MENUDO_")}
        self.env |= {"MENUDO_HOME": str(folder)}
        self.process: subprocess.Popen[str] | None = None

    def start(self) -> str:
        """Until it says that it runs; what it said."""
        command = [sys.executable, "-m", "tools.main", "start", "--port", str(self.port)]
        self.process = subprocess.Popen(
            command,
            cwd=ROOT,
            env={**self.env, "PYTHONUNBUFFERED": "1"},
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            start_new_session=True,
        )
        said = ""
        assert self.process.stdout
        for line in self.process.stdout:
            said += line
            if "ctrl-C" in line:
                # What it says later is read too, so that it never waits for a reader.
                threading.Thread(target=self.process.stdout.read, daemon=True).start()
                return said
        raise AssertionError(f"it ended: {said}")

    def stop(self) -> None:
        if self.process and self.process.poll() is None:
            self.process.send_signal(signal.SIGTERM)
            assert self.process.wait(60) == 0
        self.process = None

    def cut_the_power(self) -> None:
        """Signal 9 to the program and to the database, at once."""
        assert self.process
        postmaster = int((self.folder / "database" / "postmaster.pid").read_text().split()[0])
        os.kill(self.process.pid, signal.SIGKILL)
        os.kill(postmaster, signal.SIGKILL)
        self.process.wait()

    def run(self, *arguments: str) -> tuple[int, str]:
        ran = subprocess.run(
            [sys.executable, "-m", "tools.main", *arguments], cwd=ROOT, env=self.env, capture_output=True, text=True
        )
        return ran.returncode, ran.stdout + ran.stderr

    def sql(self, statement: str) -> str:
        os.environ["MENUDO_HOME"] = str(self.folder)
        try:
            return Home().cluster.sql(statement, DATABASE).strip()
        finally:
            del os.environ["MENUDO_HOME"]


@pytest.fixture
def ours() -> Iterator[tuple[Installation, Site]]:
    # Where the database's own user gets in: a test's own folder is closed to it.
    folder = Path(tempfile.mkdtemp(prefix="menudo-start-", dir="/var/tmp"))
    folder.chmod(0o755)
    installation = Installation(folder / "home")
    site = Site(folder / "site", installation.url)
    installation.env["MENUDO_FETCH_ALLOWED"] = site.host
    try:
        yield installation, site
    finally:
        installation.stop()
        site.stop()
        shutil.rmtree(folder)


@pytest.fixture
def browser_context_args() -> dict:
    return {"viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}


def publish(page: Page, text: str) -> None:
    page.get_by_label("Text of the master").fill(text)
    page.get_by_label("Now").check()
    page.get_by_role("button", name="Send").click()
    expect(tickets(page, f"{text}.*, published")).to_be_visible()


def test_from_an_empty_folder_to_a_post_that_outlives_a_power_cut(ours: tuple[Installation, Site], page: Page) -> None:
    menudo, site = ours
    code, words = Installation(menudo.folder.parent).run("start")
    assert code == 1 and "holds something else" in words
    said = menudo.start()
    for name in ("secrets.json", "database-password"):
        assert (menudo.folder / name).stat().st_mode & 0o777 == 0o600
    assert menudo.sql("SHOW fsync") == menudo.sql("SHOW full_page_writes") == menudo.sql("SHOW data_checksums") == "on"
    access_link = re.search(r"http\S+/set-up/\S+", said).group(0)

    # The first person: an account, a brand with its zone.
    page.goto(menudo.url)
    expect(page.get_by_role("status")).to_contain_text("Nobody has an account here yet.")
    page.goto(access_link)
    page.get_by_label("Name").fill("Ada Orozco")
    page.get_by_label("E-mail address").fill("ada@example")
    page.get_by_label(re.compile("^Password")).fill("short")
    page.get_by_role("button", name="Make the account").click()
    expect(page.get_by_text("That is not an e-mail address.")).to_be_visible()
    expect(page.get_by_text("This password is too short")).to_be_visible()
    assert violations(page, both=True) == []
    page.get_by_label("E-mail address").fill("ada@example.org")
    page.get_by_label(re.compile("^Password")).fill(PHRASE)
    page.get_by_role("button", name="Make the account").click()
    expect(page.get_by_role("heading", name="New brand")).to_be_visible()
    page.get_by_label("Name", exact=True).fill("Fernhollow")
    page.get_by_label(re.compile("^Time zone")).fill("Europe/Madrid")
    page.get_by_role("button", name="Make the brand").click()

    # Led on, a step at a time: the brand sheet from the site.
    expect(page.get_by_role("heading", name="First steps of Fernhollow")).to_be_visible()
    assert violations(page, both=True) == []
    page.get_by_label("Read a first version").fill("http://127.0.0.1:9/")
    page.get_by_role("button", name="Read my page").click()
    expect(page.get_by_role("alert")).to_contain_text("is not on the public network")
    page.get_by_label("Read a first version").fill(site.address)
    page.get_by_role("button", name="Read my page").click()
    page.get_by_role("button", name=re.compile("^Take all")).click()
    page.get_by_role("button", name="Save the brand sheet").click()
    page.get_by_role("button", name="Next: Profiles").click()

    # Only what needs no setting up is offered; the open site is connected by its address.
    expect(page.get_by_role("button", name=re.compile("^Go to"))).to_have_count(1)
    page.get_by_label("Address of the site").fill(site.address)
    page.get_by_role("button", name="Go to the site").click()
    network_sign_in(page, "desk")
    page.get_by_role("checkbox").check()
    page.get_by_role("button", name="Agree").click()
    expect(page.get_by_text("One profile is there: fernhollow")).to_be_visible()
    page.get_by_role("button", name="Next: Timetable").click()
    expect(page.get_by_text(re.compile(r"\d+ slots a week"))).to_be_visible()
    page.get_by_role("button", name="Next: First post").click()
    page.get_by_role("link", name="Write the first post").click()
    publish(page, "The first moss of the year")
    assert "The first moss of the year" in site.says()

    # What the installation tells whoever manages it.
    page.goto(f"{menudo.url}/installation")
    expect(page.get_by_text("No mail goes out yet.")).to_be_visible()
    page.get_by_role("button", name="Send a test mail").click()
    expect(page.get_by_text("Write the server's name")).to_be_visible()
    assert violations(page, both=True) == []

    # A power cut: all is there, and nobody is asked to set up again.
    menudo.cut_the_power()
    assert "/set-up/" not in menudo.start()
    page.goto(f"{menudo.url}/fernhollow/calendar")
    expect(tickets(page, "The first moss of the year.*, published")).to_be_visible()

    # Without mail, a link to hand over.
    page.goto(f"{menudo.url}/fernhollow/people")
    page.get_by_role("button", name="Invite").click()
    page.get_by_label("E-mail address").fill("bea@example.org")
    page.get_by_role("button", name="Send the invitation").click()
    expect(page.get_by_label("The link")).to_have_value(re.compile(f"^{menudo.url}/invitation/"))

    # A backup while it runs; what came after it is gone when it is restored, and kept aside.
    file = menudo.folder.parent / "kept.tar"
    assert menudo.run("backup", str(file))[0] == 0 and file.stat().st_mode & 0o777 == 0o600
    assert menudo.run("backup", str(file))[0] == 1, "nothing is written over"
    code, words = menudo.run("restore", str(file))
    assert code == 1 and "stop that first" in words
    page.goto(f"{menudo.url}/fernhollow/bench/new")
    publish(page, "After the backup")
    menudo.stop()
    broken = menudo.folder.parent / "broken.tar"
    broken.write_bytes(file.read_bytes()[: file.stat().st_size // 2])
    code, words = menudo.run("restore", str(broken))
    assert code == 1 and "Traceback" not in words
    code, words = menudo.run("restore", str(file))
    assert code == 0, words
    aside = re.search(r"kept first: (\S+)", words).group(1)
    with tarfile.open(aside) as tar:
        assert {"about.json", "secrets.json", "database.sql.gz"} <= set(tar.getnames())

    # A newer Menudo names the backup that it made; an older one refuses.
    menudo_said = menudo.start()
    assert re.search(r"before-migrating-\S+\.tar", menudo_said)
    page.goto(f"{menudo.url}/fernhollow/calendar")
    expect(tickets(page, "The first moss of the year.*, published")).to_be_visible()
    expect(tickets(page, "After the backup")).to_have_count(0)
    # The site's sign-in came back with it.
    page.goto(f"{menudo.url}/fernhollow/bench/new")
    publish(page, "After the restore")
    assert site.says().count("After the restore") == 1

    # Access lost, and given back from the shell.
    code, words = menudo.run("invite", "ada@example.org")
    page.goto(re.search(r"http\S+/set-up/\S+", words).group(0))
    expect(page.get_by_text("Welcome back, Ada Orozco.")).to_be_visible()
    page.get_by_label(re.compile("^Password")).fill(PHRASE + " again")
    page.get_by_role("button", name="Save and sign in").click()
    expect(page.get_by_role("grid")).to_be_visible()
    assert menudo.run("invite", "nonsense")[0] == 1
    menudo.sql("INSERT INTO django_migrations (app, name, applied) VALUES ('posts', '9999_later', now())")
    (menudo.folder / "migrated").write_text("of another")
    menudo.stop()
    code, words = menudo.run("start", "--port", str(menudo.port))
    assert code == 1 and "newer Menudo" in words and json.loads((menudo.folder / "secrets.json").read_text())
