"""The calendar of a brand with fifty profiles and thousands of deliveries."""

import re
from datetime import UTC, datetime, timedelta

import psycopg
import pytest
from playwright.sync_api import Page, expect
from tools.stack import Stack

from tests.browser.board import cell, drag
from tests.browser.conftest import sign_in, violations

_WIDE = """
INSERT INTO people_brand (slug, name, zone, ink, needs_signoff) VALUES ('wide', 'Wide Valley', 'Europe/Madrid', 'epazote', false);
INSERT INTO people_membership (brand_id, user_id, role, capabilities)
    SELECT b.id, u.id, 'coordinator', m.capabilities FROM people_brand b, people_user u, people_membership m
    WHERE b.slug = 'wide' AND u.email = 'ines@example.org' AND m.user_id = u.id AND m.brand_id = (SELECT id FROM people_brand WHERE slug = 'garden');
INSERT INTO profiles_profile (display_name, url, site, facts, brand_id, network, remote_id, handle, name, kind, zone, state, waking_from, waking_until)
    SELECT '', '', '', '{}', b.id, 'brisk', 'wide' || n, '@wide' || lpad(n::text, 2, '0'), 'Wide ' || n, 'account', '', 'connected', '07:00', '23:00'
    FROM people_brand b, generate_series(1, 50) n WHERE b.slug = 'wide';
INSERT INTO posts_post (brand_id, title, master, state, revision)
    SELECT b.id, '', jsonb_build_object('text', 'Post ' || n, 'media', '[]'::jsonb), 'signed_off', 1
    FROM people_brand b, generate_series(1, 3000) n WHERE b.slug = 'wide';
INSERT INTO posts_delivery (post_id, profile_id, brand_id, state, due_at, wall_time, zone, key, step, tries, lease_holder, held_for, reason,
    reason_code, remote_url, headline, picture_count, revision)
    SELECT p.id, (SELECT min(id) FROM profiles_profile WHERE brand_id = p.brand_id) + mod(p.n, 50), p.brand_id, 'planned', at, at + interval '1 hour',
        'Europe/Madrid', gen_random_uuid(), '', 0, '', '', '', '', '', 'Post ' || p.n, 0, 1
    FROM (SELECT *, row_number() OVER (ORDER BY id) AS n, %s::timestamptz + row_number() OVER (ORDER BY id) * interval '397 seconds' AS at
          FROM posts_post WHERE brand_id = (SELECT id FROM people_brand WHERE slug = 'wide')) p;
"""


@pytest.fixture(scope="session")
def wide(stack: Stack) -> str:
    """A brand with fifty profiles and 3,000 deliveries in the coming fortnight."""
    start = datetime.now(UTC).replace(hour=8, minute=12, second=0, microsecond=0) + timedelta(hours=4)
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        for statement in _WIDE.split(";\n"):
            if statement.strip():
                db.execute(statement, [start] if "%s" in statement else None)  # type: ignore[arg-type]
    return "wide"


def test_a_list_of_thousands_draws_what_is_in_sight_and_keeps_what_was_chosen(page: Page, wide: str) -> None:
    sign_in(page)
    page.goto(f"/{wide}/calendar?view=list")
    lines = page.locator("[data-ticket]")
    expect(lines.first).to_be_visible()
    first = page.get_by_role("checkbox", name=re.compile("^Choose @wide")).first
    first.check()
    page.evaluate("scrollTo(0, document.documentElement.scrollHeight)")
    expect(page.get_by_text("Post 3000", exact=True)).to_be_visible()
    # Neither at its head nor at its foot is all of it there; what has the focus stays.
    expect(page.get_by_text("Post 1500", exact=True)).to_have_count(0)
    assert lines.count() < 300
    expect(first).to_be_focused()
    page.evaluate("scrollTo(0, 0)")
    expect(page.get_by_text("Post 1", exact=True)).to_be_visible()
    expect(first).to_be_checked()


