"""The Bench in a browser: one idea to eight networks, by keyboard and by mouse, and what was published beside what was proved."""

import re
from collections.abc import Callable
from pathlib import Path

import pytest
from demo.pictures import draw_fern, encode_picture
from playwright.sync_api import Page, expect
from tools.stack import Stack

from tests.browser.conftest import sign_in, violations
from tests.browser.test_story import tickets
from tests.films import film

IDEA = (
    "Lichen is two beings that live as one. On Sunday we look at the oldest on the garden wall, with lenses and a little patience. "
    "It grows a millimetre a year, so nobody has to hurry. Children are welcome, and so are questions that start with why. "
    "We meet at the gate at eleven and are back for lunch, whatever the weather says about it."
)
WHO = {
    "Brisk": "@fernhollow",
    "Plaza": "Fernhollow Garden",
    "Vitrine": "fernhollow.garden",
    "Guildhall": "Fernhollow Trust",
    "Tackboard": "Winter borders",
    "Waypost": "Garden, Valdemora",
    "Open site": "fernhollow.example",
    "Vuelta": "fernhollow",
}


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    folder = tmp_path_factory.mktemp("bench")
    made = {
        "lichen.jpg": encode_picture(draw_fern((1200, 900), 61)),
        "bark.jpg": encode_picture(draw_fern((1500, 620), 62)),
        "gate.png": encode_picture(draw_fern((900, 900), 63), "PNG"),
        "round.mp4": film((360, 640), 3),
        "frost.jpg": encode_picture(draw_fern((900, 1200), 64)),
    }
    for name, data in made.items():
        (folder / name).write_bytes(data)
    return {name: folder / name for name in made}


def choose(page: Page, *handles: str) -> None:
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    for handle in handles:
        row = page.get_by_role("menuitemcheckbox").filter(has_text=re.compile(rf"^✓?[A-Z][a-z]{re.escape(handle)}$"))
        if row.get_attribute("aria-checked") != "true":
            row.click()
    page.keyboard.press("Escape")


def fits(page: Page, key: str):
    return page.locator(f"[data-column-head='{key}']").get_by_test_id("fits")


def kept(page: Page) -> None:
    expect(page.get_by_test_id("kept")).to_have_text(re.compile("· kept$"))


def proofs(page: Page) -> dict[str, dict]:
    """What each column proves, by the order of columns: text, pictures, title, button, first comment."""
    page.locator("[data-testid=proof] button", has_text="… more").evaluate_all("all => all.forEach(b => b.click())")
    return page.locator("[data-testid=proof]").evaluate_all(
        """all => all.map(e => ({
            text: (e.querySelector('[data-testid=proof-text]')?.textContent ?? '').trim(),
            pictures: e.querySelectorAll('[data-proof-picture]').length,
            all: e.textContent,
        }))"""
    )


