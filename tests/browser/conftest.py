"""The whole product in a real browser: a stack of its own with the demo's world, and headless Chromium."""

import os
import re
import uuid
from collections.abc import Callable, Generator, Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from demo.pictures import draw_fern, encode_picture
from playwright.sync_api import Browser, BrowserContext, Page, expect
from tools.chromium import FLAGS, PROGRAM
from tools.database import Cluster
from tools.demo import load
from tools.setup import ROOT
from tools.stack import Stack

from tests.films import film

AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text("utf-8")
# Long, for a machine that is starved by its neighbours: what holds is seen at once all the same.
PATIENCE_MS = 60_000
expect.set_options(timeout=PATIENCE_MS)


# A story of minutes that begins last is waited for alone.
_LONGEST_FIRST = ("test_serve.py", "test_eight_networks.py")


@pytest.hookimpl(trylast=True)
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    items.sort(key=lambda item: item.path.name not in _LONGEST_FIRST)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict:
    return {"executable_path": PROGRAM, "args": FLAGS}


@pytest.fixture(scope="session")
def stack(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Stack]:
    cluster = Cluster()
    cluster.start()
    name = f"menudo_browser_{uuid.uuid4().hex[:8]}"
    cluster.make_database(name)
    # The real clock's offset from nine in the morning: so the demo's day is the same whenever the tests run.
    nine = datetime.now(UTC).replace(hour=8, minute=12, second=0, microsecond=0)
    env = {
        "MENUDO_CLOCK_OFFSET": f"{(nine - datetime.now(UTC)).total_seconds():.0f}",
        "MENUDO_LEASE_SECONDS": "6",
        "MENUDO_PACE": "0",
        "MENUDO_WIRE_TIMEOUT": "3",
        "MENUDO_BACKOFF_BASE": "1",
        "MENUDO_POLL_SECONDS": "0.5",
        "MENUDO_BACKOFF_TRIES": "50",
    }
    stack = Stack(cluster, name, Path(tmp_path_factory.mktemp("browser")), env)
    try:
        stack.migrate()
        stack.start_standin()
        load(stack, fresh=True)
        stack.start_web()
        stack.start_worker()
        yield stack
    finally:
        stack.stop()
        cluster.drop_database(name)


@pytest.fixture
def browser_context_args(stack: Stack) -> dict:
    return {"base_url": stack.url, "viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}


@pytest.fixture(autouse=True)
def patient(context: BrowserContext) -> None:
    context.set_default_timeout(PATIENCE_MS)


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    """A story that fails tells what its page said at the end, and its programs last."""
    report = yield
    given = getattr(item, "funcargs", {})
    if report.when == "call" and report.failed and "stack" in given:
        for page in (given["page"],) if "page" in given else ():
            report.sections.append(
                (f"the page at {page.url}", page.evaluate("document.documentElement.innerText")[-1500:])
            )
        for name in given["stack"].processes:
            report.sections.append((f"the end of {name}.log", given["stack"].log(name)[-1500:]))
    return report


# The cookies of who has signed in before, by person.
_sessions: dict[str, list[Any]] = {}


def sign_in(page: Page, who: str = "ines") -> Page:
    """By the form the first time, with that session's cookies afterwards. The page stays where it is: go where you need it."""
    if who not in _sessions:
        page.goto("/")
        page.get_by_label("E-mail address").fill(f"{who}@example.org")
        page.get_by_label("Password").fill("valley-desk-demo")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_label("Password")).to_have_count(0)
        _sessions[who] = page.context.cookies()
    page.context.add_cookies(_sessions[who])
    return page


def note_signed_out(who: str) -> None:
    """Whoever is signed in next by this name signs in by the form."""
    _sessions.pop(who, None)


@pytest.fixture
def someone(browser: Browser, browser_context_args: dict) -> Iterator[Callable[..., Page]]:
    """Another person, or another browser: signed in, in a context of their own."""
    contexts: list[BrowserContext] = []

    def another(who: str = "ines", **more: object) -> Page:
        context = browser.new_context(**{**browser_context_args, **more})
        contexts.append(context)
        context.set_default_timeout(PATIENCE_MS)
        return sign_in(context.new_page(), who)

    yield another
    for context in contexts:
        context.close()


@pytest.fixture(scope="session")
def files(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    """Real pictures and a film, by their names."""
    folder = tmp_path_factory.mktemp("files")
    made = {
        "lichen.jpg": encode_picture(draw_fern((1200, 900), 61)),
        "bark.jpg": encode_picture(draw_fern((1500, 620), 62)),
        "gate.png": encode_picture(draw_fern((900, 900), 63), "PNG"),
        "round.mp4": film((360, 640), 3),
        "frost.jpg": encode_picture(draw_fern((900, 1200), 64)),
    }
    for name, data in made.items():
        (folder / name).write_bytes(data)
    return {name: folder / name for name in made}


_ALL = "['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']"
_COLOURS = "{type: 'rule', values: ['color-contrast', 'link-in-text-block']}"


# What stands half behind something that stays in place, as the tray, is measured once more where it has scrolled clear of it.
SMALL_STILL = """async (target) => {
  document.querySelector(target[target.length - 1]).scrollIntoView({ block: "center" });
  const rule = { runOnly: { type: "rule", values: ["target-size"] }, resultTypes: ["violations"] };
  return (await axe.run({ include: [target] }, rule)).violations.length > 0;
}"""


def violations(page: Page, both: bool = False, within: str = "html") -> list[str]:
    """What axe-core finds wrong with the page, or with what is `within` a selector, as WCAG 2.2 AA has it; `both`: by night too,
    where only the rules of colour can find anything else."""
    # By evaluate, not by a script element: the page's own policy forbids inline scripts.
    page.evaluate(AXE)
    found = page.evaluate(f"axe.run({within!r}, {{runOnly: {_ALL}, resultTypes: ['violations']}})")["violations"]
    if both:
        page.emulate_media(color_scheme="dark")
        expect(page.locator("html")).to_have_class(re.compile("dark"))
        found += page.evaluate(f"axe.run({within!r}, {{runOnly: {_COLOURS}, resultTypes: ['violations']}})")[
            "violations"
        ]
        page.emulate_media(color_scheme="light")
        expect(page.locator("html")).to_have_class(re.compile("light"))
    for rule in found:
        if rule["id"] == "target-size":
            rule["nodes"] = [node for node in rule["nodes"] if page.evaluate(SMALL_STILL, node["target"])]
    return [f"{v['id']}: {n['html'][:160]} {n['failureSummary'][:200]}" for v in found for n in v["nodes"]]


os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
