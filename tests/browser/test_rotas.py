"""A rota: its roll read and changed by mouse and keyboard; a new one made, filled, seen before it acts, switched on."""

import re

from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import sign_in, violations
from tests.browser.desk import expect_kept


def mark(page: Page, words: str, column: int) -> Locator:
    """What stands at a turn's row in a column of the roll."""
    row = page.get_by_role("row").filter(has=page.get_by_role("rowheader").filter(has_text=words))
    return row.locator(f'[data-column="{column}"] [data-stop]')


def test_the_coming_weeks_are_seen_and_any_single_one_is_changed(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/rotas")
    page.get_by_role("link", name=re.compile("Round the garden")).click()
    expect(page.get_by_role("heading", name="Round the garden")).to_be_visible()
    # The second slot was fixed by hand; the rota chose around it.
    nursery, lime, labels = (
        mark(page, words, column)
        for words, column in (("Nursery mornings", 1), ("The oldest lime", 0), ("Labels here", 2))
    )
    expect(nursery).to_have_attribute("aria-label", re.compile("fixed by hand$"))
    expect(lime).to_have_attribute("aria-pressed", "true")
    expect(labels).to_have_attribute("aria-pressed", "true")
    # Nothing on the third; undone; by keyboard the first and the third change places.
    mark(page, "nothing goes", 2).click()
    expect(page.get_by_text("Nothing goes there.")).to_be_visible()
    expect(mark(page, "nothing goes", 2)).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("z")
    expect(labels).to_have_attribute("aria-pressed", "true")
    lime.focus()
    for key in ("s", "ArrowRight", "ArrowRight", "s"):
        page.keyboard.press(key)
    expect(page.get_by_text("Swapped.")).to_be_visible()
    expect(mark(page, "The oldest lime", 2)).to_have_attribute("aria-label", re.compile("fixed by hand$"))
    expect(mark(page, "Labels here", 0)).to_have_attribute("aria-label", re.compile("fixed by hand$"))
    assert violations(page, both=True) == []
    # Both are given back.
    for words, column in (("The oldest lime", 2), ("Labels here", 0)):
        mark(page, words, column).click()
        expect(page.locator(f'[data-column="{column}"] [data-fixed]')).to_have_count(0)
    expect(lime).to_have_attribute("aria-pressed", "true")
    # A turn's limits; a day of the year that there isn't is told at its field.
    page.get_by_role("button", name=re.compile("^More for The pond")).click()
    page.get_by_role("menuitem", name="Wordings and limits").click()
    page.get_by_role("button", name="Add a wording").click()
    expect(page.get_by_role("dialog").get_by_role("link", name=re.compile("The pond"))).to_have_count(2)
    page.get_by_role("button", name="Add a season").click()
    page.get_by_label("Season 1, first day").fill("02-30")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_role("alert").filter(has_text="There is no day 30 in month 2.")).to_be_visible()
    page.get_by_label("Season 1, first day").fill("02-28")
    assert violations(page) == []
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_role("rowheader").filter(has_text="2 wordings · in season")).to_be_visible()


def test_a_rota_is_made_filled_seen_and_switched_on(page: Page) -> None:
    sign_in(page)
    page.goto("/bakery/bench/new")
    page.get_by_label("Text of the master").fill("Rye, every week of the year")
    expect_kept(page)
    page.goto("/bakery/rotas")
    expect(page.get_by_role("heading", name="No rota yet")).to_be_visible()
    page.get_by_role("button", name="New rota").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Keep", exact=True).click()
    expect(dialog.get_by_text("Give the rota a name.")).to_be_visible()
    expect(dialog.get_by_text("Choose at least one profile.")).to_be_visible()
    dialog.get_by_label("Name", exact=True).fill("Our daily")
    dialog.get_by_label("@hogaza Brisk").check()
    dialog.get_by_label(re.compile("^Rest")).fill("0")
    dialog.get_by_label(re.compile("^Made into posts")).fill("24")
    assert violations(page) == []
    dialog.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_role("heading", name="Our daily")).to_be_visible()
    expect(page.get_by_text("No slots are kept for it yet: @hogaza.")).to_be_visible()
    page.get_by_role("button", name="Keep slots for it").click()
    for day in ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"):
        page.get_by_role("button", name=day, exact=True).click()
    page.get_by_label("Time of the slots").fill("23:45")
    page.get_by_role("button", name="Keep these").click()
    expect(page.get_by_text("every day")).to_be_visible()
    page.get_by_role("button", name="Put turns in").click()
    dialog.get_by_label(re.compile("Rye, every week")).check()
    dialog.get_by_role("button", name="Put 1 in").click()
    expect(mark(page, "Rye, every week", 0)).to_have_attribute("aria-pressed", "true")
    # Off still: nothing of it is on the calendar. Switched on: what is near is planned, what comes is faint.
    page.get_by_role("button", name="Switch on").click()
    expect(mark(page, "Rye, every week", 0)).to_have_attribute("aria-label", re.compile("planned. To the calendar$"))
    page.goto("/bakery/calendar")
    lane = page.get_by_role("row").filter(has=page.get_by_role("rowheader").filter(has_text="@hogaza")).first
    expect(lane.locator("[data-ticket]").filter(has_text="23:45")).to_have_count(1)
    expect(lane.locator("[data-coming]").first).to_have_attribute("aria-label", re.compile("to come from a rota"))
    assert violations(page) == []
    # Faint in every view; a filter that asks of posts hides what no post has been made of.
    for view in ("month", "week", "list"):
        page.goto(f"/bakery/calendar?view={view}")
        expect(page.locator("[data-coming]").first).to_have_accessible_name(re.compile("to come,? from a rota"))
        assert violations(page) == []
    page.goto("/bakery/calendar?view=list&states=planned")
    expect(page.locator("[data-ticket]").first).to_be_visible()
    expect(page.locator("[data-coming]")).to_have_count(0)
    page.goto("/bakery/calendar")
    # Taken off again, and the rota deleted: its turn is a draft once more.
    lane.locator("[data-ticket]").filter(has_text="23:45").click()
    page.get_by_role("button", name="Call off").click()
    expect(page.get_by_test_id("delivery-state")).to_have_text("called off")
    page.goto("/bakery/rotas")
    page.get_by_role("link", name=re.compile("Our daily")).click()
    page.get_by_role("button", name="Delete", exact=True).click()
    page.get_by_role("button", name="Yes, delete it").click()
    expect(page.get_by_role("heading", name="No rota yet")).to_be_visible()
