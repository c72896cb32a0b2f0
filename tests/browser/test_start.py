"""From an empty folder to one's own first post: ./menudo start, the first account, an open site, kill -9, backup and restore."""

import json
import re
import shutil
import tarfile
import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import violations
from tests.browser.desk import send_now, sign_in_at_network, tickets
from tests.browser.installation import Installation, Site

PHRASE = "quite-another-phrase"


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
    send_now(page)
    expect(tickets(page, f"{text}.*, published")).to_be_visible()


def test_from_an_empty_folder_to_a_post_that_outlives_a_power_cut(ours: tuple[Installation, Site], page: Page) -> None:
    menudo, site = ours
    code, words = Installation(menudo.folder.parent).run("start")
    assert code == 1 and "holds something else" in words
    said = menudo.start()
    for name in ("secrets.json", "database-password"):
        assert (menudo.folder / name).stat().st_mode & 0o777 == 0o600
    assert menudo.sql("SHOW fsync") == menudo.sql("SHOW full_page_writes") == menudo.sql("SHOW data_checksums") == "on"
    page.goto(menudo.url)
    expect(page.get_by_role("status")).to_contain_text("Nobody has an account here yet.")
    make_account(page, re.search(r"http\S+/set-up/\S+", said).group(0))
    make_first_brand(page)
    read_brand_sheet(page, site)
    connect_open_site(page, site)
    page.get_by_role("button", name="Next: Timetable").click()
    expect(page.get_by_text(re.compile(r"\d+ slots a week"))).to_be_visible()
    page.get_by_role("button", name="Next: First post").click()
    page.get_by_role("link", name="Write the first post").click()
    publish(page, "The first moss of the year")
    assert "The first moss of the year" in site.says()
    try_mail(page, menudo)

    # A power cut: all is there, and nobody is asked to set up again.
    menudo.cut_the_power()
    assert "/set-up/" not in menudo.start()
    page.goto(f"{menudo.url}/fernhollow/calendar")
    expect(tickets(page, "The first moss of the year.*, published")).to_be_visible()
    invite_by_link(page, menudo)
    back_up_and_restore(page, menudo)
    # The site's sign-in came back with it.
    page.goto(f"{menudo.url}/fernhollow/bench/new")
    publish(page, "After the restore")
    assert site.says().count("After the restore") == 1
    give_access_back(page, menudo)

    # An older Menudo refuses a newer one's database.
    menudo.sql("INSERT INTO django_migrations (app, name, applied) VALUES ('posts', '9999_later', now())")
    (menudo.folder / "migrated").write_text("of another")
    menudo.stop()
    code, words = menudo.run("start", "--port", str(menudo.port))
    assert code == 1 and "newer Menudo" in words and json.loads((menudo.folder / "secrets.json").read_text())


def make_account(page: Page, access_link: str) -> None:
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


def make_first_brand(page: Page) -> None:
    expect(page.get_by_role("heading", name="New brand")).to_be_visible()
    page.get_by_label("Name", exact=True).fill("Fernhollow")
    page.get_by_label(re.compile("^Time zone")).fill("Europe/Madrid")
    page.get_by_role("button", name="Make the brand").click()
    expect(page.get_by_role("heading", name="First steps of Fernhollow")).to_be_visible()
    assert violations(page, both=True) == []


def read_brand_sheet(page: Page, site: Site) -> None:
    page.get_by_label("Read a first version").fill("http://127.0.0.1:9/")
    page.get_by_role("button", name="Read my page").click()
    expect(page.get_by_role("alert")).to_contain_text("is not on the public network")
    page.get_by_label("Read a first version").fill(site.address)
    page.get_by_role("button", name="Read my page").click()
    page.get_by_role("button", name=re.compile("^Take all")).click()
    page.get_by_role("button", name="Save the brand sheet").click()
    page.get_by_role("button", name="Next: Profiles").click()


def connect_open_site(page: Page, site: Site) -> None:
    """Only what needs no setting up is offered; the open site is connected by its address."""
    expect(page.get_by_role("button", name=re.compile("^Go to"))).to_have_count(1)
    page.get_by_label("Address of the site").fill(site.address)
    page.get_by_role("button", name="Go to the site").click()
    sign_in_at_network(page, "desk")
    page.get_by_role("checkbox").check()
    page.get_by_role("button", name="Agree").click()
    expect(page.get_by_text("One profile is there: fernhollow")).to_be_visible()


def try_mail(page: Page, menudo: Installation) -> None:
    """What the installation tells whoever manages it."""
    page.goto(f"{menudo.url}/installation")
    expect(page.get_by_text("No mail goes out yet.")).to_be_visible()
    page.get_by_role("button", name="Send a test mail").click()
    expect(page.get_by_text("Write the server's name")).to_be_visible()
    assert violations(page, both=True) == []


def invite_by_link(page: Page, menudo: Installation) -> None:
    """Without mail, a link to hand over."""
    page.goto(f"{menudo.url}/fernhollow/people")
    page.get_by_role("button", name="Invite").click()
    page.get_by_label("E-mail address").fill("bea@example.org")
    page.get_by_role("button", name="Send the invitation").click()
    expect(page.get_by_label("The link")).to_have_value(re.compile(f"^{menudo.url}/invitation/"))


def back_up_and_restore(page: Page, menudo: Installation) -> None:
    """A backup while it runs; what came after it is gone when it is restored, and kept aside."""
    file, broken = menudo.folder.parent / "kept.tar", menudo.folder.parent / "broken.tar"
    assert menudo.run("backup", str(file))[0] == 0 and file.stat().st_mode & 0o777 == 0o600
    assert menudo.run("backup", str(file))[0] == 1, "nothing is written over"
    code, words = menudo.run("restore", str(file))
    assert code == 1 and "stop that first" in words
    page.goto(f"{menudo.url}/fernhollow/bench/new")
    publish(page, "After the backup")
    menudo.stop()
    broken.write_bytes(file.read_bytes()[: file.stat().st_size // 2])
    code, words = menudo.run("restore", str(broken))
    assert code == 1 and "Traceback" not in words
    code, words = menudo.run("restore", str(file))
    assert code == 0, words
    with tarfile.open(re.search(r"kept first: (\S+)", words).group(1)) as tar:
        assert {"about.json", "secrets.json", "database.sql.gz"} <= set(tar.getnames())
    # A newer Menudo names the backup that it made before it migrates.
    assert re.search(r"before-migrating-\S+\.tar", menudo.start())
    page.goto(f"{menudo.url}/fernhollow/calendar")
    expect(tickets(page, "The first moss of the year.*, published")).to_be_visible()
    expect(tickets(page, "After the backup")).to_have_count(0)


def give_access_back(page: Page, menudo: Installation) -> None:
    """Access lost, and given back from the shell."""
    _, words = menudo.run("invite", "ada@example.org")
    page.goto(re.search(r"http\S+/set-up/\S+", words).group(0))
    expect(page.get_by_text("Welcome back, Ada Orozco.")).to_be_visible()
    page.get_by_label(re.compile("^Password")).fill(PHRASE + " again")
    page.get_by_role("button", name="Save and sign in").click()
    expect(page.get_by_role("grid")).to_be_visible()
    assert menudo.run("invite", "nonsense")[0] == 1
