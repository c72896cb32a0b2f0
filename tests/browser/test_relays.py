"""Going by itself, and never out of hand: feeds, the shelf, relays, a catalogue, quotations, starters. All invented."""

import re
from collections.abc import Callable

import httpx2
from playwright.sync_api import Locator, Page, expect
from tools.stack import Stack

from tests.browser.conftest import sign_in, violations
from tests.browser.desk import expect_no_sideways_scroll


def standin(page: Page) -> str:
    """The stand-in's address, as a profile's page has it."""
    profiles = page.request.get("/api/brands/garden/profiles").json()
    return next(p["url"] for p in profiles if p["network"] == "brisk").split("/brisk/")[0]


def tell(address: str, room: str, **said: object) -> str:
    answer = httpx2.post(f"{address}/control/api/{room}", json=said, trust_env=False, timeout=60)
    answer.raise_for_status()
    return answer.json()["url"]


def cell(page: Page, path: str) -> Locator:
    return page.get_by_role("gridcell").get_by_role("button", name=re.compile(rf"(^|\s){re.escape(path)}:"))


def test_a_photo_goes_on_to_a_short_text_and_a_board_as_a_picture_of_its_own(page: Page) -> None:
    sign_in(page)
    address = standin(page)
    words = "Said on the phone, under the oldest lime. #moss"
    tell(address, "outside", network="vitrine", uid="fernhollow-photos", text=words, pictures=["#5b1f45"])
    page.goto("/garden/relays")
    # The ring on the board is told before anything of it is switched on.
    expect(page.get_by_text("A ring of relays")).to_be_visible()
    expect(cell(page, "Fernhollow Garden to fernhollow.garden")).to_have_accessible_name(re.compile("^would ring"))
    assert violations(page, both=True) == []
    # By keyboard, across what leads to itself.
    cell(page, "fernhollow.garden to @fernhollow").focus()
    page.keyboard.press("ArrowRight")
    expect(cell(page, "fernhollow.garden to @fernhollow.nursery")).to_be_focused()
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("a picture").check()
    dialog.get_by_label("Message", exact=True).fill("{text} {prize}")
    dialog.get_by_role("button", name="Try it on the last ten").click()
    expect(dialog.get_by_role("alert").filter(has_text="There is no placeholder {prize} here.")).to_be_visible()
    dialog.get_by_label("Message", exact=True).fill("Seen: {text}")
    dialog.get_by_label("When", exact=True).select_option("slot")
    dialog.get_by_role("button", name="Try it on the last ten").click()
    sample = dialog.get_by_role("region", name="Sample")
    expect(sample.get_by_text(f"Seen: {words}")).to_be_visible()
    expect(sample.get_by_text("fetched then")).to_be_visible()
    assert violations(page) == []
    dialog.get_by_label("From when").select_option("1")
    dialog.get_by_role("button", name="Switch on").click()
    expect(page.get_by_text("On, with the last 1.")).to_be_visible()
    expect(cell(page, "fernhollow.garden to @fernhollow.nursery")).to_have_accessible_name(re.compile("^1 "))
    # The board asks first, with its own fields filled in: its title, and where it goes.
    cell(page, "fernhollow.garden to Winter borders").click()
    dialog.get_by_role("button", name="Switch off").click()
    cell(page, "fernhollow.garden to Winter borders").click()
    dialog.get_by_label(re.compile("^Title")).fill("{text 40}")
    expect(dialog.get_by_label(re.compile("^Where it links to"))).to_have_value("{address}")
    dialog.get_by_label("From when").select_option("1")
    dialog.get_by_role("button", name="Switch on").click()
    expect(page.get_by_text("On, with the last 1.")).to_be_visible()
    page.get_by_role("link", name="Log", exact=True).click()
    expect(page.get_by_text(re.compile("Said on the phone")).first).to_be_visible()
    page.get_by_role("link", name="Its post").first.click()
    expect(page.get_by_test_id("delivery-state")).to_have_text(re.compile("planned|held"))
    # As a picture of its own: the library has it, and the post shows it.
    post = page.get_by_role("dialog").locator("img").first
    expect(post).to_be_visible()


def test_what_a_feed_brings_is_asked_about_and_waits_for_sign_off(page: Page, someone: Callable[..., Page]) -> None:
    sign_in(page)
    page.goto("/garden/relays/asked")
    first = page.get_by_role("article", name=re.compile("^Forty mosses"))
    expect(first.get_by_text("We counted along the north wall")).to_be_visible()
    assert violations(page, both=True) == []
    first.get_by_role("button", name="Let it go out").click()
    expect(page.get_by_text("It goes out.")).to_be_visible()
    expect(first).to_have_count(0)
    thrown = page.get_by_role("article", name=re.compile("^The Hunter"))
    thrown.get_by_role("button", name="Throw it away").click()
    expect(thrown).to_have_count(0)
    page.get_by_role("link", name="Log", exact=True).click()
    carried = page.get_by_role("article", name="Forty mosses on one wall to @fernhollow")
    expect(carried).to_contain_text("held")
    expect(page.get_by_text("thrown away").first).to_be_visible()
    maud = someone("maud")
    maud.goto("/waiting")
    expect(maud.get_by_role("main").get_by_text(re.compile("Forty mosses")).first).to_be_visible()


