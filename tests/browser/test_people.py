"""People in a browser: invited, with a second factor, a new password and address; the brand sheet; what one may not do."""

import re
from collections.abc import Callable

from playwright.sync_api import Browser, Page, expect
from tools.stack import Stack

from tests.browser.conftest import note_signed_out, sign_in, violations
from tests.browser.desk import row
from tests.server.test_account import totp

PASSWORD = "quite-another-phrase"


def sign_in_as(page: Page, email: str, password: str, code: str) -> None:
    page.context.clear_cookies()
    page.goto("/")
    page.get_by_label("E-mail address").fill(email)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_label("Code").fill(code)
    page.get_by_role("button", name="Sign in").click()


def follow_mail(page: Page, address: str) -> None:
    """The newest mail's link whose address has these words."""
    page.goto("/mail-tray")
    page.get_by_role("link", name=re.compile(address)).first.click()


def test_a_person_is_invited_joins_sets_up_a_second_factor_and_a_new_password(
    page: Page, browser: Browser, browser_context_args: dict
) -> None:
    sign_in(page)
    invite_author(page, "nuria@example.org")
    guest = browser.new_context(**browser_context_args).new_page()
    join(guest, "Nuria Sol")
    expect(row(page, "Nuria Sol")).to_contain_text("adjusted")
    codes = set_up_second_factor(guest)
    sign_in_as(guest, "nuria@example.org", PASSWORD, "000000")
    expect(guest.get_by_role("alert")).to_be_visible()
    guest.get_by_label("Code").fill(codes[0])
    guest.get_by_role("button", name="Sign in").click()
    expect(guest.get_by_role("grid")).to_be_visible()
    set_new_password(guest, "nuria@example.org", "a-new-phrase-of-mine")
    sign_in_as(guest, "nuria@example.org", "a-new-phrase-of-mine", codes[1])
    expect(guest.get_by_role("grid")).to_be_visible()
    change_address(guest, "nuria.sol@example.org", taken="ines@example.org")
    guest.context.close()


def test_an_invitation_to_another_address_says_so_and_signing_out_asks_for_what_is_unsaved(
    page: Page, someone: Callable[..., Page]
) -> None:
    sign_in(page)
    invite_author(page, "marta@example.org")
    bruno = someone("bruno")
    follow_mail(bruno, "invitation")
    expect(bruno.get_by_text("The invitation went to marta@example.org.")).to_be_visible()
    expect(bruno.get_by_role("button", name="as bruno@example.org")).to_be_visible()
    assert violations(bruno) == []
    bruno.evaluate("localStorage.setItem('menudo-bench:bakery:1', '{}')")
    bruno.get_by_role("button", name="Sign out first").click()
    asked = bruno.get_by_role("alertdialog")
    expect(asked).to_contain_text("One post could not be saved yet")
    assert violations(bruno) == []
    asked.get_by_role("button", name="Stay").click()
    expect(asked).to_have_count(0)
    bruno.get_by_role("button", name="Sign out first").click()
    note_signed_out("bruno")
    asked.get_by_role("button", name="Sign out and lose it").click()
    expect(bruno.get_by_label("What you are called")).to_be_visible()
    assert bruno.evaluate("localStorage.getItem('menudo-bench:bakery:1')") is None


def invite_author(page: Page, email: str) -> None:
    page.goto("/garden/people")
    page.get_by_role("button", name="Invite").click()
    page.get_by_label("E-mail address").fill(email)
    page.get_by_label("Role", exact=True).select_option("author")
    page.get_by_role("dialog").get_by_label("Sign off").check()
    page.get_by_role("button", name="Send the invitation").click()
    expect(page.get_by_text(f"{email} as author")).to_be_visible()
    assert violations(page) == []


def join(guest: Page, name: str) -> None:
    follow_mail(guest, "invitation")
    guest.get_by_label("What you are called").fill(name)
    guest.get_by_label(re.compile("^Password")).fill("short")
    guest.get_by_role("button", name="Join").click()
    expect(guest.get_by_role("alert")).to_contain_text("too short")
    guest.get_by_label(re.compile("^Password")).fill(PASSWORD)
    guest.get_by_role("button", name="Join").click()
    expect(guest.get_by_role("grid")).to_be_visible()


def set_up_second_factor(guest: Page) -> list[str]:
    """The recovery codes."""
    guest.goto("/account")
    guest.get_by_role("button", name="Set it up").click()
    secret = guest.get_by_test_id("totp-secret").inner_text()
    expect(guest.get_by_alt_text("The code to scan with your authenticator")).to_be_visible()
    guest.get_by_label("The code it shows").fill(totp(secret, guest.evaluate("Date.now()") / 1000))
    guest.get_by_role("button", name="Switch it on").click()
    guest.get_by_label("Your password once more").fill(PASSWORD)
    guest.get_by_role("button", name="Go on").click()
    expect(guest.get_by_text("Keep these recovery codes")).to_be_visible()
    codes = guest.locator("li").all_inner_texts()
    guest.get_by_role("button", name="I have kept them").click()
    expect(guest.get_by_text("On: signing in asks for a code")).to_be_visible()
    assert violations(guest) == []
    return codes


