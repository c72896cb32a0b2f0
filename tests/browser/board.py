"""Dragging on the calendar with the mouse, as a hand does: each step waits until the page has followed."""

from playwright.sync_api import Locator, Page, expect


def cell(page: Page, row: int, column: int) -> Locator:
    return page.locator(f'[data-row="{row}"][data-column="{column}"]')


def drag(page: Page, from_: Locator, to: Locator) -> None:
    """Take a card up and hold it over a place; `page.mouse.up()` lets it go."""
    one = from_.bounding_box()
    assert one
    page.mouse.move(one["x"] + 20, one["y"] + 8)
    page.mouse.down()
    page.mouse.move(one["x"] + 40, one["y"] + 12, steps=4)
    expect(page.locator("[data-ticket][data-lifted]")).to_be_visible()
    hover(page, to)


def hover(page: Page, to: Locator) -> None:
    box = to.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] / 2 - 3, box["y"] + box["height"] / 2, steps=4)
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, steps=4)
    expect(to).to_have_attribute("data-over", "")
