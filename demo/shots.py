"""The pictures in docs/screenshots, from the demo's world: python demo/shots.py ADDRESS"""

import re
import sys
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
WORDS = "Forty kinds of moss live on the north wall of the old glasshouse 🌿 This week we count them, and you can help: Thursday at three. #moss"


def calendar(page: Page) -> None:
    page.goto("/garden/calendar")
    expect(page.get_by_role("grid")).to_be_visible()


def trouble(page: Page) -> None:
    calendar(page)
    page.locator("[data-state='in_trouble']").first.click()
    expect(page.get_by_test_id("delivery-state")).to_be_visible()


def bench(page: Page) -> None:
    page.goto("/garden/calendar")
    page.get_by_role("link", name="Seed heads worth keeping").click()
    page.get_by_label("Text of the master").fill(WORDS)
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    if not page.get_by_role("menuitemcheckbox", name=re.compile("Garden, Valdemora")).is_checked():
        page.get_by_role("menuitemcheckbox", name=re.compile("Garden, Valdemora")).click()
    page.keyboard.press("Escape")
    page.get_by_label("Kind for Waypost").select_option("event")
    expect(page.get_by_text("Waypost needs a start. Fill it in.")).to_be_visible()
    expect(page.get_by_test_id("proof-text").first).to_have_text(WORDS)
    expect(page.get_by_test_id("kept")).to_contain_text("· kept")
    page.mouse.move(0, 0)


def profiles(page: Page) -> None:
    page.goto("/garden/profiles")
    expect(page.get_by_role("table")).to_be_visible()


def people(page: Page) -> None:
    page.goto("/garden/people")
    expect(page.get_by_role("table")).to_be_visible()


def today(page: Page) -> None:
    page.goto("/bakery/today")
    expect(page.get_by_role("heading", name="Connections that end")).to_be_visible()


def all_brands(page: Page) -> None:
    page.goto("/all")
    expect(page.get_by_role("link", name="Fernhollow Botanic Garden")).to_be_visible()


def brand_sheet(page: Page) -> None:
    page.goto("/garden/sheet")
    standin = page.evaluate("fetch('/api/brands/garden/profiles').then(r => r.json())")
    site = next(p["url"] for p in standin if p["network"] == "open-site").split("/open-site/")[0] + "/site/fernhollow/"
    page.get_by_label("Read a first version from the brand's own page").fill(site)
    page.get_by_role("button", name="Read my page").click()
    expect(page.get_by_role("button", name="Take Logo")).to_be_visible()


def by_hand(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto("/garden/today")
    page.get_by_role("link", name="A year of mornings").click()
    expect(page.get_by_role("button", name="Say that it is done")).to_be_visible()


def client_link(page: Page) -> None:
    page.goto("/bakery/profiles")
    page.get_by_role("button", name="Ask a client").click()
    page.get_by_label("For whom").fill("Bruno Sarto")
    for asked in ("Plaza: page", "Waypost: listing location"):
        page.get_by_label(asked).check()
    page.get_by_role("button", name="Make the link").click()
    address = page.get_by_label("The link", exact=True).input_value()
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(address)
    expect(page.get_by_role("button", name="Go to Plaza")).to_be_visible()


def paused(page: Page) -> None:
    page.goto("/bakery/profiles")
    page.get_by_role("button", name="Pause", exact=True).click()
    page.get_by_label("Why (everyone sees it)").fill("Flood warning in the valley")
    page.get_by_role("button", name="Pause Hogaza Bakery").click()
    page.goto("/bakery/calendar")
    expect(page.get_by_role("button", name="Resume")).to_be_visible()
    expect(page.get_by_role("grid")).to_be_visible()


def nothing_yet(page: Page) -> None:
    page.goto("/observatory/calendar")
    expect(page.get_by_text("No profiles yet")).to_be_visible()


# The last ones change the demo's world.
SHOTS: list[tuple[str, str, Callable[[Page], None]]] = [
    ("calendar", "light", calendar),
    ("calendar-dark", "dark", calendar),
    ("trouble", "light", trouble),
    ("bench", "light", bench),
    ("bench-dark", "dark", bench),
    ("profiles", "light", profiles),
    ("people", "light", people),
    ("today", "light", today),
    ("all-brands", "dark", all_brands),
    ("brand-sheet", "light", brand_sheet),
    ("by-hand", "light", by_hand),
    ("empty", "light", nothing_yet),
    ("client-link", "light", client_link),
    ("paused", "light", paused),
]


def main(address: str) -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        for name, scheme, show in SHOTS:
            context = browser.new_context(
                base_url=address, viewport={"width": 1280, "height": 800}, color_scheme=scheme, reduced_motion="reduce"
            )  # type: ignore[arg-type]
            page = context.new_page()
            page.goto("/")
            page.get_by_label("E-mail address").fill("ines@example.org")
            page.get_by_label("Password").fill("valley-desk-demo")
            page.get_by_role("button", name="Sign in").click()
            page.wait_for_url("**/calendar*")
            show(page)
            page.evaluate("document.fonts.ready")
            page.locator("img").evaluate_all("all => Promise.all(all.map(i => i.decode().catch(() => null)))")
            page.screenshot(path=FOLDER / f"{name}.png")
            context.close()
            print(f"docs/screenshots/{name}.png")
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1])
