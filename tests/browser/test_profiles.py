"""From an empty account to being ready to write: networks, a client's link, pauses, endings, by hand, people."""

import re
import time
from collections.abc import Callable

import psycopg
from playwright.sync_api import Browser, Page, expect
from tools.stack import Stack

from tests.browser.conftest import sign_in, violations
from tests.browser.test_story import tickets
from tests.core.test_profiles import SHEET
from tests.server.test_people import totp

PASSWORD = "quite-another-phrase"


def later(stack: Stack, sql: str, *values: object) -> None:
    """Move time: change when something was or will be, then let a worker look as it does each minute."""
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        db.execute(sql, values)
    stack.stop_one("worker")
    stack.start_worker()


def network_sign_in(page: Page, login: str) -> None:
    """At the network: sign in, unless one is already."""
    account = page.get_by_label("Account", exact=True)
    agree = page.get_by_role("button", name="Agree")
    expect(account.or_(agree)).to_be_visible()
    if account.is_visible():
        account.fill(login)
        page.get_by_label("Password").fill("starlight")
        page.get_by_role("button", name="Sign in").click()
    expect(agree).to_be_visible()


def row(page: Page, words: str):
    return page.get_by_role("row").filter(has_text=words)


def test_ten_networks_connected_from_nothing_and_a_post_on_a_classic_blog(page: Page, stack: Stack) -> None:
    sign_in(page)
    page.keyboard.press("b")
    page.get_by_label("Find a brand or a page").fill("new")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Make the brand").click()
    expect(page.get_by_role("alert")).to_have_text("Give the brand a name.")
    page.get_by_label("Name", exact=True).fill("Nine Winds")
    page.get_by_label(re.compile("^Time zone")).fill("Europe/Lisbon")
    page.get_by_role("button", name="Make the brand").click()
    expect(page.get_by_role("heading", name="First steps of Nine Winds")).to_be_visible()
    page.get_by_role("button", name="Nine Winds").click()
    page.get_by_role("option", name="Profiles").click()
    expect(page.get_by_role("heading", name="No profiles yet")).to_be_visible()
    assert violations(page) == []
    chosen = {
        "Brisk": ["Sky notes"],
        "Plaza": ["Cielo Alto Observatory", "Sky watchers of the valley"],
        "Vitrine": ["The sky over Cielo Alto"],
        "Guildhall": ["Amaro Quintela"],
        "Tackboard": ["Cielo Alto's charts"],
        "Cinta": ["Long nights at Cielo Alto"],
        "Vuelta": ["Cielo Alto, once round"],
        "Waypost": ["Cielo Alto Observatory"],
        "Foolscap": ["The night log of Cielo Alto"],
    }
    for network, profiles in chosen.items():
        page.get_by_role("button", name="Connect profiles").click()
        expect(page.get_by_role("dialog")).to_contain_text("An administrator of the group has switched the app on.")
        page.get_by_role("button", name=f"Go to {network}").click()
        network_sign_in(page, "cieloalto")
        for profile in profiles:
            page.get_by_label(profile).check()
        page.get_by_role("button", name="Agree").click()
        expect(page.get_by_role("status").filter(has_text=re.compile("Connected|not ready"))).to_be_visible()
    page.get_by_role("button", name="Connect profiles").click()
    page.get_by_role("button", name="Go to the site").click()
    expect(page.get_by_role("alert")).to_contain_text("Write the site's address")
    page.get_by_label("Address of the site").fill(f"{stack.standin_url}/site/cieloalto/")
    page.get_by_role("button", name="Go to the site").click()
    network_sign_in(page, "cieloalto")
    page.get_by_role("checkbox").check()
    page.get_by_role("button", name="Agree").click()
    expect(page.locator("tbody")).to_have_count(10)
    expect(row(page, "Sky watchers")).to_contain_text("not ready yet")
    expect(row(page, "The sky over Cielo Alto")).to_contain_text("It is tied to a Plaza page that you administer.")
    assert violations(page) == []

    # What was unmet is mended at the network, and checked again.
    row(page, "Sky watchers").get_by_role("button", name="Check again").click()
    expect(page.get_by_text("Sky watchers is still not ready.")).to_be_visible()
    at_plaza = page.context.new_page()
    at_plaza.goto(f"{stack.standin_url}/plaza/settings")
    group = at_plaza.get_by_label("Sky watchers of the valley", exact=True)
    group.get_by_label("The app Menudo").select_option("on")
    group.get_by_role("button", name="Keep").click()
    row(page, "Sky watchers").get_by_role("button", name="Check again").click()
    expect(row(page, "Sky watchers")).to_contain_text("connected")

    # A set, chosen in one press on the Bench, and the calendar narrowed to it until it is cleared.
    page.get_by_role("button", name="Sets", exact=True).click()
    page.get_by_role("button", name="New set").click()
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_text("Give the set a name.")).to_be_visible()
    page.get_by_label("Name of the set").fill("The sky")
    page.get_by_role("checkbox", name=re.compile("^@cieloalto.sky")).check()
    page.get_by_role("checkbox", name=re.compile("^Sky watchers")).check()
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("dialog").get_by_text("@cieloalto.sky, Sky watchers")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("n")
    expect(page.get_by_label("Text of the master")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    for _ in range(2):
        page.get_by_role("menuitemcheckbox", name=re.compile("The sky")).click()
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    page.get_by_role("menuitemcheckbox", name=re.compile("The sky")).click()
    expect(page.get_by_role("menuitemcheckbox", name=re.compile("Sky watchers"))).to_be_checked()
    page.keyboard.press("Escape")
    page.get_by_label("Text of the master").fill("Clear tonight, over both")
    expect(page.get_by_test_id("kept")).to_contain_text("· kept")
    page.get_by_role("link", name="Calendar", exact=True).click()
    expect(page.get_by_role("rowheader").filter(has_not_text="Almanac")).to_have_count(11)
    page.get_by_role("button", name="Set", exact=True).click()
    page.get_by_role("menuitemcheckbox", name="The sky").click()
    expect(page.get_by_role("rowheader").filter(has_not_text="Almanac")).to_have_count(2)
    page.reload()
    expect(page.get_by_role("button", name="Set: The sky")).to_be_visible()
    page.get_by_role("button", name="Clear the filter").click()
    expect(page.get_by_role("rowheader").filter(has_not_text="Almanac")).to_have_count(11)

    # The blog speaks another wire; one writes for it as for any network.
    page.keyboard.press("n")
    expect(page.get_by_label("Text of the master")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    page.get_by_role("menuitemcheckbox", name=re.compile("night log")).click()
    page.keyboard.press("Escape")
    page.get_by_label("Text of the master").fill("Seeing was poor & then <perfect>.\nThe Hunter stood clear.")
    page.get_by_label(re.compile("^Title for|^Title \\(")).fill("A night in two halves")
    page.get_by_label("Now", exact=True).check()
    page.get_by_role("button", name="Send").click()
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        sql = "SELECT remote_url FROM posts_delivery d JOIN profiles_profile p ON p.id = d.profile_id WHERE p.network = 'foolscap' AND remote_url <> ''"
        until = time.monotonic() + 40
        while not (found := db.execute(sql).fetchall()) and time.monotonic() < until:
            page.wait_for_timeout(200)
    ((address,),) = found
    page.goto(address)
    expect(page.get_by_role("heading", name="A night in two halves")).to_be_visible()
    expect(page.get_by_text("Seeing was poor & then <perfect>.")).to_be_visible()


def test_a_client_brings_their_own_page_on_a_phone(page: Page, browser: Browser, stack: Stack) -> None:
    sign_in(page)
    page.goto("/bakery/profiles")
    page.get_by_role("button", name="Ask a client").click()
    page.get_by_role("button", name="Make the link").click()
    expect(page.get_by_text("Say whom the link is for.")).to_be_visible()
    page.get_by_label("For whom").fill("Bruno Sarto")
    page.get_by_label("Guildhall: company page").check()
    page.get_by_label("Brisk: account").check()
    page.get_by_role("button", name="Make the link").click()
    address = page.get_by_label("The link", exact=True).input_value()
    page.keyboard.press("Escape")
    phone = browser.new_context(
        viewport={"width": 390, "height": 844}, base_url=stack.url, reduced_motion="reduce"
    ).new_page()
    phone.goto(address)
    expect(phone.get_by_role("heading", name="Inés Varela asks to post for Hogaza Bakery")).to_be_visible()
    assert violations(phone) == []
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    phone.get_by_role("button", name="Go to Brisk").click()
    network_sign_in(phone, "hogaza")
    phone.get_by_role("button", name="Refuse").click()
    expect(phone.get_by_role("alert")).to_contain_text("You said no at Brisk")
    phone.get_by_role("button", name="Go to Brisk").click()
    phone.get_by_label("Hogaza, Mill Lane").check()
    phone.get_by_role("button", name="Agree").click()
    expect(phone.get_by_role("status").filter(has_text="Thank you")).to_be_visible()
    expect(phone.get_by_label("Brisk", exact=True)).to_contain_text("connected in your name")
    expect(row(page, "@hogaza.mill")).to_contain_text("Connected by Bruno Sarto, by link.")
    phone.get_by_role("button", name="Withdraw @hogaza.mill").click()
    expect(phone.get_by_label("Brisk", exact=True)).not_to_contain_text("@hogaza.mill")
    expect(row(page, "@hogaza.mill")).to_contain_text("disconnected")
    page.get_by_role("button", name="Ask a client").click()
    page.get_by_role("button", name="Take back the link for Bruno Sarto").click()
    expect(page.get_by_text("The link leads nowhere any more.")).to_be_visible()
    phone.reload()
    expect(phone.get_by_role("heading", name="This link leads nowhere")).to_be_visible()
    phone.context.close()


def write_and_plan(page: Page, brand: str, words: str, profile: str) -> None:
    page.goto(f"/{brand}/bench/new")
    page.get_by_label("Text of the master").fill(words)
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    item = page.get_by_role("menuitemcheckbox", name=re.compile(profile))
    if not item.is_checked():
        for checked in page.get_by_role("menuitemcheckbox", checked=True).all():
            checked.click()
        item.click()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Plan").click()
    expect(page).to_have_url(re.compile("/calendar"))


def test_pause_and_resume_and_choose_what_happens_to_what_was_missed(
    page: Page, stack: Stack, someone: Callable[..., Page]
) -> None:
    sign_in(page)
    write_and_plan(page, "bakery", "Walnut day", "@hogaza$|@hogaza ")
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
    later(stack, "UPDATE posts_delivery SET due_at = now() - interval '1 day' WHERE headline = 'Walnut day'")
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
    later(stack, ends)
    expect(endings).to_contain_text("Hogaza Bakery must be reconnected")
    page.goto("/bakery/calendar")
    expect(tickets(page, "Stollen can be ordered.*, held")).to_be_visible()
    page.goto("/bakery/profiles")
    page.get_by_role("button", name="Reconnect at Plaza").click()
    network_sign_in(page, "hogaza")
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
    write_and_plan(page, "bakery", "Bread swap on Sunday", "Cork by the mill")
    later(stack, "UPDATE posts_delivery SET due_at = now() - interval '1 day' WHERE headline = 'Bread swap on Sunday'")
    phone = someone("ines", viewport={"width": 390, "height": 844}, permissions=["clipboard-read", "clipboard-write"])
    phone.goto("/bakery/today")
    phone.get_by_role("button", name=re.compile("^Notices")).click()
    phone.get_by_role("button", name=re.compile("Cork by the mill: it is time to publish")).click()
    expect(phone.get_by_test_id("hand-state")).to_have_text("waiting for hand")
    assert violations(phone) == []
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
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


def sign_in_as(page: Page, email: str, password: str, code: str) -> None:
    page.context.clear_cookies()
    page.goto("/")
    page.get_by_label("E-mail address").fill(email)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_label("Code").fill(code)
    page.get_by_role("button", name="Sign in").click()


def test_a_person_is_invited_joins_sets_up_a_second_factor_and_a_new_password(
    page: Page, browser: Browser, stack: Stack
) -> None:
    sign_in(page)
    page.goto("/garden/people")
    page.get_by_role("button", name="Invite").click()
    page.get_by_label("E-mail address").fill("nuria@example.org")
    page.get_by_label("Role", exact=True).select_option("author")
    page.get_by_role("dialog").get_by_label("Sign off").check()
    page.get_by_role("button", name="Send the invitation").click()
    expect(page.get_by_text("nuria@example.org as author")).to_be_visible()
    assert violations(page) == []
    guest = browser.new_context(
        base_url=stack.url, viewport={"width": 1280, "height": 800}, reduced_motion="reduce"
    ).new_page()
    guest.goto("/mail-tray")
    guest.get_by_role("link", name=re.compile("invitation")).first.click()
    guest.get_by_label("What you are called").fill("Nuria Sol")
    guest.get_by_label(re.compile("^Password")).fill("short")
    guest.get_by_role("button", name="Join").click()
    expect(guest.get_by_role("alert")).to_contain_text("too short")
    guest.get_by_label(re.compile("^Password")).fill(PASSWORD)
    guest.get_by_role("button", name="Join").click()
    expect(guest.get_by_role("grid")).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="Nuria Sol")).to_contain_text("adjusted")

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
    sign_in_as(guest, "nuria@example.org", PASSWORD, "000000")
    expect(guest.get_by_role("alert")).to_be_visible()
    guest.get_by_label("Code").fill(codes[0])
    guest.get_by_role("button", name="Sign in").click()
    expect(guest.get_by_role("grid")).to_be_visible()

    # A forgotten password.
    guest.context.clear_cookies()
    guest.goto("/reset")
    guest.get_by_label("E-mail address").fill("nuria@example.org")
    guest.get_by_role("button", name="Send the link").click()
    expect(guest.get_by_role("status")).to_contain_text("If there is an account")
    guest.goto("/mail-tray")
    guest.get_by_role("link", name=re.compile("reset")).first.click()
    guest.get_by_label(re.compile("^New password")).fill("a-new-phrase-of-mine")
    guest.get_by_role("button", name="Set it").click()
    expect(guest.get_by_role("status")).to_contain_text("The new password is set")

    # Another address: the first serves until the second is confirmed.
    sign_in_as(guest, "nuria@example.org", "a-new-phrase-of-mine", codes[1])
    expect(guest.get_by_role("grid")).to_be_visible()
    guest.goto("/account")
    address = guest.get_by_role("region", name="E-mail address")
    address.get_by_label("New e-mail address").fill("ines@example.org")
    address.get_by_role("button", name="Send the link").click()
    expect(address.get_by_role("alert")).to_contain_text("Another account has this address")
    address.get_by_label("New e-mail address").fill("nuria.sol@example.org")
    address.get_by_role("button", name="Send the link").click()
    expect(address).to_contain_text("nuria.sol@example.org takes its place")
    guest.goto("/mail-tray")
    guest.get_by_role("link", name=re.compile("confirm-email")).first.click()
    guest.get_by_role("button", name="Confirm the address").click()
    expect(guest.get_by_role("status")).to_contain_text("The address is confirmed")
    guest.goto("/account")
    expect(guest.get_by_role("main")).to_contain_text("nuria.sol@example.org")
    guest.context.close()


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


def test_a_listing_and_a_page_are_written_side_by_side_with_what_each_asks_for(page: Page, stack: Stack) -> None:
    sign_in(page)
    page.goto("/bakery/bench/new")
    page.get_by_label("Text of the master").fill("Stollen, from Monday, at every counter")
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    choices = page.get_by_role("menuitemcheckbox")
    # Which profile a new post begins with depends on what the stories before have connected.
    choices.and_(page.locator("[data-state=checked]")).click()
    choices.filter(has_text="Four counters").click()
    page.keyboard.press("Escape")
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
    expect(page.get_by_test_id("kept")).to_contain_text("· kept")
    page.reload()
    expect(page.get_by_label("Title for Waypost")).to_have_value("A stollen and a coffee")
    page.get_by_label("Now").check()
    page.get_by_role("button", name="Send 3").click()
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
