"""The media library by hand and by keys; pictures brought in become drafts."""

import re
import zipfile
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.conftest import sign_in, violations


def test_the_library_by_hand_and_by_keys(page: Page) -> None:
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


def test_a_walk_is_brought_in_labelled_captioned_and_made_a_draft(
    page: Page, files: dict[str, Path], tmp_path: Path
) -> None:
    sign_in(page)
    page.goto("/garden/library")
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
    page.get_by_label("@fernhollow Brisk").check()
    page.get_by_role("button", name="Make the draft").click()
    expect(page.get_by_text("1 draft waits in the tray.")).to_be_visible()
    expect(page.get_by_text("On Tuesday the path was white.").first).to_be_visible()
