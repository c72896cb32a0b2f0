"""One idea to eight networks, adapted to each on the Bench, and what was published beside what was proved."""

import re
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect
from tools.stack import Stack

from tests.browser.conftest import sign_in, violations
from tests.browser.desk import expect_kept, finding, fits, media_cell, tickets, write

IDEA = (
    "Lichen is two beings that live as one. On Sunday we look at the oldest on the garden wall, with lenses and a little patience. "
    "It grows a millimetre a year, so nobody has to hurry. Children are welcome, and so are questions that start with why. "
    "We meet at the gate at eleven and are back for lunch, whatever the weather says about it."
)
WHO = {
    "Brisk": "@fernhollow",
    "Plaza": "Fernhollow Garden",
    "Vitrine": "fernhollow.garden",
    "Guildhall": "Fernhollow Trust",
    "Tackboard": "Winter borders",
    "Waypost": "Garden, Valdemora",
    "Open site": "fernhollow.example",
    "Vuelta": "fernhollow",
}


def proofs(page: Page) -> dict[str, dict]:
    """What each column proves, by the order of columns: text, pictures, title, button, first comment."""
    page.locator("[data-testid=proof] button", has_text="… more").evaluate_all("all => all.forEach(b => b.click())")
    return page.locator("[data-testid=proof]").evaluate_all(
        """all => all.map(e => ({
            text: (e.querySelector('[data-testid=proof-text]')?.textContent ?? '').trim(),
            pictures: e.querySelectorAll('[data-proof-picture]').length,
            all: e.textContent,
        }))"""
    )


def test_one_idea_goes_to_eight_networks_and_arrives_as_it_was_proved(
    page: Page, stack: Stack, someone: Callable[..., Page], files: dict[str, Path]
) -> None:
    sign_in(page)
    write(page, "garden", IDEA, *WHO.values())
    expect(page.locator("[data-column-head]")).to_have_count(8)
    page.get_by_label("Title, for the team only").fill("Lichen walk")
    page.get_by_label("Link of the master").fill("https://fernhollow.example.org/lichen")
    master = media_cell(page, "master")
    master.locator("input[type=file]").set_input_files([files["lichen.jpg"], files["bark.jpg"], files["gate.png"]])
    # Media chosen after the profiles reach all of them.
    for column in ("master", "brisk", "plaza", "vitrine"):
        expect(media_cell(page, column).locator("li")).to_have_count(3)
    shorten_for_brisk(page)
    crop_and_comment_for_vitrine(page)
    reword_for_guildhall(page)
    one_picture_for_tackboard(page)
    film_for_vuelta(page, files["round.mp4"])
    event_for_waypost(page)
    for column in ("brisk", "plaza", "vitrine", "guildhall", "tackboard", "waypost", "open-site", "vuelta"):
        expect(fits(page, column)).to_have_text(re.compile("fits|advice"))
    assert violations(page) == []
    expect_kept(page)
    page.reload()
    expect(page.get_by_label("Board for Tackboard")).to_have_value("Small green things")
    expect(page.locator("[data-testid=proof]")).to_have_count(8)
    expect(page.locator("[data-testid=proof] [data-proof-picture]")).to_have_count(16)
    heads = page.locator("[data-column-head]").evaluate_all("all => all.map(e => e.dataset.columnHead)")
    proved = dict(zip(heads, proofs(page), strict=True))

    # Its director signs it off; it goes out by itself.
    plan_in_90_seconds(page)
    expect(tickets(page, "Lichen walk.*, held").first).to_be_visible()
    maud = someone("maud")
    maud.goto("/garden/calendar")
    tickets(maud, "Lichen walk.*, held").first.click()
    maud.get_by_role("button", name="Sign off").click()
    expect(tickets(page, "Lichen walk.*, published")).to_have_count(8, timeout=180_000)
    compare_with_what_is_out(page, stack, proved)


def shorten_for_brisk(page: Page) -> None:
    """Too long, mended in one step, which says what it changed."""
    expect(fits(page, "brisk")).to_have_text("1 stop")
    page.get_by_role("button", name="Shorten here").first.click()
    expect(fits(page, "brisk")).to_have_text(re.compile("fits|advice"))
    short = page.get_by_role("textbox", name="Text for Brisk").input_value()
    assert len(short) <= 300 and IDEA.startswith(short[:60])
    page.get_by_role("button", name="More for Text for Brisk").click()
    page.get_by_role("menuitem", name="Compare with the master").click()
    expect(page.get_by_role("dialog").locator("del").first).to_be_visible()
    page.keyboard.press("Escape")


