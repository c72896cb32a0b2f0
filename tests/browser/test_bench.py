"""The Bench in a browser: stories, offers, the keyboard alone, a phone, files that are dropped, pasted or lost on the way."""

import re
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from tools.stack import Stack

from tests.browser.conftest import sign_in, violations
from tests.browser.desk import (
    Held,
    choose,
    choose_only,
    expect_kept,
    expect_no_sideways_scroll,
    finding,
    fits,
    media_cell,
    send_now,
    tickets,
    write,
)


def test_a_story_is_cropped_and_lettered_and_a_page_keeps_one_kind(page: Page, files: dict[str, Path]) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    choose_only(page, "fernhollow.garden", "Fernhollow Garden")
    media_cell(page, "master").locator("input[type=file]").set_input_files([files["frost.jpg"], files["round.mp4"]])
    expect(media_cell(page, "master").locator("li")).to_have_count(2)
    page.get_by_label("Goes out as, on Vitrine").select_option("story")
    expect(page.locator("[data-layout=story] [data-story-frame]")).to_have_count(2)
    finding(page, "shape", "a story on Vitrine").get_by_role("button", name="Crop to fit").click()
    expect(media_cell(page, "vitrine")).to_contain_text("cropped")
    page.get_by_role("button", name="Work on frost.jpg for Vitrine").click()
    panel = page.get_by_role("dialog")
    expect(panel.get_by_role("button", name="9:16 story")).to_have_attribute("aria-pressed", "true")
    panel.get_by_role("textbox", name="Words over the frame").fill("6 below at seven")
    panel.get_by_label("Where they stand").select_option("top")
    panel.get_by_label("Across", exact=True).fill("0.1")
    assert violations(page) == []
    panel.get_by_role("button", name="Done").click()
    expect(page.locator("[data-story-frame='1']")).to_contain_text("6 below at seven")
    expect(fits(page, "vitrine")).to_have_text(re.compile("fits|advice"))
    # Two kinds don't go together in a post on Plaza; one column is put back to one kind in one step.
    page.locator("[data-finding=together]").get_by_role("button", name="Keep one kind").click()
    expect(media_cell(page, "plaza").locator("li")).to_have_count(1)
    expect_kept(page)


def test_an_offer_goes_to_every_counter_and_one_counter_has_words_of_its_own(page: Page, stack: Stack) -> None:
    sign_in(page)
    write(page, "bakery", "Two for one on rye, this week only", "Four counters")
    page.get_by_label("Kind for Waypost").select_option("offer")
    page.get_by_label("Title for Waypost").fill("Rye for two")
    page.get_by_label("Start for Waypost").fill("2026-12-01T08:00")
    page.get_by_label("End for Waypost").fill("2026-12-07T20:00")
    page.get_by_label("Button for Waypost").select_option("get offer")
    expect(page.locator("[data-finding=button_link]")).to_contain_text("needs a link to lead to")
    page.get_by_label("Link of the offer for Waypost").fill("https://hogaza.example.org/rye")
    head = page.locator("[data-column-head=waypost]")
    head.get_by_role("button", name=re.compile("choose profiles on Waypost")).click()
    page.get_by_role("menuitem", name=re.compile("Hogaza, Station in a column of its own")).click()
    page.keyboard.press("Escape")
    own = page.get_by_role("textbox", name=re.compile("^Text for Waypost, Hogaza, Station"))
    own.fill("Two for one on rye, at the Station counter only until nine")
    expect(page.locator("[data-column-head]").filter(has_text="Waypost")).to_have_count(2)
    expect(page.get_by_test_id("fits").filter(has_text="stop")).to_have_count(0)
    expect_kept(page)
    send_now(page)
    expect(tickets(page, "Two for one on rye.*, Hogaza, Station, published")).to_be_visible()
    expect(tickets(page, "Two for one on rye.*, Hogaza, Riverside, published")).to_be_visible()
    bodies = {p["uid"]: p["body"] for p in stack.control("posts") if p["network"] == "waypost"}
    sent = {uid: body for uid, body in bodies.items() if body["text"].startswith("Two for one on rye")}
    assert {body["title"] for body in sent.values()} == {"Rye for two"} and len(sent) == 3
    assert sent["hogaza-station"]["text"].endswith("until nine")
    assert sent["hogaza-riverside"]["text"].endswith("this week only")