def test_one_idea_goes_to_eight_networks_and_arrives_as_it_was_proved(
    page: Page, stack: Stack, someone: Callable[..., Page], files: dict[str, Path]
) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    choose(page, *WHO.values())
    expect(page.locator("[data-column-head]")).to_have_count(8)
    page.get_by_label("Title, for the team only").fill("Lichen walk")
    page.get_by_label("Text of the master").fill(IDEA)
    page.get_by_label("Link of the master").fill("https://fernhollow.example.org/lichen")
    master = page.locator("[data-media-cell=master]")
    master.locator("input[type=file]").set_input_files([files["lichen.jpg"], files["bark.jpg"], files["gate.png"]])
    expect(master.locator("li")).to_have_count(3)
    # Media chosen after the profiles reach all of them.
    for key in ("brisk", "plaza", "vitrine"):
        expect(page.locator(f"[data-media-cell='{key}'] li")).to_have_count(3)

    # Brisk: too long, mended in one step; it says what it changed and can be undone.
    expect(fits(page, "brisk")).to_have_text("1 stop")
    page.get_by_role("button", name="Shorten here").first.click()
    expect(fits(page, "brisk")).to_have_text(re.compile("fits|advice"))
    short = page.get_by_role("textbox", name="Text for Brisk").input_value()
    assert len(short) <= 300 and IDEA.startswith(short[:60])
    page.get_by_role("button", name="More for Text for Brisk").click()
    page.get_by_role("menuitem", name="Compare with the master").click()
    expect(page.get_by_role("dialog").locator("del").first).to_be_visible()
    page.keyboard.press("Escape")

    # Vitrine: cropped to fit, words of its own, its tags in the first comment.
    page.locator("[data-finding=shape]").filter(has_text="Vitrine").get_by_role("button", name="Crop to fit").click()
    expect(page.locator("[data-media-cell=vitrine]")).to_contain_text("cropped")
    mine = page.get_by_role("textbox", name="Text for Vitrine")
    mine.fill("Two beings, one crust. ")
    mine.press("End")
    mine.press_sequentially("/moss-w")
    expect(page.get_by_test_id("palette")).to_contain_text("tag set · 9 tags")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("palette")).to_have_count(0)
    mine.fill("Two beings, one crust.")
    comment = page.get_by_role("textbox", name="First comment for Vitrine")
    comment.click()
    comment.press_sequentially("/moss-w")
    page.get_by_role("option", name=re.compile("moss-week")).wait_for()
    comment.press("Enter")
    expect(comment).to_have_value(re.compile("^#moss #bryophyta"))
    expect(fits(page, "vitrine")).to_have_text(re.compile("fits|advice"))

    # Guildhall: more formal, from a proposal that shows what it changes.
    page.get_by_role("button", name="Writing tools: guildhall, text").click()
    page.get_by_role("menuitem", name="Wording help").click()
    page.get_by_role("button", name="Say it another way").click()
    page.get_by_test_id("proposal").first.locator("ins").first.wait_for()
    page.get_by_role("button", name="Take this one, number 1").click()
    expect(page.get_by_role("textbox", name="Text for Guildhall")).not_to_have_value(IDEA)

    # Tackboard: one picture, what it asks for; Vuelta: a video of its own and no link; Waypost: an event with its button.
    page.locator("[data-finding=media_count]").filter(has_text="Tackboard").get_by_role(
        "button", name="Leave out what is too many"
    ).click()
    page.get_by_label("Title for Tackboard").fill("Lichen, close up")
    page.get_by_label("Board for Tackboard").fill("Small green things")
    vuelta = page.locator("[data-media-cell=vuelta]")
    for name in ("lichen.jpg", "bark.jpg", "gate.png"):
        vuelta.get_by_role("button", name=f"Take {name} out of Vuelta").click()
    vuelta.locator("input[type=file]").set_input_files(files["round.mp4"])
    expect(vuelta.locator("li")).to_have_count(1)
    page.locator("[data-finding=forbidden]").filter(has_text="Vuelta").get_by_role(
        "button", name="Leave the link out here"
    ).click()
    page.locator("[data-finding=too_long]").filter(has_text="Vuelta").get_by_role("button", name="Shorten here").click()
    page.locator("[data-finding=too_long]").filter(has_text="Tackboard").get_by_role("button").or_(
        page.get_by_test_id("kept")
    ).first.wait_for()
    page.get_by_label("Kind for Waypost").select_option("event")
    page.get_by_label("Title for Waypost").fill("Lichen walk")
    page.get_by_label("Start for Waypost").fill("2026-12-06T11:00")
    page.get_by_label("End for Waypost").fill("2026-12-06T11:00")
    expect(page.locator("[data-finding=order]")).to_contain_text("must be later than the start")
    page.get_by_label("End for Waypost").fill("2026-12-06T13:00")
    page.get_by_label("Button for Waypost").select_option("sign up")
    for key in ("brisk", "plaza", "vitrine", "guildhall", "tackboard", "waypost", "open-site", "vuelta"):
        expect(fits(page, key)).to_have_text(re.compile("fits|advice"))
    assert violations(page) == []
    kept(page)
    page.reload()
    expect(page.locator("[data-column-head]")).to_have_count(8)
    expect(page.get_by_label("Board for Tackboard")).to_have_value("Small green things")
    expect(page.locator("[data-testid=proof]")).to_have_count(8)
    expect(page.locator("[data-testid=proof] [data-proof-picture]")).to_have_count(16)
    proved = dict(
        zip(
            page.locator("[data-column-head]").evaluate_all("all => all.map(e => e.dataset.columnHead)"),
            proofs(page),
            strict=True,
        )
    )

    # Planned for the next minute but one; its director signs it off; it goes out by itself.
    soon = page.evaluate("async () => (await (await fetch('/api/brands/garden/strip')).json()).now")
    at = page.evaluate(
        "s => new Date(new Date(s).getTime() + 90e3).toLocaleString('sv', {timeZone: 'Europe/Madrid'})", soon
    )
    page.get_by_label("At a day and time").check()
    page.get_by_label("Day", exact=True).fill(at[:10])
    page.get_by_label("Time, Madrid time").fill(at[11:16])
    page.get_by_role("button", name="Plan 8").click()
    expect(tickets(page, "Lichen walk.*, held").first).to_be_visible()
    maud = someone("maud")
    maud.goto("/garden/calendar")
    tickets(maud, "Lichen walk.*@fernhollow, held|@fernhollow, held: Lichen walk").or_(
        tickets(maud, "Lichen walk.*, held")
    ).first.click()
    maud.get_by_role("button", name="Sign off").click()
    expect(tickets(page, "Lichen walk.*, published")).to_have_count(8, timeout=180_000)

    posts = {
        p["network"]: p for p in stack.control("posts") if "Lichen" in str(p["body"]) or "Two beings" in str(p["body"])
    }
    assert len(posts) == 8
    for network, post in posts.items():
        page.goto(f"{stack.standin_url}/{network}/p/{post['id']}")
        text = page.locator("p.text").inner_text().strip()
        said = proved[network]
        assert re.sub(r"\s+", " ", said["text"]) == re.sub(r"\s+", " ", text), network
        seen = page.locator("article img, article video").count()
        assert seen == {"vitrine": 3, "tackboard": 1, "vuelta": 1, "waypost": 3}.get(network, 3), network
        assert violations(page) == [], network
    page.goto(f"{stack.standin_url}/vitrine/p/{posts['vitrine']['id']}")
    expect(page.locator(".comment")).to_contain_text("#moss #bryophyta")
    page.goto(f"{stack.standin_url}/waypost/p/{posts['waypost']['id']}")
    expect(page.locator("article h2")).to_have_text("Lichen walk")
    expect(page.get_by_role("link", name="sign up")).to_have_attribute("href", "https://fernhollow.example.org/lichen")


