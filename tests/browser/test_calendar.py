"""The calendar in a browser: four views, moving by mouse and keyboard, many at once, laying out, plans."""

import csv
import io
import re
from collections.abc import Callable
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.board import cell, drag, hover
from tests.browser.conftest import sign_in, violations
from tests.browser.desk import plan, write


def card(page: Page, words: str) -> Locator:
    return page.locator("[data-ticket]").filter(has_text=words).first


def test_every_view_and_panel_can_be_used_by_everyone(page: Page) -> None:
    sign_in(page)
    for view in ("", "?view=month", "?view=week", "?view=list"):
        page.goto(f"/garden/calendar{view}")
        expect(page.locator("[data-ticket]").first).to_be_visible()
        assert (view, violations(page, both=True)) == (view, [])
    for panel in ("advice", "labels", "campaigns", "almanac", "addresses", "plan"):
        page.goto(f"/garden/calendar?panel={panel}")
        expect(page.get_by_role("dialog")).to_be_visible()
        assert (panel, violations(page, within="[role=dialog]")) == (panel, [])


def test_one_filter_for_all_views_in_the_address_kept_by_name_and_cleared(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/calendar")
    page.get_by_role("button", name="Label", exact=True).click()
    page.get_by_role("menuitemcheckbox", name="Talks").click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Label: Talks")).to_be_visible()
    expect(page).to_have_url(re.compile(r"labels=\d+"))
    shown = page.locator("[data-ticket]")
    expect(shown.first).to_be_visible()
    narrowed = shown.count()
    page.get_by_role("link", name="List").click()
    expect(page.get_by_role("button", name="Label: Talks")).to_be_visible()
    page.get_by_role("button", name="Kept views").click()
    page.get_by_role("menuitem", name="Keep this view").click()
    page.get_by_label("Name", exact=True).fill("Talks to come")
    page.get_by_role("button", name="Keep", exact=True).click()
    page.get_by_role("button", name="Clear the filter").click()
    expect(page).not_to_have_url(re.compile("labels="))
    page.get_by_role("button", name="Kept views").click()
    page.get_by_role("menuitem", name="Talks to come").click()
    expect(page.get_by_role("button", name="Label: Talks")).to_be_visible()
    assert narrowed > 0
    page.get_by_label("Words in posts").fill("nothing says this")
    expect(shown).to_have_count(0)


def test_a_card_is_dragged_with_or_without_its_sisters_and_back(page: Page) -> None:
    sign_in(page)
    # From yesterday on, so that a day that has passed is in sight.
    page.goto(f"/garden/calendar?words=Talk%20tonight&from={datetime.now(UTC).date() - timedelta(days=1)}")
    sisters = page.locator("[data-ticket]").filter(has_text="09:15")
    expect(sisters).to_have_count(2)
    drag(page, sisters.first, cell(page, 0, 0))
    expect(page.get_by_test_id("drop-words")).to_have_text("has passed")
    hover(page, cell(page, 0, 4))
    expect(page.get_by_test_id("drop-words")).to_have_count(0)
    page.mouse.up()
    expect(page.get_by_role("alertdialog")).to_contain_text("One more delivery of the same post is planned too")
    assert violations(page) == []
    page.get_by_role("button", name="The whole post").click()
    expect(page.get_by_text(re.compile("Moved @fernhollow to .* 2 deliveries"))).to_be_visible()
    expect(cell(page, 0, 4).locator("[data-ticket]")).to_have_count(1)
    expect(cell(page, 1, 4).locator("[data-ticket]")).to_have_count(1)
    page.keyboard.press("z")
    expect(page.get_by_text(re.compile("^Undone"))).to_be_visible()
    expect(cell(page, 0, 2).locator("[data-ticket]")).to_have_count(1)
    expect(cell(page, 1, 2).locator("[data-ticket]")).to_have_count(1)
    # With alt it goes to the free slot of that day that is nearest.
    drag(page, sisters.first, cell(page, 0, 5))
    page.keyboard.down("Alt")
    hover(page, cell(page, 0, 5))
    page.mouse.up()
    page.keyboard.up("Alt")
    page.get_by_role("button", name="Only this").click()
    expect(page.get_by_text(re.compile("Moved @fernhollow to .*, its free slot"))).to_be_visible()
    expect(cell(page, 0, 5).locator("[data-ticket]").filter(has_text=re.compile("^09:00|^11:00"))).to_have_count(1)
    page.keyboard.press("z")
    expect(cell(page, 0, 2).locator("[data-ticket]")).to_have_count(1)


def test_in_the_month_a_card_is_peeked_at_carried_a_week_on_and_put_back(page: Page) -> None:
    sign_in(page)
    tenth = (datetime.now(UTC).replace(day=1) + timedelta(days=40)).replace(day=10).date()
    write(page, "bakery", "Carried by keys", "@hogaza")
    page.get_by_label("At a day and time").check()
    page.get_by_label("Day", exact=True).fill(tenth.isoformat())
    plan(page)
    page.goto(f"/bakery/calendar?view=month&from={tenth}")
    ticket = card(page, "Carried by keys")
    within = ticket.locator("xpath=ancestor::*[@data-row]")
    row, column = (int(within.get_attribute(f"data-{part}") or 0) for part in ("row", "column"))
    ticket.focus()
    page.keyboard.press("i")
    expect(page.get_by_test_id("peek")).to_contain_text("opens")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("peek")).to_have_count(0)
    for key in ("Space", "ArrowDown", "Enter"):
        page.keyboard.press(key)
    expect(page.get_by_text(re.compile("^Moved"))).to_be_visible()
    expect(cell(page, row + 1, column).get_by_text("Carried by keys")).to_be_visible()
    page.keyboard.press("z")
    expect(cell(page, row, column).get_by_text("Carried by keys")).to_be_visible()


