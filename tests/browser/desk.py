"""What a coordinator does at the desk, in the words of the job: write, choose profiles, plan, send, connect, see it happen."""

import re

import psycopg
from playwright.sync_api import Locator, Page, Route, expect
from tools.stack import Stack


def tickets(page: Page, words: str) -> Locator:
    """Cards on the calendar whose label has `words`, a pattern."""
    return page.get_by_role("grid").locator("[data-ticket]").and_(page.get_by_label(re.compile(words)))


def row(page: Page, words: str) -> Locator:
    return page.get_by_role("row").filter(has_text=words)


def write(page: Page, brand: str, text: str, *names: str) -> None:
    """A new post for just these profiles or sets; for what a new post begins with when none are named."""
    page.goto(f"/{brand}/bench/new")
    page.get_by_label("Text of the master").fill(text)
    if names:
        choose_only(page, *names)


def choose(page: Page, *names: str) -> None:
    """Profiles and sets to those that are chosen."""
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    for name in names:
        _choice(page, name).set_checked(True)
    page.keyboard.press("Escape")


def choose_only(page: Page, *names: str) -> None:
    """Just these: which profiles a new post begins with depends on what was connected before."""
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    expect(_choice(page, names[0])).to_be_visible()
    begun = page.get_by_role("menuitemcheckbox", checked=True)
    for value in begun.evaluate_all("all => all.map(e => e.dataset.value)"):
        page.locator(f"[role=menuitemcheckbox][data-value='{value}']").set_checked(False)
    for name in names:
        _choice(page, name).set_checked(True)
    page.keyboard.press("Escape")


def _choice(page: Page, name: str) -> Locator:
    return page.get_by_role("menuitemcheckbox").filter(has=page.get_by_text(name, exact=True))


def fits(page: Page, column: str) -> Locator:
    """Whether a column of the Bench may go out; `column` is its network's key."""
    return page.locator(f"[data-column-head='{column}']").get_by_test_id("fits")


def media_cell(page: Page, column: str) -> Locator:
    return page.locator(f"[data-media-cell='{column}']")


def finding(page: Page, code: str, network: str) -> Locator:
    return page.locator(f"[data-finding={code}]").filter(has_text=network)


def expect_kept(page: Page) -> None:
    expect(page.get_by_test_id("kept")).to_have_text(re.compile("· kept$"))


def send_now(page: Page) -> None:
    """Straight from the Bench, which leads to the calendar."""
    page.get_by_label("Now", exact=True).check()
    page.get_by_role("button", name=re.compile("^Send")).click()
    expect(page).to_have_url(re.compile("/calendar"))


def plan(page: Page) -> None:
    """At the time that is chosen, the next free slot where none is."""
    page.get_by_role("button", name=re.compile("^Plan")).click()
    expect(page).to_have_url(re.compile("/calendar"))


def sign_in_at_network(page: Page, login: str) -> None:
    """At the network, which asks for it the first time that a browser comes by."""
    page.get_by_label("Account", exact=True).fill(login)
    page.get_by_label("Password").fill("starlight")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("button", name="Agree")).to_be_visible()


def move_time(stack: Stack, sql: str, *values: object) -> None:
    """Change when something was or will be, then let a worker look as it does each minute."""
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        db.execute(sql, values)
    stack.stop_one("worker")
    stack.start_worker()


def make_trouble(page: Page, stack: Stack, kind: str, seconds: int = 5) -> None:
    """At Brisk, on the stand-in's control page, as a person would."""
    page.goto(f"{stack.standin_url}/control")
    page.get_by_label("Network", exact=True).select_option("brisk")
    page.get_by_label("Trouble", exact=True).select_option(kind)
    page.get_by_label(re.compile("^Seconds")).fill(str(seconds))
    page.get_by_role("button", name="Make it so").click()
    expect(page.get_by_role("heading", name="In force")).to_be_visible()


def end_trouble(page: Page, stack: Stack) -> None:
    page.goto(f"{stack.standin_url}/control")
    page.get_by_label("Network", exact=True).select_option("brisk")
    page.get_by_role("button", name="End its troubles").click()
    expect(page.get_by_text("Every network behaves.")).to_be_visible()


def expect_no_sideways_scroll(page: Page) -> None:
    """Nothing is wider than the window, as on a phone."""
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")


class Held:
    """What a page asks for at an address waits until it is released."""

    def __init__(self, page: Page, address: str | re.Pattern[str]) -> None:
        self.waiting: list[Route] | None = []
        page.route(address, self._take)

    def _take(self, route: Route) -> None:
        if self.waiting is None:
            route.continue_()
        else:
            self.waiting.append(route)

    def release(self) -> None:
        waiting, self.waiting = self.waiting or [], None
        for route in waiting:
            route.continue_()
