"""What goes wrong at the keyboard: clashes, lost lines, sessions that end; and that everyone can use it."""

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect

from tests.browser.conftest import sign_in, violations
from tests.browser.desk import Held, expect_kept, write


def test_two_people_at_one_post_see_both_wordings_and_nothing_is_lost(page: Page, someone: Callable[..., Page]) -> None:
    sign_in(page)
    page.goto("/bakery/bench/new")
    page.get_by_label("Text of the master").fill("Ours together")
    expect(page).to_have_url(re.compile(r"/bench/\d+"))
    other = someone()
    # The other's line is slow: no live stream comes and nothing is read again, so they write from what they opened.
    other.route("**/live/**", lambda route: route.abort())
    other.goto(page.url)
    expect(other.get_by_label("Text of the master")).to_have_value("Ours together")
    slow = re.compile(r"/api/brands/bakery/posts/\d+$")
    other.route(slow, lambda route: route.abort() if route.request.method == "GET" else route.fallback())
    page.get_by_label("Text of the master").fill("Written first")
    expect_kept(page)
    other.get_by_label("Text of the master").fill("Written second")
    expect(other.get_by_role("alert")).to_contain_text("Someone changed this post while you were writing")
    expect(other.get_by_role("alert")).to_contain_text("Written first")
    other.unroute(slow)
    other.get_by_role("button", name="Keep mine").click()
    expect_kept(other)
    expect(page.get_by_label("Text of the master")).to_have_value("Written second")


def test_what_cant_be_kept_stays_in_the_browser_until_it_can(page: Page) -> None:
    sign_in(page)
    page.goto("/bakery/bench/new")
    page.route("**/api/brands/bakery/posts**", lambda route: route.abort())
    page.get_by_label("Text of the master").fill("Typed without a line")
    expect(page.get_by_role("alert")).to_contain_text("What you typed is still here")
    page.reload()
    expect(page.get_by_label("Text of the master")).to_have_value("Typed without a line")
    page.unroute("**/api/brands/bakery/posts**")
    expect(page).to_have_url(re.compile(r"/bench/\d+"))
    expect_kept(page)


def test_a_session_that_ends_is_renewed_over_the_page(page: Page) -> None:
    sign_in(page)
    page.goto("/bakery/bench/new")
    expect(page.get_by_label("Text of the master")).to_be_visible()
    page.context.clear_cookies()
    page.get_by_label("Text of the master").fill("Signed out in the middle")
    expect(page.get_by_role("dialog", name="Sign in again")).to_be_visible()
    page.get_by_label("E-mail address").fill("ines@example.org")
    page.get_by_label("Password").fill("valley-desk-demo")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_label("Text of the master")).to_have_value("Signed out in the middle")
    expect(page).to_have_url(re.compile(r"/bench/\d+"))