def test_many_are_chosen_moved_and_undone(page: Page) -> None:
    sign_in(page)
    page.goto("/bakery/calendar?view=list")
    day = page.get_by_role("button", name=re.compile(r"^Choose all \d")).last
    day.click()
    bar = page.get_by_role("region", name="Chosen cards")
    expect(bar).to_contain_text("chosen")
    page.get_by_label("Days to move by").fill("2")
    page.get_by_role("button", name="Move by days").click()
    expect(page.get_by_text(re.compile("^Moved by 2 days"))).to_be_visible()
    page.get_by_role("button", name="Undo").last.click()
    expect(page.get_by_text(re.compile("^Undone"))).to_be_visible()


def test_two_browsers_one_card_the_second_is_told(page: Page, someone: Callable[..., Page]) -> None:
    sign_in(page)
    page.goto("/garden/calendar?words=Wreath")
    other = someone()
    other.route("**/live/**", lambda route: route.abort())
    other.goto("/garden/calendar?words=Wreath")
    mine, theirs = card(page, "10:30"), card(other, "10:30")
    expect(mine).to_be_visible()
    expect(theirs).to_be_visible()
    for one in (mine, theirs):
        one.focus()
    mine.page.keyboard.press("Space")
    mine.page.keyboard.press("ArrowDown")
    mine.page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile("^Moved"))).to_be_visible()
    other.keyboard.press("Space")
    other.keyboard.press("ArrowUp")
    other.keyboard.press("Enter")
    expect(other.get_by_text(re.compile("Someone changed it meanwhile"))).to_be_visible()
    expect(card(other, "10:45")).to_be_visible()