def test_advice_the_plan_to_print_and_the_day_strip_of_many(page: Page, wide: str) -> None:
    sign_in(page)
    page.goto(f"/{wide}/calendar?panel=advice")
    expect(page.get_by_text("12 of 50 looked at")).to_be_visible()
    page.get_by_role("button", name="Look at the next profiles").click()
    expect(page.get_by_text("24 of 50 looked at")).to_be_visible()
    # More than two hundred in a day: by their count, and each to be chosen from.
    gathered = page.get_by_label("The next 24 hours").get_by_role(
        "button", name=re.compile("^[0-9]+ at about one time")
    )
    page.keyboard.press("Escape")
    gathered.nth(1).click()
    expect(page.get_by_role("menuitem").first).to_be_visible()
    # Both at one moment: the strip is read anew each minute.
    page.wait_for_function(
        "() => document.querySelectorAll('[role=menuitem]').length === Number(document.querySelector('[aria-expanded=true]').textContent)"
    )
    page.get_by_role("menuitem").first.click()
    expect(page.get_by_test_id("delivery-state")).to_have_text("planned")
    assert violations(page, both=True) == []
    # What is said in full comes page after page, and the whole is printed or nothing.
    page.goto(f"/{wide}/plan?days=3")
    expect(page.get_by_role("button", name="Print, or save as PDF")).to_be_enabled()
    assert page.locator(".plan-row").count() > 300


def test_fifty_profiles_and_three_thousand_deliveries(page: Page, wide: str) -> None:
    sign_in(page)
    page.goto(f"/{wide}/calendar")
    expect(page.locator("[data-ticket]").first).to_be_visible()
    expect(page.get_by_text("50 profiles")).to_be_visible()
    # Only the lanes in sight are drawn, and only their cards are read; the last ones come when they are scrolled to.
    assert page.locator('[role="rowheader"]').count() < 50
    page.mouse.move(640, 500)
    page.mouse.wheel(0, 60_000)
    last = page.get_by_role("row").filter(has_text="@wide50")
    expect(last.locator("[data-ticket]").first).to_be_visible()
    page.goto(f"/{wide}/calendar")
    moved = cell(page, 1, 2).locator("[data-moves]").first
    words = (moved.get_attribute("aria-label") or "")[:14]
    drag(page, moved, cell(page, 1, 4))
    page.mouse.up()
    expect(page.get_by_text(re.compile("^Moved @wide02"))).to_be_visible()
    expect(cell(page, 1, 4).locator("[data-ticket]").filter(has_text=words[:5]).first).to_be_visible()
    page.keyboard.press("z")
    expect(page.get_by_text(re.compile("^Undone"))).to_be_visible()
    page.goto(f"/{wide}/calendar?words=Post%20777")
    expect(page.locator("[data-ticket]")).to_have_count(1)
    one = page.locator("[data-ticket]").first
    label = one.get_attribute("aria-label") or ""
    one.focus()
    page.keyboard.press("Space")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile("^Moved"))).to_be_visible()
    page.keyboard.press("z")
    expect(page.get_by_text(re.compile("^Undone"))).to_be_visible()
    expect(page.locator("[data-ticket]").first).to_have_attribute("aria-label", label)


def test_a_month_and_a_week_of_many_lie_in_heaps_that_open(page: Page, wide: str) -> None:
    sign_in(page)
    page.goto(f"/{wide}/calendar?view=week")
    # A week on, every day of it has hundreds.
    page.get_by_role("button", name="A week later").click()
    heaps = page.get_by_role("button", name=re.compile("^[0-9]+ on Brisk, "))
    expect(heaps.first).to_be_visible()
    expect(page.locator("[data-ticket]")).to_have_count(0)
    heaps.first.click()
    expect(heaps.first).to_have_attribute("aria-expanded", "true")
    expect(page.locator("[data-ticket]").first).to_be_visible()
    assert violations(page, both=True) == []
    page.keyboard.press("Escape")
    expect(page.locator("[data-ticket]")).to_have_count(0)
    expect(heaps.first).to_be_focused()
    monday = datetime.now(UTC).date() + timedelta(days=7 - datetime.now(UTC).weekday())
    page.goto(f"/{wide}/calendar?view=month&from={monday}")
    day = f"{monday.day} {monday:%b}"
    here = page.get_by_role("button", name=re.compile(f"^[0-9]+ on Brisk, Mon {day}$"))
    before = int(here.locator("b").inner_text())
    here.click()
    expect(page.locator("[data-ticket]")).to_have_count(12)
    expect(page.get_by_role("link", name=re.compile(f"^All {before} in the list"))).to_be_visible()
    # Moved by the keyboard, the card is counted where it went, and the focus goes there with it.
    page.locator("[data-moves]").first.focus()
    page.keyboard.press("Space")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile("^Moved @wide"))).to_be_visible()
    expect(here.locator("b")).to_have_text(str(before - 1))
    expect(
        page.get_by_role("button", name=re.compile("^[0-9]+ on Brisk, Tue "), expanded=False).and_(
            page.locator(":focus")
        )
    ).to_have_count(1)
    page.keyboard.press("z")
    expect(page.get_by_text(re.compile("^Undone"))).to_be_visible()
    expect(here.locator("b")).to_have_text(str(before))
    page.get_by_role("link", name=re.compile("in the list")).click()
    expect(page.get_by_role("button", name=f"Choose all {before}")).to_be_visible()