def set_new_password(guest: Page, email: str, password: str) -> None:
    """A forgotten one, by mail."""
    guest.context.clear_cookies()
    guest.goto("/reset")
    guest.get_by_label("E-mail address").fill(email)
    guest.get_by_role("button", name="Send the link").click()
    expect(guest.get_by_role("status")).to_contain_text("If there is an account")
    follow_mail(guest, "reset")
    guest.get_by_label(re.compile("^New password")).fill(password)
    guest.get_by_role("button", name="Set it").click()
    expect(guest.get_by_role("status")).to_contain_text("The new password is set")


def change_address(guest: Page, email: str, taken: str) -> None:
    """The first address serves until the second is confirmed."""
    guest.goto("/account")
    address = guest.get_by_role("region", name="E-mail address")
    address.get_by_label("New e-mail address").fill(taken)
    address.get_by_role("button", name="Send the link").click()
    expect(address.get_by_role("alert")).to_contain_text("Another account has this address")
    address.get_by_label("New e-mail address").fill(email)
    address.get_by_role("button", name="Send the link").click()
    expect(address).to_contain_text(f"{email} takes its place")
    follow_mail(guest, "confirm-email")
    guest.get_by_role("button", name="Confirm the address").click()
    expect(guest.get_by_role("status")).to_contain_text("The address is confirmed")
    guest.goto("/account")
    expect(guest.get_by_role("main")).to_contain_text(email)


def test_the_brand_sheet_is_read_from_the_brands_page_taken_and_kept(page: Page, stack: Stack) -> None:
    sign_in(page)
    page.goto("/observatory/sheet")
    expect(page.get_by_text("nothing has to be")).to_be_visible()
    page.get_by_label(re.compile("^Read a first version")).fill("http://127.0.0.1:9/")
    page.get_by_role("button", name="Read my page").click()
    expect(page.get_by_role("alert")).to_contain_text("only its own stand-in")
    page.get_by_label(re.compile("^Read a first version")).fill(f"{stack.standin_url}/site/cieloalto/")
    page.get_by_role("button", name="Read my page").click()
    page.get_by_role("button", name="Leave Address").click()
    page.get_by_role("button", name="Take About").click()
    expect(page.get_by_label("About", exact=True)).to_have_value("A public observatory above the clouds.")
    page.get_by_role("button", name=re.compile("^Take all")).click()
    expect(page.get_by_text("The sheet says all that the page says.")).to_be_visible()
    page.get_by_label("4 of 5, from plain to formal").check()
    page.get_by_label("Standing hashtags").fill("#moss, #fern")
    page.get_by_label("Standing hashtags").press("Enter")
    page.get_by_label(re.compile("^Country")).fill("ZZ")
    page.get_by_role("button", name="Keep the sheet").click()
    expect(page.get_by_role("alert").filter(has_text="two-letter code")).to_be_visible()
    page.get_by_label(re.compile("^Country")).fill("ES")
    assert violations(page) == []
    page.get_by_role("button", name="Keep the sheet").click()
    expect(page.get_by_text("The brand sheet is kept.")).to_be_visible()
    page.reload()
    expect(page.get_by_label("4 of 5, from plain to formal")).to_be_checked()
    expect(page.get_by_label("E-mail")).to_have_value("sky@example.org")
    expect(page.get_by_label("Address", exact=True)).to_have_value("")
    expect(page.get_by_role("button", name="Take out moss")).to_be_visible()


def test_what_one_may_not_do_is_not_offered_and_another_brand_is_not_there(page: Page) -> None:
    sign_in(page, "bruno")
    page.goto("/bakery/profiles")
    expect(page.get_by_role("heading", name="Profiles of Hogaza Bakery")).to_be_visible()
    for name in ("Connect profiles", "Add by hand", "Ask a client", "Pause"):
        expect(page.get_by_role("button", name=name, exact=True)).to_have_count(0)
    page.goto("/bakery/people")
    expect(page.get_by_text("Only those who manage people can change this.")).to_be_visible()
    expect(page.get_by_role("checkbox")).to_have_count(0)
    page.keyboard.press("b")
    expect(page.get_by_role("option")).to_have_count(6)
    page.goto("/garden/today")
    expect(page.get_by_role("heading", name="Nothing here")).to_be_visible()