def crop_and_comment_for_vitrine(page: Page) -> None:
    """Cropped to fit, words of its own, its tags in the first comment."""
    finding(page, "shape", "Vitrine").get_by_role("button", name="Crop to fit").click()
    expect(media_cell(page, "vitrine")).to_contain_text("cropped")
    mine = page.get_by_role("textbox", name="Text for Vitrine")
    mine.fill("Two beings, one crust. ")
    mine.press("End")
    mine.press_sequentially("/moss-w")
    expect(page.get_by_test_id("palette")).to_contain_text("tag set · 9 tags")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("palette")).to_have_count(0)
    mine.fill("Two beings, one crust.")
    comment = page.get_by_role("textbox", name="First comment for Vitrine")
    comment.click()
    comment.press_sequentially("/moss-w")
    page.get_by_role("option", name=re.compile("moss-week")).wait_for()
    comment.press("Enter")
    expect(comment).to_have_value(re.compile("^#moss #bryophyta"))
    expect(fits(page, "vitrine")).to_have_text(re.compile("fits|advice"))


def reword_for_guildhall(page: Page) -> None:
    """More formal, from a proposal that shows what it changes."""
    page.get_by_role("button", name="Writing tools: guildhall, text").click()
    page.get_by_role("menuitem", name="Wording help").click()
    page.get_by_role("button", name="Say it another way").click()
    page.get_by_test_id("proposal").first.locator("ins").first.wait_for()
    page.get_by_role("button", name="Take this one, number 1").click()
    expect(page.get_by_role("textbox", name="Text for Guildhall")).not_to_have_value(IDEA)


def one_picture_for_tackboard(page: Page) -> None:
    finding(page, "media_count", "Tackboard").get_by_role("button", name="Leave out what is too many").click()
    page.get_by_label("Title for Tackboard").fill("Lichen, close up")
    page.get_by_label("Board for Tackboard").fill("Small green things")


def film_for_vuelta(page: Page, film: Path) -> None:
    """A video of its own instead of the pictures, and no link."""
    cell = media_cell(page, "vuelta")
    for name in ("lichen.jpg", "bark.jpg", "gate.png"):
        cell.get_by_role("button", name=f"Take {name} out of Vuelta").click()
    cell.locator("input[type=file]").set_input_files([film])
    expect(cell.locator("li")).to_have_count(1)
    finding(page, "forbidden", "Vuelta").get_by_role("button", name="Leave the link out here").click()
    finding(page, "too_long", "Vuelta").get_by_role("button", name="Shorten here").click()


def event_for_waypost(page: Page) -> None:
    page.get_by_label("Kind for Waypost").select_option("event")
    page.get_by_label("Title for Waypost").fill("Lichen walk")
    page.get_by_label("Start for Waypost").fill("2026-12-06T11:00")
    page.get_by_label("End for Waypost").fill("2026-12-06T11:00")
    expect(page.locator("[data-finding=order]")).to_contain_text("must be later than the start")
    page.get_by_label("End for Waypost").fill("2026-12-06T13:00")
    page.get_by_label("Button for Waypost").select_option("sign up")


def plan_in_90_seconds(page: Page) -> None:
    now = page.evaluate("async () => (await (await fetch('/api/brands/garden/strip')).json()).now")
    later = "s => new Date(new Date(s).getTime() + 90e3).toLocaleString('sv', {timeZone: 'Europe/Madrid'})"
    at = page.evaluate(later, now)
    page.get_by_label("At a day and time").check()
    page.get_by_label("Day", exact=True).fill(at[:10])
    page.get_by_label("Time, Madrid time").fill(at[11:16])
    page.get_by_role("button", name="Plan 8").click()


def compare_with_what_is_out(page: Page, stack: Stack, proved: dict[str, dict]) -> None:
    """Each network's public page against the proof on the Bench."""
    ours = [p for p in stack.control("posts") if re.search("Lichen|Two beings", str(p["body"]))]
    posts = {p["network"]: p for p in ours}
    assert len(posts) == len(ours) == 8
    for network, post in posts.items():
        page.goto(f"{stack.standin_url}/{network}/p/{post['id']}")
        text = page.locator("p.text").inner_text().strip()
        assert re.sub(r"\s+", " ", proved[network]["text"]) == re.sub(r"\s+", " ", text), network
        media = {"tackboard": 1, "vuelta": 1}.get(network, 3)
        expect(page.locator("article img, article video")).to_have_count(media)
        assert violations(page) == [], network
    page.goto(f"{stack.standin_url}/vitrine/p/{posts['vitrine']['id']}")
    expect(page.locator(".comment")).to_contain_text("#moss #bryophyta")
    page.goto(f"{stack.standin_url}/waypost/p/{posts['waypost']['id']}")
    expect(page.locator("article h2")).to_have_text("Lichen walk")
    expect(page.get_by_role("link", name="sign up")).to_have_attribute("href", "https://fernhollow.example.org/lichen")