def test_a_story_and_an_offer_to_every_counter(page: Page, stack: Stack, files: dict[str, Path]) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    choose(page, "fernhollow.garden", "Fernhollow Garden")
    choose_out = page.get_by_role("button", name=re.compile("^@fernhollow: choose profiles on Brisk"))
    if choose_out.count():
        choose_out.click()
        page.get_by_role("menuitemcheckbox", name="@fernhollow", exact=True).click()
        page.keyboard.press("Escape")
    page.locator("[data-media-cell=master] input[type=file]").set_input_files([files["frost.jpg"], files["round.mp4"]])
    expect(page.locator("[data-media-cell=master] li")).to_have_count(2)
    page.get_by_label("Goes out as, on Vitrine").select_option("story")
    expect(page.locator("[data-layout=story] [data-story-frame]")).to_have_count(2)
    page.locator("[data-finding=shape]").filter(has_text="a story on Vitrine").get_by_role(
        "button", name="Crop to fit"
    ).click()
    expect(page.locator("[data-media-cell=vitrine]")).to_contain_text("cropped")
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
    expect(page.locator("[data-media-cell=plaza] li")).to_have_count(1)
    kept(page)

    page.goto("/bakery/bench/new")
    page.get_by_label("Text of the master").fill("Two for one on rye, this week only")
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    page.get_by_role("menuitemcheckbox", name=re.compile("Four counters")).click()
    page.keyboard.press("Escape")
    page.get_by_label("Kind for Waypost").select_option("offer")
    page.get_by_label("Title for Waypost").fill("Rye for two")
    page.get_by_label("Start for Waypost").fill("2026-12-01T08:00")
    page.get_by_label("End for Waypost").fill("2026-12-07T20:00")
    page.get_by_label("Button for Waypost").select_option("get offer")
    expect(page.locator("[data-finding=button_link]")).to_contain_text("needs a link to lead to")
    page.get_by_label("Link of the offer for Waypost").fill("https://hogaza.example.org/rye")
    # One counter has words of its own, in a column of its own.
    page.locator("[data-column-head=waypost]").get_by_role(
        "button", name=re.compile("choose profiles on Waypost")
    ).click()
    page.get_by_role("menuitem", name=re.compile("Hogaza, Station in a column of its own")).click()
    page.keyboard.press("Escape")
    own = page.get_by_role("textbox", name=re.compile("^Text for Waypost, Hogaza, Station"))
    own.fill("Two for one on rye, at the Station counter only until nine")
    expect(page.locator("[data-column-head]").filter(has_text="Waypost")).to_have_count(2)
    expect(page.get_by_test_id("fits").filter(has_text="stop").filter(has_not_text="Brisk")).to_have_count(0)
    kept(page)
    page.get_by_label("Now", exact=True).check()
    page.get_by_role("button", name=re.compile("^Send")).click()
    expect(tickets(page, "Two for one on rye.*, Hogaza, Station, published")).to_be_visible()
    expect(tickets(page, "Two for one on rye.*, Hogaza, Riverside, published")).to_be_visible()
    sent = {
        p["uid"]: p["body"]
        for p in stack.control("posts")
        if p["body"]["text"].startswith("Two for one on rye") and p["network"] == "waypost"
    }
    assert {body["title"] for body in sent.values()} == {"Rye for two"} and len(sent) == 3
    assert sent["hogaza-station"]["text"].endswith("until nine") and sent["hogaza-riverside"]["text"].endswith(
        "this week only"
    )


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
    kept(page)
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
    page.get_by_role("gridcell", name="mushroom").first.or_(page.get_by_role("button", name="mushroom")).first.click()
    page.get_by_role("radio", name="medium dark").click()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    expect(text).to_have_value(re.compile("🍄"))
    kept(page)

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