def test_a_version_of_its_own_and_back_to_the_master(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    page.get_by_label("Text of the master").fill("For everyone")
    version = page.get_by_label(re.compile("^Text for Brisk"))
    expect(version).to_have_value("For everyone")
    version.fill("For Brisk alone")
    page.get_by_label("Text of the master").fill("For everyone, again")
    expect(version).to_have_value("For Brisk alone")
    expect(page.get_by_test_id("proof-text")).to_have_text("For Brisk alone")
    page.get_by_role("button", name="Put Text for Brisk back to the master").click()
    expect(version).to_have_value("For everyone, again")
    expect(page.get_by_test_id("proof-text")).to_have_text("For everyone, again")


def test_what_is_held_is_signed_off_by_the_director(page: Page) -> None:
    sign_in(page, "maud")
    page.goto("/garden/calendar")
    page.locator("[data-state='held']").first.click()
    expect(page.get_by_role("dialog")).to_contain_text("It waits for sign-off")
    page.get_by_role("button", name="Sign off").click()
    expect(page.get_by_test_id("delivery-state")).to_have_text("planned")


def test_a_viewer_sees_and_is_not_offered_what_they_may_not_do(page: Page) -> None:
    sign_in(page, "lucia")
    page.goto("/observatory/calendar")
    expect(page.get_by_role("link", name="Calendar", exact=True)).to_be_visible()
    expect(page.get_by_role("link", name="New post")).to_have_count(0)
    page.goto("/garden/calendar")
    expect(page.get_by_role("heading", name="Nothing here")).to_be_visible()


def test_axe_finds_nothing_wrong(someone: Callable[..., Page]) -> None:
    page = someone(color_scheme="light")
    page.goto("/garden/calendar")
    expect(page.get_by_role("grid")).to_be_visible()
    assert violations(page, both=True) == []
    page.locator("[data-state='in_trouble']").click()
    expect(page.get_by_test_id("delivery-state")).to_have_text("in trouble")
    assert violations(page, both=True) == []
    page.goto("/garden/profiles")
    page.get_by_role("button", name=re.compile("^Timetable of @fernhollow:")).click()
    expect(page.get_by_role("heading", name="Timetable of @fernhollow")).to_be_visible()
    assert violations(page, both=True) == []
    page.goto("/garden/bench/new")
    page.get_by_label("Text of the master").fill("x" * 301)
    expect(page.locator("[data-finding='too_long']")).to_be_visible()
    assert violations(page, both=True) == []
    page.context.clear_cookies()
    page.goto("/")
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    assert violations(page, both=True) == []


def test_keys_lead_everywhere(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/calendar")
    expect(page.get_by_role("grid")).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.locator("[data-row='0'][data-column='3'] [data-ticket]").first.focus()
    page.keyboard.press("ArrowRight")
    expect(page.locator("[data-row='0'][data-column='4'] [data-stop]")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(r"/bench/new\?"))
    expect(page.get_by_label("At a day and time")).to_be_checked()
    page.get_by_label("Title, for the team only").press("Escape")


def test_eight_windows_of_one_browser_stay_alive(page: Page) -> None:
    """A browser opens six connections to a place, and a live stream keeps one for itself."""
    sign_in(page)
    windows = [page, *(page.context.new_page() for _ in range(7))]
    for window in windows:
        window.goto("/bakery/people")
        expect(window.get_by_role("button", name="Invite")).to_be_visible()
    windows[-1].get_by_role("button", name="Invite").click()
    windows[-1].get_by_label("E-mail address").fill("wilma@example.org")
    windows[-1].get_by_role("button", name="Send the invitation").click()
    for window in windows:
        expect(window.get_by_role("main")).to_contain_text("wilma@example.org")
    # The window with the line closes; another takes it over.
    page.close()
    windows[-1].get_by_role("button", name=re.compile("Take back")).click()
    for window in windows[1:]:
        expect(window.get_by_role("main")).not_to_contain_text("wilma@example.org")
    for window in windows[1:]:
        window.close()


def test_a_new_post_left_before_it_was_kept_is_a_draft_and_leads_nobody_back(page: Page) -> None:
    sign_in(page)
    page.goto("/bakery/bench/new")
    keeps, pages = Held(page, "**/brands/bakery/posts"), Held(page, re.compile(r"/assets/.*\.js$"))
    page.get_by_label("Text of the master").fill("Begun and left")
    # It is being kept, and the next page is on its way, when one has left.
    with page.expect_request("**/brands/bakery/posts"), page.expect_request(re.compile(r"/assets/.*\.js$")):
        page.get_by_role("link", name="Calendar", exact=True).click()
    with page.expect_response("**/brands/bakery/posts"):
        keeps.release()
    pages.release()
    expect(page.get_by_role("region", name="Tray")).to_contain_text("Begun and left")
    expect(page).to_have_url(re.compile(r"/bakery/calendar"))
    # The next new post is an empty one, also from the Bench of one that has just got its address.
    page.goto("/bakery/bench/new")
    page.get_by_label("Text of the master").fill("The first")
    expect(page).to_have_url(re.compile(r"/bench/\d+"))
    page.get_by_role("link", name="New post").click()
    expect(page).to_have_url(re.compile(r"/bench/new"))
    expect(page.get_by_label("Text of the master")).to_have_value("")


def test_who_went_elsewhere_while_it_was_being_planned_stays_there_and_is_told(page: Page) -> None:
    sign_in(page)
    write(page, "bakery", "Planned from afar")
    expect_kept(page)
    plans = Held(page, re.compile(r"/posts/\d+/plan$"))
    with page.expect_request(re.compile(r"/posts/\d+/plan$")):
        page.get_by_role("button", name=re.compile("^Plan")).click()
    page.get_by_role("link", name="Library", exact=True).click()
    expect(page.get_by_role("heading", name="Library")).to_be_visible()
    # What it made old is read again, and only then one would be led on.
    strips = Held(page, "**/brands/bakery/strip")
    with page.expect_request("**/brands/bakery/strip"):
        plans.release()
    expect(page.get_by_role("button", name="Undo")).to_be_visible()
    with page.expect_response("**/brands/bakery/strip"):
        strips.release()
    page.get_by_label("Search media").fill("loaf")
    expect(page).to_have_url(re.compile(r"/bakery/library\?.*words=loaf"))
    expect(page.locator("[data-asset]").first).to_be_visible()