def test_drafts_are_laid_out_seen_on_the_lanes_fixed_and_undone(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/calendar")
    page.get_by_label("Choose Bark and lichen for laying out").check()
    page.get_by_label("Choose Seed heads worth keeping for laying out").check()
    panel = page.get_by_role("region", name="Lay out")
    expect(panel).to_contain_text("Lay out 2 drafts")
    expect(panel.get_by_label(re.compile("^Time of"))).to_have_count(2)
    expect(page.locator("[data-ghost]").first).to_be_visible()
    panel.get_by_label("As a run").check()
    panel.get_by_label("At", exact=True).fill("15:00")
    expect(panel.get_by_text(re.compile("15:00")).first).to_be_visible()
    assert violations(page) == []
    panel.get_by_role("button", name=re.compile("^Leave out Bark")).click()
    panel.get_by_role("button", name="Fix 1 date").click()
    expect(page.get_by_text("Planned 1 delivery.")).to_be_visible()
    expect(panel).to_have_count(0)
    page.keyboard.press("z")
    expect(page.get_by_text(re.compile("^Undone"))).to_be_visible()
    expect(page.get_by_label("Choose Seed heads worth keeping for laying out")).to_be_visible()


def test_a_plan_comes_in_with_its_faults_at_row_and_column(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/calendar?panel=plan")
    day = datetime.now(UTC).date() + timedelta(days=20)
    text = f"date;time;profiles;text\n{day};15:00;@fernhollow;From the sheet\n{day};25:00;@nobody;Broken\n"
    page.locator("input[type=file]").set_input_files(
        {"name": "plan.csv", "mimeType": "text/csv", "buffer": text.encode()}
    )
    expect(page.get_by_text("There is no profile or set “@nobody”")).to_be_visible()
    expect(page.get_by_text("“25:00” is no time")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Bring in 1 row").click()
    expect(page.get_by_text("1 post brought in, 1 deliveries planned.")).to_be_visible()
    page.goto(f"/garden/calendar?from={day}&words=From%20the%20sheet")
    expect(card(page, "15:00")).to_be_visible()


@pytest.mark.parametrize("brand", ["garden", "bakery"])
def test_what_went_out_as_csv_comes_in_again(page: Page, brand: str) -> None:
    """The demo's world: what is to come goes out, comes in, and goes out the same."""
    sign_in(page)
    page.goto(f"/{brand}/calendar?panel=plan")
    first = datetime.now(UTC).date() + timedelta(days=1)
    address = f"/api/brands/{brand}/plan.csv?days=31&first={first}"
    out = page.request.get(address).body()
    page.locator("input[type=file]").set_input_files({"name": "plan.csv", "mimeType": "text/csv", "buffer": out})
    count = len(list(csv.DictReader(io.StringIO(out.decode("utf-8-sig"), newline=""))))
    assert count > 8
    page.get_by_role("button", name=f"Bring in {count} rows").click()
    expect(page.get_by_text(f"{count} posts brought in, {count} deliveries planned.")).to_be_visible()
    again = page.request.get(address).body()

    def rows(raw: bytes) -> list[tuple[str, ...]]:
        found = csv.DictReader(io.StringIO(raw.decode("utf-8-sig"), newline=""))
        return sorted(tuple(v for k, v in row.items() if k != "state") for row in found)

    assert rows(again) == sorted(rows(out) * 2)
    # The other stories find the world as it was.
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text(re.compile("^Undone: brought in"))).to_be_visible()
    assert rows(page.request.get(address).body()) == rows(out)


def test_times_are_spread_shown_and_planned_as_shown(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/bench/new")
    page.get_by_label("Text of the master").fill("Two gates, one after another")
    page.get_by_role("button", name=re.compile("^Profiles")).click()
    for name in ("@fernhollow.nursery", "Fernhollow Trust"):
        page.get_by_role("menuitemcheckbox").filter(has_text=name).click()
    page.keyboard.press("Escape")
    expect(page).to_have_url(re.compile(r"/bench/\d+"))
    address = page.url
    page.get_by_label("At a day and time").check()
    page.get_by_label("Day", exact=True).fill(f"{datetime.now(UTC).date() + timedelta(days=16)}")
    page.get_by_text("Spread", exact=True).click()
    page.get_by_label("Least minutes between profiles").fill("20")
    page.get_by_label("Most minutes between profiles").fill("50")
    page.get_by_label("Minutes each time may vary by").fill("10")
    shown = page.get_by_test_id("would-go")
    expect(shown).to_have_count(3)
    expect(shown.filter(has_text="after the first")).to_have_count(2)
    times = sorted(re.search(r"\d\d:\d\d", words)[0] for words in shown.all_inner_texts())  # type: ignore[index]
    assert len(set(times)) == 3
    page.keyboard.press("Control+Enter")
    expect(page).to_have_url(re.compile("/calendar"))
    page.goto(address)
    planned = page.locator("[data-delivery-state=held], [data-delivery-state=planned]")
    expect(planned).to_have_count(3)
    assert sorted(re.search(r"\d\d:\d\d", words)[0] for words in planned.all_inner_texts()) == times  # type: ignore[index]


def test_a_grid_proof_swaps_times_by_keyboard(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/calendar")
    page.get_by_role("button", name="More ▾").click()
    page.get_by_role("menuitem", name=re.compile("Grid proof of fernhollow.garden")).click()
    expect(page.get_by_role("heading", name=re.compile("Grid proof"))).to_be_visible()
    tiles = page.locator("[data-tile]")
    expect(tiles.nth(3)).to_be_visible()
    assert violations(page) == []
    first, second = (tiles.nth(n).get_attribute("data-tile") for n in (0, 1))
    tiles.nth(0).focus()
    page.keyboard.press("Space")
    tiles.nth(1).focus()
    page.keyboard.press("Space")
    expect(page.get_by_text(re.compile("^Swapped"))).to_be_visible()
    expect(tiles.nth(0)).to_have_attribute("data-tile", second or "")
    expect(tiles.nth(1)).to_have_attribute("data-tile", first or "")