def test_a_feed_is_found_by_its_sites_address_and_its_articles_are_shared_from_the_shelf(page: Page) -> None:
    sign_in(page)
    address = standin(page)
    page.goto("/bakery/relays/feeds")
    page.get_by_role("button", name="Follow a feed").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label(re.compile("^Address")).fill(f"{address}/health")
    dialog.get_by_role("button", name="Look there").click()
    expect(dialog.get_by_role("alert")).to_be_visible()
    dialog.get_by_label(re.compile("^Address")).fill(f"{address}/site/hogaza/")
    dialog.get_by_role("button", name="Look there").click()
    expect(dialog.get_by_text(re.compile("Stollen season"))).to_be_visible()
    assert violations(page) == []
    dialog.get_by_role("button", name="Follow it").click()
    expect(page.get_by_text("2 articles")).to_be_visible()
    assert violations(page, both=True) == []
    page.goto("/bakery/relays/shelf")
    page.get_by_label("Choose Rye day").check()
    page.get_by_role("button", name="Share 1").click()
    dialog.get_by_label(re.compile("^Your remark")).fill("Rye, and why.")
    dialog.get_by_role("button", name="Plan at the next free slots").click()
    expect(dialog.get_by_text("Choose at least one profile.")).to_be_visible()
    assert violations(page) == []
    dialog.get_by_role("button", name="Make a draft").click()
    expect(page.get_by_label("Text of the master")).to_have_value("Rye, and why.\n\nRye day")
    page.goto("/bakery/relays/shelf")
    expect(page.get_by_label("Choose Stollen season")).to_be_visible()
    expect(page.get_by_label("Choose Rye day")).to_have_count(0)
    page.get_by_role("button", name="Remind me").click()
    dialog.get_by_label("At (Madrid time)").fill("08:30")
    dialog.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("button", name="Your reminder")).to_be_visible()
    assert violations(page, both=True) == []


def test_a_lowered_price_asks_and_goes_out_with_its_banner(page: Page, stack: Stack) -> None:
    sign_in(page)
    address = standin(page)
    breads = tell(
        address,
        "files",
        site="hogaza",
        path="breads.csv",
        type="text/csv",
        text="no;bread;price\n1;Rye, two kilos;7,50\n2;Spelt;cheap\n",
    )
    page.goto("/bakery/relays/catalogue")
    page.get_by_role("button", name="Add a catalogue").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name", exact=True).fill("Breads")
    dialog.get_by_label(re.compile("^Address")).fill(breads)
    dialog.get_by_role("button", name="Look there").click()
    expect(dialog.get_by_text("“cheap” is no price.")).to_be_visible()
    dialog.get_by_role("button", name="Keep").click()
    expect(dialog.get_by_text("Say which column this is.").first).to_be_visible()
    dialog.get_by_label("Key (needed)").select_option("no")
    dialog.get_by_label("Title (needed)").select_option("bread")
    expect(dialog.get_by_text("Rye, two kilos")).to_be_visible()
    assert violations(page) == []
    dialog.get_by_role("button", name="Keep").click()
    expect(page.get_by_text("Rye, two kilos")).to_be_visible()
    assert violations(page, both=True) == []
    page.goto("/bakery/relays")
    cell(page, "Breads: Price lowered to @hogaza").click()
    expect(dialog.get_by_label("asks first: a draft waits for your word")).to_be_checked()
    dialog.get_by_label("When", exact=True).select_option("at_once")
    dialog.get_by_role("button", name="Switch on").click()
    expect(page.get_by_text("On: what appears from now on is carried.")).to_be_visible()
    page.goto("/bakery/relays/catalogue")
    page.get_by_role("button", name="Say what happened to Rye").click()
    dialog.get_by_label(re.compile("^New price")).fill("9")
    dialog.get_by_role("button", name="Note it").click()
    expect(dialog.get_by_text(re.compile("Write a price below"))).to_be_visible()
    dialog.get_by_label(re.compile("^New price")).fill("6.20")
    dialog.get_by_role("button", name="Note it").click()
    expect(page.get_by_role("region", name="What happened")).to_contain_text("Price lowered")
    page.get_by_role("link", name="Asked").click()
    asked = page.get_by_role("article", name="Price lowered: Rye, two kilos")
    expect(asked).to_contain_text("Rye, two kilos is now € 6.20 (it was € 7.50).")
    expect(asked.locator("img")).to_be_visible()
    page.set_viewport_size({"width": 390, "height": 844})
    expect_no_sideways_scroll(page)
    page.set_viewport_size({"width": 1280, "height": 800})
    asked.get_by_role("button", name="Let it go out").click()
    page.get_by_role("link", name="Log", exact=True).click()
    expect(page.get_by_text("published")).to_be_visible()
    sent = httpx2.get(f"{address}/control/api/posts?profile=hogaza", trust_env=False, timeout=60).json()
    assert [len(p["body"]["media"]) for p in sent if "€ 6.20" in p["body"]["text"]] == [1]


