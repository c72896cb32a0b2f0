"""Profiles in a browser: pauses, endings, rule sheets, by hand, listings."""

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect
from tools.stack import Stack

from tests.browser.conftest import sign_in, violations
from tests.browser.desk import (
    expect_kept,
    expect_no_sideways_scroll,
    move_time,
    plan,
    row,
    send_now,
    sign_in_at_network,
    tickets,
    write,
)
from tests.core.test_profiles import SHEET


def test_pause_and_resume_and_choose_what_happens_to_what_was_missed(
    page: Page, stack: Stack, someone: Callable[..., Page]
) -> None:
    sign_in(page)
    write(page, "bakery", "Walnut day", "@hogaza")
    plan(page)
    page.goto("/bakery/profiles")
    row(page, "@hogaza").first.get_by_role("button", name="More for @hogaza", exact=True).click()
    page.get_by_role("menuitem", name="Pause").click()
    page.get_by_label("Why (everyone sees it)").fill("Storm in the valley")
    page.get_by_role("button", name="Pause @hogaza").click()
    other = someone("bruno")
    other.goto("/bakery/calendar")
    banner = other.get_by_label("What stands in the way")
    expect(banner).to_contain_text("@hogaza is paused until somebody resumes, by Inés Varela. “Storm in the valley”")
    expect(banner.get_by_role("button", name="Resume")).to_have_count(0)
    expect(tickets(other, "Walnut day.*, held").first).to_be_visible()
    move_time(stack, "UPDATE posts_delivery SET due_at = now() - interval '1 day' WHERE headline = 'Walnut day'")
    page.goto("/bakery/calendar")
    expect(page.get_by_role("button", name="Send now")).to_have_count(0)
    page.get_by_label("What stands in the way").get_by_role("button", name="Resume").click()
    expect(page.get_by_role("alert").filter(has_text="1 delivery was missed while paused")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Next free slots").click()
    expect(tickets(page, "Walnut day.*, planned").first).to_be_visible()
    expect(page.get_by_label("What stands in the way")).to_have_count(0)
    assert not any(p["body"]["text"] == "Walnut day" for p in stack.control("posts")), "nothing went out by itself"


def test_a_connection_ends_is_warned_of_held_and_mended(page: Page, stack: Stack) -> None:
    sign_in(page)
    page.goto("/bakery/today")
    endings = page.get_by_label("Connections that end")
    expect(endings).to_contain_text("Hogaza Bakery ends in 3 days")
    page.get_by_role("button", name=re.compile("^Notices")).click()
    expect(
        page.get_by_role("button", name=re.compile("The connection of Hogaza Bakery ends in 3 days"))
    ).to_be_visible()
    page.keyboard.press("Escape")
    stack.control("age", {"network": "plaza", "login": "hogaza", "days": -1})
    ends = "UPDATE profiles_connection SET expires_at = now() - interval '2 days' WHERE network = 'plaza' AND account = 'hogaza'"
    move_time(stack, ends)
    expect(endings).to_contain_text("Hogaza Bakery must be reconnected")
    page.goto("/bakery/calendar")
    expect(tickets(page, "Stollen can be ordered.*, held")).to_be_visible()
    page.goto("/bakery/profiles")
    page.get_by_role("button", name="Reconnect at Plaza").click()
    sign_in_at_network(page, "hogaza")
    page.get_by_label("Hogaza Bakery").check()
    page.get_by_role("button", name="Agree").click()
    expect(page.get_by_role("status").filter(has_text="Connected: Hogaza Bakery")).to_be_visible()
    page.goto("/bakery/calendar")
    expect(tickets(page, "Stollen can be ordered.*, planned")).to_be_visible()


def test_a_rule_sheet_of_ones_own_with_an_error_then_right_and_a_post_by_hand_on_a_phone(
    page: Page, stack: Stack, someone: Callable[..., Page]
) -> None:
    sign_in(page)
    page.goto("/bakery/profiles")
    page.get_by_role("button", name="Add by hand").click()
    page.get_by_role("button", name="or type one").click()
    sheet = page.get_by_label("Rule sheet")
    sheet.fill(SHEET.replace("limit = 120", "limt = 120"))
    page.get_by_role("button", name="Check and load").click()
    faults = page.get_by_role("alert").filter(has_text="nothing is loaded yet")
    expect(faults).to_contain_text("“limt” is not a thing a rule sheet says here")
    faults.get_by_role("button", name="Line 8").click()
    assert sheet.evaluate("e => e.value.slice(e.selectionStart, e.selectionEnd)") == "limt = 120"
    sheet.fill(SHEET)
    page.get_by_role("button", name="Check and load").click()
    expect(page.get_by_text("The rule sheet of Town cork board is loaded")).to_be_visible()
    page.get_by_label("Name", exact=True).fill("Cork by the mill")
    page.get_by_role("button", name="Add it").click()
    expect(row(page, "Cork by the mill")).to_contain_text("Inés Varela publishes.")
    write(page, "bakery", "Bread swap on Sunday", "Cork by the mill")
    plan(page)
    move_time(
        stack, "UPDATE posts_delivery SET due_at = now() - interval '1 day' WHERE headline = 'Bread swap on Sunday'"
    )
    phone = someone("ines", viewport={"width": 390, "height": 844}, permissions=["clipboard-read", "clipboard-write"])
    phone.goto("/bakery/today")
    phone.get_by_role("button", name=re.compile("^Notices")).click()
    phone.get_by_role("button", name=re.compile("Cork by the mill: it is time to publish")).click()
    expect(phone.get_by_test_id("hand-state")).to_have_text("waiting for hand")
    assert violations(phone) == []
    expect_no_sideways_scroll(phone)
    phone.get_by_role("button", name="Copy the text").click()
    expect(phone.get_by_text("Text copied.")).to_be_visible()
    assert phone.evaluate("navigator.clipboard.readText()") == "Bread swap on Sunday"
    phone.get_by_label(re.compile("^Its link there")).fill("nowhere")
    phone.get_by_role("button", name="Say that it is done").click()
    expect(phone.get_by_role("alert")).to_contain_text("not a whole web address")
    phone.get_by_label(re.compile("^Its link there")).fill("https://mill.example.org/cork")
    phone.get_by_role("button", name="Say that it is done").click()
    expect(phone.get_by_test_id("hand-state")).to_have_text("published")
    expect(phone.get_by_role("link", name="https://mill.example.org/cork")).to_be_visible()


def test_a_listing_and_a_page_are_written_side_by_side_with_what_each_asks_for(page: Page, stack: Stack) -> None:
    sign_in(page)
    write(page, "bakery", "Stollen, from Monday, at every counter", "Four counters")
    fits = page.get_by_test_id("fits")
    expect(page.locator("[data-column-head]")).to_have_text([re.compile("Waypost")])
    expect(fits).to_have_text(["1 stop"])
    expect(page.get_by_text("Waypost needs a kind. Fill it in.")).to_be_visible()
    page.get_by_label("Kind for Waypost").select_option("offer")
    expect(fits).to_have_text("3 stops")
    page.get_by_label("Title for Waypost").fill("A stollen and a coffee")
    page.get_by_label("Start for Waypost").fill("2026-12-01T08:00")
    page.get_by_label("End for Waypost").fill("2026-12-24T14:00")
    page.get_by_label("Link of the master").fill("https://hogaza.example.org/stollen")
    expect(page.get_by_label("Link for Waypost, inherited from the master")).to_have_value(
        "https://hogaza.example.org/stollen"
    )
    page.get_by_label(re.compile("^Link for Waypost")).fill("https://hogaza.example.org/counters")
    expect(fits).to_have_text("fits")
    # What the foot of the page cuts off is no small target: it is scrolled to.
    page.get_by_label("Text of the master").scroll_into_view_if_needed()
    assert violations(page) == []
    page.get_by_role("button", name="Put Link for Waypost back to the master").click()
    expect_kept(page)
    page.reload()
    expect(page.get_by_label("Title for Waypost")).to_have_value("A stollen and a coffee")
    send_now(page)
    expect(tickets(page, "Stollen, from Monday.*, Hogaza, Station, published")).to_be_visible()
    sent = [p["body"] for p in stack.control("posts") if p["body"]["text"].startswith("Stollen, from Monday")]
    assert {body["title"] for body in sent} == {"A stollen and a coffee"}
    assert {body["link"] for body in sent} == {"https://hogaza.example.org/stollen"}


def test_axe_finds_nothing_wrong_on_the_new_pages(someone: Callable[..., Page]) -> None:
    page = someone(color_scheme="light")
    for path, ready in (
        ("/garden/today", "In trouble"),
        ("/garden/profiles", "Profiles of"),
        ("/garden/profiles?by=set", "Profiles of"),
        ("/garden/people", "People of"),
        ("/garden/sheet", "Brand sheet of"),
        ("/account", "Your account"),
        ("/all", "All brands"),
        ("/mail-tray", "Mail tray"),
        ("/new-brand", "New brand"),
        ("/reset", "A new password"),
        ("/installation", "Installation"),
        ("/garden/first-steps?step=profiles", "First steps of"),
        ("/confirm-email/x", "A new e-mail address"),
    ):
        page.goto(path)
        expect(page.get_by_role("heading", name=re.compile(ready)).first).to_be_visible()
        assert violations(page, both=True) == [], path
    page.goto("/garden/profiles")
    for name in ("Sets", "Pause", "Ask a client", "Add by hand", "Connect profiles"):
        page.get_by_role("button", name=name, exact=True).click()
        expect(page.get_by_role("dialog")).to_be_visible()
        assert violations(page, both=True) == [], name
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("b")
    expect(page.get_by_label("Find a brand or a page")).to_be_visible()
    assert violations(page, both=True) == []
