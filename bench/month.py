"""A month of as many cards as are laid out one by one, until one can use it; beside a general-purpose calendar component with the same."""

import statistics

import psycopg
from playwright.sync_api import Page, sync_playwright
from tools.chromium import FLAGS, PROGRAM
from tools.demo import load
from tools.setup import ROOT
from tools.stack import Stack

from bench.result import Result

# More than 600 are counted instead.
CARDS, ROUNDS = 590, 7
_COMPONENT = ROOT / "web" / "node_modules" / "fullcalendar" / "index.global.min.js"
_FILL = """
INSERT INTO posts_post (brand_id, title, master, state, revision)
    SELECT b.id, '', jsonb_build_object('text', 'Card ' || n, 'media', '[]'::jsonb), 'signed_off', 1
    FROM people_brand b, generate_series(1, %s) n WHERE b.slug = 'bakery';
"""
_DELIVER = """
INSERT INTO posts_delivery (post_id, profile_id, brand_id, state, due_at, wall_time, zone, key, step, tries, lease_holder, held_for, reason,
    reason_code, remote_url, headline, picture_count, revision)
    SELECT p.id, (SELECT min(id) FROM profiles_profile WHERE brand_id = p.brand_id), p.brand_id, 'planned', at, at, 'Europe/Madrid',
        gen_random_uuid(), '', 0, '', '', '', '', '', p.master->>'text', 0, 1
    FROM (SELECT *, timestamptz '2030-01-01 06:00+00' + row_number() OVER (ORDER BY id) * interval '4400 seconds' AS at
          FROM posts_post WHERE master->>'text' LIKE 'Card %%') p;
"""
# From the press until the cards are there and nothing is left to do before the next thing a person does.
_OURS = """async () => {
    const link = [...document.querySelectorAll('nav[aria-label="Views"] a')].find(a => a.textContent.trim() === 'Month');
    const began = performance.now();
    link.click();
    while (!document.querySelector('[aria-label^="Calendar: a row for each week"] [data-ticket]')) await new Promise(requestAnimationFrame);
    await new Promise(done => requestIdleCallback(done));
    return [performance.now() - began, document.querySelectorAll('[data-ticket]').length];
}"""
_THEIRS = """async () => {
    document.getElementById('reference')?.remove();
    const box = document.body.appendChild(document.createElement('div'));
    box.id = 'reference';
    const began = performance.now();
    const found = await (await fetch('/api/brands/bakery/calendar?first=2029-12-31&days=35')).json();
    const events = found.tickets.map(t => ({id: String(t.id), title: t.headline, start: `${found.days[t.day].date}T${t.time}`}));
    const calendar = new FullCalendar.Calendar(box, {
        initialView: 'dayGridMonth', initialDate: '2030-01-15', firstDay: 1, editable: true, dayMaxEvents: 5, events,
    });
    calendar.render();
    while (!box.querySelector('.fc-event')) await new Promise(requestAnimationFrame);
    await new Promise(done => requestIdleCallback(done));
    const took = performance.now() - began;
    const shown = box.querySelectorAll('.fc-event').length;
    calendar.destroy();
    return [took, shown, events.length];
}"""


def measure(stack: Stack) -> Result:
    stack.start_standin()
    load(stack, fresh=True)
    with psycopg.connect(stack.cluster.url(stack.database), autocommit=True) as db:
        db.execute(_FILL, [CARDS])
        db.execute(_DELIVER.replace("%%", "%"))
    stack.start_web()
    ours: list[float] = []
    theirs: list[float] = []
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=PROGRAM, args=FLAGS)
        page = browser.new_page(base_url=stack.url, viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
        page.goto("/")
        page.get_by_label("E-mail address").fill("ines@example.org")
        page.get_by_label("Password").fill("valley-desk-demo")
        page.get_by_role("button", name="Sign in").click()
        page.wait_for_url("**/calendar*")
        shown = (0, 0)
        for _ in range(ROUNDS + 1):
            ours.append(_time_month(page))
            took, their_shown, events = _time_reference(page)
            theirs.append(took)
            shown = (their_shown, events)
        browser.close()
    # The first of each warms both up.
    ratio = statistics.median(a / b for a, b in zip(ours[1:], theirs[1:], strict=True))
    ran = (
        f"{shown[1]} events of a month; both fetch the same answer and show five a day, the rest at a press: ours draws them then, "
        f"the component at once, hidden ({shown[0]} drawn); {ROUNDS} pairs"
    )
    a, b = statistics.median(ours[1:]), statistics.median(theirs[1:])
    return Result("month", a, b, "milliseconds", ratio, "<= 1 x the component", ratio <= 1, ran)


def _time_month(page: Page) -> float:
    """A week far off is open; the month around it is asked for."""
    page.goto("/bakery/calendar?view=week&from=2030-01-09")
    page.locator("[data-ticket]").first.wait_for()
    took, shown = page.evaluate(_OURS)
    assert shown >= 100, f"only {shown} cards"
    return float(took)


def _time_reference(page: Page) -> tuple[float, int, int]:
    page.goto("/health")
    # By evaluate, not by a script element: the page's own policy forbids foreign scripts.
    page.evaluate(_COMPONENT.read_text("utf-8") + "; window.FullCalendar = FullCalendar;")
    took, shown, events = page.evaluate(_THEIRS)
    assert events >= CARDS
    return float(took), int(shown), int(events)