def test_across_brands_many_are_told_by_counts_that_lead_to_them(page: Page, wide: str) -> None:
    sign_in(page)
    page.goto("/all")
    section = page.get_by_role("region", name="Wide Valley")
    count = section.get_by_role("link", name=re.compile("^[0-9]+ on Brisk, ")).nth(3)
    words = count.get_attribute("aria-label") or ""
    many = words.split()[0]
    # The others show their cards.
    expect(page.get_by_role("region", name="Fernhollow Botanic Garden").locator("[data-state]").first).to_be_visible()
    assert violations(page, both=True) == []
    count.click()
    expect(page).to_have_url(re.compile("view=list.*networks=brisk|networks=brisk.*view=list"))
    day = words.split(", ")[1]
    expect(page.get_by_role("heading", name=re.compile(f"^{day}"))).to_be_visible()
    expect(page.get_by_role("button", name=f"Choose all {many}", exact=True)).to_be_visible()


def test_cards_that_do_not_come_say_so_in_their_lanes_and_come_when_asked_again(page: Page, wide: str) -> None:
    sign_in(page)
    page.route("**/calendar/cards*", lambda route: route.abort())
    page.goto(f"/{wide}/calendar")
    row = page.get_by_role("row").filter(has_text="@wide01")
    again = row.get_by_role("button", name="Not read: try again")
    expect(again).to_be_visible(timeout=30_000)
    expect(row.locator("[data-awaited]").first).to_be_visible()
    assert violations(page, both=True) == []
    page.unroute("**/calendar/cards*")
    again.click()
    expect(row.locator("[data-ticket]").first).to_be_visible()
    expect(again).to_have_count(0)


def test_of_fifty_profiles_one_finds_those_one_means(page: Page, wide: str) -> None:
    sign_in(page)
    page.goto(f"/{wide}/calendar")
    page.get_by_role("button", name="Profile", exact=True).click()
    finder = page.get_by_role("combobox", name="Find: Profile")
    expect(page.get_by_role("option")).to_have_count(50)
    finder.fill("WIDE4")
    expect(page.get_by_role("option")).to_have_count(10)
    assert violations(page, both=True) == []
    finder.press("Enter")
    expect(page.get_by_text("1 profile", exact=True)).to_be_visible()
    # It stays open, and what is chosen is left at another press.
    finder.press("ArrowDown")
    finder.press("Enter")
    expect(page.get_by_text("2 profiles", exact=True)).to_be_visible()
    expect(page.get_by_role("option", selected=True)).to_have_count(2)
    finder.fill("nobody")
    expect(page.get_by_text("Nothing by that name.")).to_be_visible()
    finder.press("Escape")
    expect(finder).to_have_count(0)
    expect(page.get_by_role("button", name="Profile: @wide40, @wide41")).to_be_visible()
    # On the Bench, and a set of all that fit.
    page.goto(f"/{wide}/bench/new")
    chooser = page.get_by_role("button", name=re.compile("^Profiles"))
    before = int(chooser.locator("b").inner_text())
    chooser.click()
    page.get_by_role("combobox", name="Find: Profiles").fill("wide33")
    page.get_by_role("option", name="@wide33").click()
    page.keyboard.press("Escape")
    expect(chooser.locator("b")).to_have_text(str(before + 1))
    page.goto(f"/{wide}/profiles")
    page.get_by_role("button", name="Sets", exact=True).click()
    page.get_by_role("button", name="New set").click()
    page.get_by_label("Name of the set").fill("The twenties")
    page.get_by_role("searchbox", name="Find: Profiles").fill("wide2")
    page.get_by_role("button", name="Choose all 10 that fit").click()
    page.get_by_role("checkbox", name="@wide25").uncheck()
    page.get_by_role("searchbox", name="Find: Profiles").fill("wide01")
    page.get_by_role("checkbox", name="@wide01").check()
    expect(page.get_by_text("10 of 50 chosen")).to_be_visible()
    assert violations(page, both=True) == []
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_text("and 2 more")).to_be_visible()
    page.keyboard.press("Escape")
    page.goto(f"/{wide}/calendar")
    page.get_by_role("button", name="Set", exact=True).click()
    page.get_by_role("menuitemcheckbox", name="The twenties").click()
    expect(page.get_by_text("10 profiles", exact=True)).to_be_visible()
