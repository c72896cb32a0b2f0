"""The pictures in docs/screenshots, from the demo's world: python demo/shots.py ADDRESS"""

import sys
from collections.abc import Callable
from pathlib import Path
from typing import Literal

from playwright.sync_api import Page, expect, sync_playwright
from tools.chromium import FLAGS, PROGRAM

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def calendar(page: Page) -> None:
    page.goto("/garden/calendar")
    expect(page.get_by_role("grid")).to_be_visible()


def month(page: Page) -> None:
    page.goto("/garden/calendar?view=month&from=2026-12-01")
    expect(page.locator("[data-ticket]").first).to_be_visible()


def laying(page: Page) -> None:
    calendar(page)
    for name in ("Bark and lichen", "Seed heads worth keeping", "Who sleeps in the pond?"):
        page.get_by_label(f"Choose {name} for laying out").check()
    expect(page.locator("[data-ghost]").first).to_be_visible()


def grid_proof(page: Page) -> None:
    calendar(page)
    page.get_by_role("button", name="More ▾").click()
    page.get_by_role("menuitem", name="Grid proof of fernhollow.garden").click()
    expect(page.locator("[data-tile]").first).to_be_visible()


def trouble(page: Page) -> None:
    page.goto("/garden/trouble")
    expect(page.get_by_test_id("trouble-item").first).to_be_visible()


def bench(page: Page) -> None:
    page.goto("/garden/calendar")
    page.get_by_role("link", name="Moss week: the wall").click()
    expect(page.get_by_test_id("proof")).to_have_count(7)
    expect(page.get_by_role("button", name="Shorten here")).to_be_visible()


def proofs(page: Page) -> None:
    bench(page)
    # The last columns, at their proofs.
    page.locator("[data-layout=listing]").evaluate(
        """proof => {
            let matrix = proof.parentElement;
            while (matrix.scrollWidth <= matrix.clientWidth || getComputedStyle(matrix).overflowX !== 'auto') matrix = matrix.parentElement;
            matrix.scrollTo(matrix.scrollWidth, matrix.scrollHeight);
            window.scrollTo(0, document.documentElement.scrollHeight);
        }"""
    )


def library(page: Page) -> None:
    page.goto("/garden/library")
    page.get_by_label("Choose moss.jpg").check()
    page.get_by_label("Choose moss-2.jpg").check()
    expect(page.get_by_role("region", name="What is chosen")).to_be_visible()


def profiles(page: Page) -> None:
    page.goto("/garden/profiles")
    expect(page.get_by_role("table")).to_be_visible()


def today(page: Page) -> None:
    page.goto("/bakery/today")
    expect(page.get_by_role("heading", name="Connections that end")).to_be_visible()


def all_brands(page: Page) -> None:
    page.goto("/all")
    expect(page.get_by_role("link", name="Fernhollow Botanic Garden")).to_be_visible()


def first_steps(page: Page) -> None:
    page.goto("/observatory/first-steps?step=profiles")
    expect(page.get_by_role("button", name="Go to Brisk")).to_be_visible()


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


def rota(page: Page) -> None:
    page.goto("/garden/rotas")
    page.get_by_role("link", name="Round the garden").click()
    expect(page.get_by_role("grid")).to_be_visible()


def relays(page: Page) -> None:
    page.goto("/garden/relays")
    expect(page.get_by_role("grid")).to_be_visible()


def catalogue(page: Page) -> None:
    page.goto("/garden/relays/catalogue")
    expect(page.get_by_role("region", name="What happened")).to_be_visible()


def sign_off(page: Page) -> None:
    page.goto("/garden/sign-rules")
    page.get_by_label("For whom").fill("The director")
    page.get_by_label("Answers for").select_option(label="Maud Ellery")
    page.get_by_role("button", name="Make the link").click()
    address = page.get_by_label("The link", exact=True).input_value()
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(address)
    page.get_by_role("button", name="Next").click()
    expect(page.get_by_test_id("proof")).to_be_visible()


# The last ones change the demo's world.
SHOTS: list[tuple[str, Literal["light", "dark"], Callable[[Page], None]]] = [
    ("calendar", "light", calendar),
    ("month", "dark", month),
    ("laying", "light", laying),
    ("grid-proof", "light", grid_proof),
    ("trouble", "light", trouble),
    ("bench", "light", bench),
    ("first-steps", "light", first_steps),
    ("proofs", "light", proofs),
    ("library", "light", library),
    ("profiles", "light", profiles),
    ("today", "light", today),
    ("rota", "light", rota),
    ("relays", "light", relays),
    ("catalogue", "dark", catalogue),
    ("all-brands", "dark", all_brands),
    ("brand-sheet", "light", brand_sheet),
    ("by-hand", "light", by_hand),
    ("sign-off", "light", sign_off),
    ("client-link", "light", client_link),
]


def main(address: str) -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=PROGRAM, args=FLAGS)
        for name, scheme, show in SHOTS:
            context = browser.new_context(
                base_url=address, viewport={"width": 1280, "height": 800}, color_scheme=scheme, reduced_motion="reduce"
            )
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
