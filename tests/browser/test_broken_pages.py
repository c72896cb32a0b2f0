"""A page that breaks leaves the rest standing, and can be tried again; so can what could not be read."""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import sign_in, violations

HISTORY = re.compile(r"/api/brands/garden/history(\?|$)")


def test_a_page_that_breaks_leaves_the_rest_standing_and_is_tried_again(page: Page) -> None:
    sign_in(page)
    page.route(HISTORY, lambda route: route.fulfill(json={}))
    page.goto("/garden/history")
    alert = page.get_by_role("alert").filter(has_text="This page broke off")
    expect(alert).to_contain_text("Nothing that was kept is lost")
    assert violations(page) == []
    page.get_by_role("link", name="Calendar").click()
    expect(page.locator("[data-ticket]").first).to_be_visible()
    page.go_back()
    expect(alert).to_be_visible()
    page.unroute(HISTORY)
    alert.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name=re.compile("^History of"))).to_be_visible()
    expect(alert).to_have_count(0)


def test_what_could_not_be_read_is_tried_again(page: Page) -> None:
    sign_in(page)
    page.route(HISTORY, lambda route: route.fulfill(status=403, json={"detail": "Not today."}))
    page.goto("/garden/history")
    expect(page.get_by_role("alert").filter(has_text="Not today.")).to_be_visible()
    page.unroute(HISTORY)
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name=re.compile("^History of"))).to_be_visible()


def test_a_shell_that_breaks_says_so(page: Page) -> None:
    sign_in(page)
    page.route("**/api/brands/garden/strip", lambda route: route.fulfill(json={"clock": "09:00", "hours": 1}))
    page.goto("/garden/today")
    expect(page.get_by_role("alert").filter(has_text="Menudo broke off")).to_be_visible()
    page.unroute("**/api/brands/garden/strip")
    page.get_by_role("button", name="Load again").click()
    expect(page.get_by_role("link", name="Calendar")).to_be_visible()