def test_nothing_moves_under_the_hand_when_a_new_post_is_first_kept(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    held = page.get_by_label("Text of the master"), page.get_by_role("button", name=re.compile("^Profiles"))
    expect(page.get_by_test_id("fits").first).to_contain_text("stop")
    before = [one.bounding_box() for one in held]
    held[0].fill("Moss")
    expect_kept(page)
    for name in ("Talk", "More for this post", "Put up for sign-off"):
        expect(page.get_by_role("button", name=name)).to_be_enabled()
    assert [one.bounding_box() for one in held] == before


def test_the_keyboard_alone_inserts_pushes_saves_and_goes_back(page: Page, someone: Callable[..., Page]) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    text = page.get_by_label("Text of the master")
    text.press_sequentially("Frost on /brand")
    page.get_by_role("option", name=re.compile(r"\{brand\}")).wait_for()
    page.keyboard.press("Enter")
    expect(text).to_have_value("Frost on {brand}")
    expect(page.get_by_test_id("proof-text").first).to_have_text("Frost on Fernhollow Botanic Garden")
    text.press_sequentially(" /snowf")
    page.get_by_role("option", name=re.compile("emoji")).first.wait_for()
    page.keyboard.press("Enter")
    expect(text).to_have_value(re.compile("Frost on {brand} ❄"))
    expect_kept(page)
    first = text.input_value()
    # A selection is kept as a snippet, and comes back by its name.
    text.press("Control+a")
    page.get_by_role("button", name="Writing tools: master, text").click()
    page.get_by_role("menuitem", name="Keep to say again").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Frosty words")
    assert violations(page) == []
    page.get_by_role("button", name="Keep it").click()
    text.fill("")
    text.press_sequentially("/frosty")
    page.get_by_role("option", name=re.compile("Frosty words")).wait_for()
    page.keyboard.press("Enter")
    expect(text).to_have_value(first)

    # Another person is seen; the emoji panel works without a network.
    maud = someone("maud")
    maud.goto(page.url)
    expect(page.get_by_test_id("others-here")).to_have_text("Maud Ellery is here too")
    maud.goto("/garden/today")
    page.get_by_role("button", name="Writing tools: master, text").click()
    page.get_by_role("menuitem", name="Emoji").click()
    page.get_by_label("Search emoji").fill("mushroom")
    page.get_by_role("gridcell", name="mushroom").first.click()
    page.get_by_role("radio", name="medium dark").click()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    expect(text).to_have_value(re.compile("🍄"))
    expect_kept(page)

    # History leads back, a copy is made, the bin gives back what it took.
    page.get_by_role("button", name="More for this post").click()
    page.get_by_role("menuitem", name="History").click()
    expect(page.get_by_role("dialog").get_by_role("listitem")).to_have_count(2)
    page.get_by_role("button", name=re.compile("^Go back to this")).first.click()
    expect(text).not_to_have_value(re.compile("🍄"))
    page.get_by_role("button", name="More for this post").click()
    page.get_by_role("menuitem", name="Duplicate", exact=True).click()
    expect(page.get_by_text("A copy, without times.")).to_be_visible()
    page.get_by_role("button", name="More for this post").click()
    page.get_by_role("menuitem", name="To the bin").click()
    expect(page).to_have_url(re.compile("/calendar"))
    page.goto("/garden/library?shelf=bin")
    page.get_by_role("button", name=re.compile("^Take out:")).first.click()
    expect(page).to_have_url(re.compile(r"/bench/\d+"))


def test_axe_finds_nothing_wrong_on_the_bench_and_the_library(someone: Callable[..., Page]) -> None:
    page = someone(color_scheme="light")
    page.goto("/garden/calendar")
    page.get_by_role("link", name=re.compile("Moss week: the wall")).first.click()
    expect(page.locator("[data-testid=proof]")).to_have_count(7)
    assert violations(page, both=True) == []
    page.get_by_role("button", name="By night", exact=True).click()
    page.get_by_role("button", name="Wide", exact=True).click()
    assert violations(page, both=True) == []
    page.get_by_role("button", name="By night", exact=True).click()
    page.get_by_role("button", name="Wide", exact=True).click()
    page.get_by_role("button", name="Work on moss.jpg for Vitrine").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    assert violations(page, both=True) == []
    page.keyboard.press("Escape")
    dialog = page.get_by_role("dialog")
    ready = {"Hashtags": dialog.get_by_text("Tag sets"), "Wording help": dialog.get_by_label("What is wished for")}
    for menu, shown in ready.items():
        page.get_by_role("button", name="Writing tools: master, text").click()
        page.get_by_role("menuitem", name=menu).click()
        expect(shown).to_be_visible()
        assert violations(page, both=True) == [], menu
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)
    for shelf in ("", "?shelf=snippets", "?shelf=tag-sets", "?shelf=link-tags", "?shelf=bin", "?list=true"):
        page.goto(f"/garden/library{shelf}")
        expect(page.get_by_role("heading", name="Library")).to_be_visible()
        expect(page.get_by_text("Loading")).to_have_count(0)
        assert violations(page, both=True) == [], shelf