def test_the_library_by_hand_and_by_keys(page: Page, files: dict[str, Path], tmp_path: Path) -> None:
    import zipfile

    sign_in(page)
    page.goto("/garden/calendar")
    expect(page.get_by_role("grid")).to_be_visible()
    page.keyboard.press("7")
    expect(page.get_by_role("heading", name="Library")).to_be_visible()
    page.get_by_role("button", name="List", exact=True).click()
    expect(page.get_by_role("columnheader", name="Alt text")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Grid", exact=True).click()
    page.get_by_label("Search media").fill("cushions nobody has")
    expect(page.get_by_text("Nothing fits what is asked for")).to_be_visible()
    page.get_by_role("button", name="Clear").click()
    packed = tmp_path / "walk.zip"
    with zipfile.ZipFile(packed, "w") as archive:
        archive.write(files["frost.jpg"], "Walk/frost.jpg")
        archive.writestr("Walk/frost.txt", "On ___ the path was white.")
        archive.writestr("notes.pdf", "%PDF")
    page.get_by_role("button", name="Bring in").click()
    page.get_by_label("Choose a ZIP").set_input_files(packed)
    expect(page.get_by_role("alert").filter(has_text="Not taken")).to_contain_text("notes.pdf")
    page.get_by_role("button", name="Look in").click()
    page.get_by_role("button", name="Autumn walk/").click()
    page.get_by_label(re.compile("^fronds-1.jpg")).check()
    assert violations(page) == []
    page.get_by_role("button", name="Bring in 1").click()
    expect(page.get_by_text("1 file brought in.")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^Walk")).click()
    expect(page.locator("[data-asset]")).to_have_count(1)
    page.locator("[data-asset]").first.focus()
    page.keyboard.press("Space")
    bar = page.get_by_role("region", name="What is chosen")
    expect(bar).to_contain_text("1 chosen")
    bar.get_by_label("Label").fill("white")
    bar.get_by_role("button", name="Give it").click()
    expect(page.get_by_text("Labelled white.")).to_be_visible()
    # The caption has a blank: no draft is made of it until it is filled in.
    bar.get_by_role("button", name="Make drafts").click()
    page.get_by_role("button", name="Make the draft").click()
    expect(page.get_by_role("alert")).to_contain_text("blanks to fill in still: frost.jpg")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Name, copy, remove").click()
    page.get_by_label(re.compile("^A bundle")).check()
    page.get_by_role("button", name="Keep", exact=True).click()
    page.get_by_role("button", name="Fill in the captions").click()
    caption = page.get_by_role("textbox", name="frost.jpg")
    caption.focus()
    page.keyboard.type("Tuesday")
    expect(caption).to_have_value("On Tuesday the path was white.")
    expect(page.get_by_text("ready")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name=re.compile("^Make drafts of all")).click()
    page.get_by_label(re.compile("@fernhollow$")).first.check()
    page.get_by_role("button", name="Make the draft").click()
    expect(
        page.get_by_text("1 drafts wait in the tray.").or_(page.get_by_text("1 draft waits in the tray."))
    ).to_be_visible()
    expect(page.get_by_text("On Tuesday the path was white.").first).to_be_visible()


def test_axe_finds_nothing_wrong_on_the_bench_and_the_library(someone: Callable[..., Page]) -> None:
    page = someone(color_scheme="light")
    page.goto("/garden/calendar")
    page.get_by_role("button", name=re.compile("Moss week: the wall")).or_(
        page.get_by_role("link", name=re.compile("Moss week: the wall"))
    ).first.click()
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
    for menu, ready in (("Hashtags", "Tag sets"), ("Wording help", "What is wished for")):
        page.get_by_role("button", name="Writing tools: master, text").click()
        page.get_by_role("menuitem", name=menu).click()
        expect(
            page.get_by_role("dialog").get_by_text(ready).or_(page.get_by_role("group", name=ready)).first
        ).to_be_visible()
        assert violations(page, both=True) == [], menu
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
    for shelf in ("", "?shelf=snippets", "?shelf=tag-sets", "?shelf=link-tags", "?shelf=bin", "?list=true"):
        page.goto(f"/garden/library{shelf}")
        expect(page.get_by_role("heading", name="Library")).to_be_visible()
        expect(page.get_by_text("Loading")).to_have_count(0)
        assert violations(page, both=True) == [], shelf


def test_on_a_phone_the_bench_can_be_read_and_written(someone: Callable[..., Page]) -> None:
    page = someone(viewport={"width": 390, "height": 800})
    page.goto("/garden/bench/new")
    page.get_by_label("Text of the master").fill("From the path")
    kept(page)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
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
    held = []
    page.route("**/api/brands/garden/fix", lambda route: held.append(route))
    page.locator("[data-finding=media_count]").get_by_role("button", name="Leave out what is too many").click()
    page.get_by_label("Title for Tackboard").fill("Typed meanwhile")
    expect(page.get_by_label("Title for Tackboard")).to_have_value("Typed meanwhile")
    assert len(held) == 1
    held[0].continue_()
    expect(page.locator("[data-media-cell=tackboard] li")).to_have_count(1)
    expect(page.get_by_label("Title for Tackboard")).to_have_value("Typed meanwhile")
