"""From an empty account to being ready to write: ten networks, a set, a classic blog, and a client's link."""

import re

from playwright.sync_api import Browser, Page, expect
from tools.stack import Stack

from tests.browser.conftest import sign_in, violations
from tests.browser.desk import (
    expect_kept,
    expect_no_sideways_scroll,
    row,
    send_now,
    sign_in_at_network,
    tickets,
    write,
)

CHOSEN = {
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


def test_ten_networks_connected_from_nothing_and_a_post_on_a_classic_blog(page: Page, stack: Stack) -> None:
    sign_in(page)
    page.goto("/garden/today")
    expect(page.get_by_role("link", name="Calendar", exact=True)).to_be_visible()
    make_brand(page, "Nine Winds")
    for network, profiles in CHOSEN.items():
        connect(page, network, profiles)
    connect_site(page, stack)
    expect(page.locator("tbody")).to_have_count(10)
    expect(row(page, "The sky over Cielo Alto")).to_contain_text("It is tied to a Plaza page that you administer.")
    assert violations(page) == []
    mend_the_group(page, stack)
    keep_set(page, "The sky", "@cieloalto.sky", "Sky watchers")
    write(page, "nine-winds", "Clear tonight, over both", "The sky")
    expect(page.locator("[data-column-head]")).to_have_count(2)
    expect_kept(page)
    narrow_to_set(page, "The sky")

    # The blog speaks another wire; one writes for it as for any network.
    write(
        page, "nine-winds", "Seeing was poor & then <perfect>.\nThe Hunter stood clear.", "The night log of Cielo Alto"
    )
    page.get_by_label(re.compile(r"^Title for|^Title \(")).fill("A night in two halves")
    send_now(page)
    tickets(page, "The night log of Cielo Alto, published").click()
    page.goto(page.get_by_role("link", name="See it on Foolscap").get_attribute("href") or "")
    expect(page.get_by_role("heading", name="A night in two halves")).to_be_visible()
    expect(page.get_by_text("Seeing was poor & then <perfect>.")).to_be_visible()


def make_brand(page: Page, name: str) -> None:
    """By the brand menu, without a name first; led on to its profiles, of which there are none."""
    page.keyboard.press("b")
    page.get_by_label("Find a brand or a page").fill("new")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Make the brand").click()
    expect(page.get_by_role("alert")).to_have_text("Give the brand a name.")
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label(re.compile("^Time zone")).fill("Europe/Lisbon")
    page.get_by_role("button", name="Make the brand").click()
    expect(page.get_by_role("heading", name=f"First steps of {name}")).to_be_visible()
    page.get_by_role("button", name=name).click()
    page.get_by_role("option", name="Profiles").click()
    expect(page.get_by_role("heading", name="No profiles yet")).to_be_visible()
    assert violations(page) == []


def connect(page: Page, network: str, profiles: list[str]) -> None:
    page.get_by_role("button", name="Connect profiles").click()
    expect(page.get_by_role("dialog")).to_contain_text("An administrator of the group has switched the app on.")
    page.get_by_role("button", name=f"Go to {network}").click()
    sign_in_at_network(page, "cieloalto")
    # What was agreed to for another brand is ticked already.
    for box in page.get_by_role("checkbox").all():
        box.uncheck()
    for profile in profiles:
        page.get_by_label(profile).check()
    page.get_by_role("button", name="Agree").click()
    expect(page.get_by_role("status").filter(has_text=re.compile("Connected|not ready"))).to_be_visible()


def connect_site(page: Page, stack: Stack) -> None:
    page.get_by_role("button", name="Connect profiles").click()
    page.get_by_role("button", name="Go to the site").click()
    expect(page.get_by_role("alert")).to_contain_text("Write the site's address")
    page.get_by_label("Address of the site").fill(f"{stack.standin_url}/site/cieloalto/")
    page.get_by_role("button", name="Go to the site").click()
    sign_in_at_network(page, "cieloalto")
    page.get_by_role("checkbox").check()
    page.get_by_role("button", name="Agree").click()


def mend_the_group(page: Page, stack: Stack) -> None:
    """What was unmet is mended at the network, and checked again."""
    watchers = row(page, "Sky watchers")
    expect(watchers).to_contain_text("not ready yet")
    watchers.get_by_role("button", name="Check again").click()
    expect(page.get_by_text("Sky watchers is still not ready.")).to_be_visible()
    at_plaza = page.context.new_page()
    at_plaza.goto(f"{stack.standin_url}/plaza/settings")
    group = at_plaza.get_by_label("Sky watchers of the valley", exact=True)
    group.get_by_label("The app Menudo").select_option("on")
    group.get_by_role("button", name="Keep").click()
    watchers.get_by_role("button", name="Check again").click()
    expect(watchers).to_contain_text("connected")


def keep_set(page: Page, name: str, *profiles: str) -> None:
    page.get_by_role("button", name="Sets", exact=True).click()
    page.get_by_role("button", name="New set").click()
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_text("Give the set a name.")).to_be_visible()
    page.get_by_label("Name of the set").fill(name)
    for profile in profiles:
        page.get_by_role("checkbox", name=re.compile(f"^{profile}")).check()
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("dialog").get_by_text(", ".join(profiles))).to_be_visible()
    page.keyboard.press("Escape")


def narrow_to_set(page: Page, name: str) -> None:
    """The calendar shows the set alone until the filter is cleared."""
    lanes = page.get_by_role("rowheader").filter(has_not_text="Almanac")
    page.get_by_role("link", name="Calendar", exact=True).click()
    expect(lanes).to_have_count(11)
    page.get_by_role("button", name="Set", exact=True).click()
    page.get_by_role("menuitemcheckbox", name=name).click()
    expect(lanes).to_have_count(2)
    page.reload()
    expect(page.get_by_role("button", name=f"Set: {name}")).to_be_visible()
    page.get_by_role("button", name="Clear the filter").click()
    expect(lanes).to_have_count(11)


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
    expect_no_sideways_scroll(phone)
    phone.get_by_role("button", name="Go to Brisk").click()
    sign_in_at_network(phone, "hogaza")
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