def test_on_a_phone_the_bench_can_be_read_and_written(someone: Callable[..., Page]) -> None:
    page = someone(viewport={"width": 390, "height": 800})
    page.goto("/garden/bench/new")
    page.get_by_label("Text of the master").fill("From the path")
    expect_kept(page)
    expect_no_sideways_scroll(page)
    assert violations(page) == []


def test_a_dropped_connection_loses_no_file(page: Page, files: dict[str, Path]) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    tries = {"count": 0}

    def flaky(route) -> None:
        tries["count"] += 1
        if tries["count"] <= 2:
            route.abort("connectionreset")
        else:
            route.continue_()

    page.route("**/api/brands/garden/assets", flaky)
    cell = page.locator("[data-media-cell=master]")
    cell.locator("input[type=file]").set_input_files([files["frost.jpg"], files["gate.png"]])
    expect(cell.locator("li")).to_have_count(2)
    assert tries["count"] == 4, "two lost tries, and each file once"
    page.unroute("**/api/brands/garden/assets")
    page.route("**/api/brands/garden/assets", lambda route: route.abort("connectionreset"))
    cell.locator("input[type=file]").set_input_files([files["bark.jpg"]])
    expect(cell.get_by_role("alert")).to_contain_text("“bark.jpg” could not be sent")
    page.unroute("**/api/brands/garden/assets")
    cell.get_by_role("button", name="Try again").click()
    expect(cell.locator("li")).to_have_count(3)


@pytest.mark.parametrize("how", ["paste", "drop"])
def test_a_picture_pasted_or_dropped_anywhere_is_taken(page: Page, how: str) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    text = page.get_by_label("Text of the master")
    text.fill("With a picture")
    text.evaluate(
        """async (field, how) => {
            const canvas = new OffscreenCanvas(400, 300);
            canvas.getContext('2d').fillRect(0, 0, 200, 200);
            const file = new File([await canvas.convertToBlob({type: 'image/png'})], 'from-elsewhere.png', {type: 'image/png'});
            const data = new DataTransfer();
            data.items.add(file);
            const more = {bubbles: true, cancelable: true};
            field.dispatchEvent(how === 'paste' ? new ClipboardEvent('paste', {...more, clipboardData: data}) : new DragEvent('drop', {...more, dataTransfer: data}));
        }""",
        how,
    )
    expect(page.locator("[data-media-cell=master] li")).to_have_count(1)
    expect(page.locator("[data-media-cell=master]")).to_contain_text("400 × 300")
    expect(text).to_have_value("With a picture")


def test_what_is_typed_while_a_mend_is_on_its_way_stays(page: Page, files: dict[str, Path]) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    choose(page, "Winter borders")
    page.locator("[data-media-cell=master] input[type=file]").set_input_files([files["frost.jpg"], files["gate.png"]])
    expect(page.locator("[data-media-cell=tackboard] li")).to_have_count(2)
    mends = Held(page, "**/api/brands/garden/fix")
    page.locator("[data-finding=media_count]").get_by_role("button", name="Leave out what is too many").click()
    page.get_by_label("Title for Tackboard").fill("Typed meanwhile")
    expect(page.get_by_label("Title for Tackboard")).to_have_value("Typed meanwhile")
    assert mends.waiting and len(mends.waiting) == 1
    mends.release()
    expect(page.locator("[data-media-cell=tackboard] li")).to_have_count(1)
    expect(page.get_by_label("Title for Tackboard")).to_have_value("Typed meanwhile")