def test_a_rota_of_quotations_goes_once_a_week(page: Page) -> None:
    sign_in(page)
    page.goto("/bakery/rotas")
    page.get_by_role("button", name="New rota").first.click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name", exact=True).fill("Bread, said well")
    dialog.get_by_label("@hogaza Brisk").check()
    dialog.get_by_label("How close together").select_option("7")
    dialog.get_by_role("button", name="Keep", exact=True).click()
    page.get_by_role("button", name="Keep slots for it").click()
    for day in ("Mon", "Wed", "Fri"):
        page.get_by_role("button", name=day, exact=True).click()
    page.get_by_label("Time of the slots").fill("07:15")
    page.get_by_role("button", name="Keep these").click()
    page.get_by_role("button", name="Put turns in").click()
    dialog.get_by_role("button", name="Quotations").click()
    dialog.get_by_label("Words, author or work").fill("cakes and ale")
    expect(dialog.get_by_text("William Shakespeare, Twelfth Night, 1623")).to_be_visible()
    dialog.get_by_label(re.compile("no more cakes and ale")).check()
    dialog.get_by_label("Words, author or work").fill("")
    dialog.get_by_label("Subject").select_option("table")
    expect(dialog.get_by_role("checkbox").nth(20)).to_be_visible()
    dialog.get_by_label(re.compile("daily bread")).check()
    dialog.get_by_label("Hashtags that stand under each").fill("hogaza two#words")
    dialog.get_by_role("button", name="Put 2 in").click()
    expect(dialog.get_by_role("alert")).to_be_visible()
    dialog.get_by_label("Hashtags that stand under each").fill("hogaza, bread")
    dialog.get_by_label("each with a picture in the brand’s colours").check()
    assert violations(page) == []
    dialog.get_by_role("button", name="Put 2 in").click()
    expect(page.get_by_role("rowheader").filter(has_text="cakes and ale")).to_be_visible()
    # Three slots a week, one of them taken; the two take turns.
    taken = page.locator("[role=gridcell] [aria-pressed=true] .roll-mark")
    expect(taken).to_have_count(8)
    expect(page.locator('[title*="too near to another"]').first).to_be_visible()
    page.get_by_role("button", name="Delete", exact=True).click()
    page.get_by_role("button", name="Yes, delete it").click()
    expect(page.get_by_role("heading", name="Rotas")).to_be_visible()


def test_starters_are_kept_or_thrown_away(page: Page) -> None:
    sign_in(page)
    page.goto("/bakery/today")
    part = page.get_by_role("region", name="Starters")
    expect(part.get_by_role("button", name=re.compile("^Keep")).first).to_be_visible()
    assert violations(page, both=True) == []
    count = part.get_by_role("button", name=re.compile("^Keep")).count()
    thrown = part.get_by_role("button", name=re.compile("^✕|^Throw away")).first
    name = (thrown.get_attribute("aria-label") or "").removeprefix("Throw away: ")
    thrown.click()
    page.get_by_role("menuitem", name="We said that already").click()
    expect(page.get_by_text("Thrown away. What comes next follows from why.")).to_be_visible()
    expect(part.get_by_role("button", name=f"Keep: {name}")).to_have_count(0)
    # The supply is filled up as far as there is something to propose.
    assert 0 < part.get_by_role("button", name=re.compile("^Keep")).count() <= count
    part.get_by_role("button", name=re.compile("^Keep")).first.click()
    expect(page.get_by_label("Text of the master")).to_have_value(re.compile("___"))


def test_starting_points_fill_cells_that_stay_off(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/relays")
    page.get_by_role("button", name="Starting points").click()
    dialog = page.get_by_role("dialog")
    start = dialog.get_by_role("button", name="Fill these cells").first
    expect(start).to_be_visible()
    assert violations(page) == []
    start.click()
    expect(page.get_by_text("all switched off")).to_be_visible()
    assert violations(page, both=True) == []
    # What is emptied can be had back, off, with all that was said of it.
    emptied = cell(page, "Garden journal to Fernhollow Trust")
    emptied.click()
    dialog.get_by_label("In one of these categories").fill("moss, pond")
    dialog.get_by_role("button", name="Keep, switched off").click()
    expect(emptied).to_have_accessible_name(re.compile("tagged moss or pond"))
    emptied.click()
    dialog.get_by_role("button", name="Empty the cell").click()
    dialog.get_by_role("button", name="Yes, empty it").click()
    expect(emptied).to_have_accessible_name(re.compile("empty|nothing"))
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("It is back, switched off.")).to_be_visible()
    expect(emptied).to_have_accessible_name(re.compile("^off"))
    emptied.click()
    expect(dialog.get_by_label("In one of these categories")).to_have_value("moss, pond")
