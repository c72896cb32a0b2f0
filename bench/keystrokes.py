"""Typing in a nine-column Bench: from the key to the paint, in headless Chromium, beside a bare text field."""

import re
import statistics

from playwright.sync_api import Page, expect, sync_playwright
from tools.chromium import FLAGS, PROGRAM
from tools.demo import load
from tools.stack import Stack

from bench.result import Result

KEYS = 120
_WORDS = "Forty kinds of moss live on the north wall of the old glasshouse, and we count them this week. "
# Each key's time until the frame that shows it has been handed over: two animation frames after the input, the second
# of which begins after the first was painted.
_WATCH = """field => {
    window.took = [];
    let began = 0;
    field.addEventListener('keydown', () => { began = performance.now() }, true);
    field.addEventListener('input', () => {
        const from = began;
        requestAnimationFrame(() => { const c = new MessageChannel(); c.port1.onmessage = () => window.took.push(performance.now() - from); c.port2.postMessage(0) });
    });
}"""


def measure(stack: Stack) -> Result:
    stack.start_standin()
    load(stack, fresh=True)
    stack.start_web()
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=PROGRAM, args=FLAGS)
        page = browser.new_page(base_url=stack.url, viewport={"width": 1280, "height": 800})
        page.goto("/")
        page.get_by_label("E-mail address").fill("ines@example.org")
        page.get_by_label("Password").fill("valley-desk-demo")
        page.get_by_role("button", name="Sign in").click()
        page.wait_for_url("**/calendar*")
        page.goto("/garden/calendar")
        page.get_by_role("link", name="Moss week: the wall").click()
        page.get_by_role("button", name=re.compile("^Profiles")).click()
        for name in ("CiFernhollow films", "Vufernhollow"):
            row = page.get_by_role("menuitemcheckbox").filter(has_text=re.compile(rf"^✓?{name} "))
            if row.get_attribute("aria-checked") != "true":
                row.click()
        page.keyboard.press("Escape")
        columns = page.locator("[data-column-head]")
        expect(columns).to_have_count(9)
        expect(page.get_by_test_id("proof")).to_have_count(9)
        ours = _time_typing(page, "Text of the master")
        page.evaluate("document.body.innerHTML = '<textarea aria-label=bare></textarea>'")
        bare = _time_typing(page, "bare")
        browser.close()
    p95, reference = (statistics.quantiles(all_, n=20)[-1] for all_ in (ours, bare))
    ran = f"{KEYS} keys in the master of a Bench with nine columns, their findings and proofs coming in; p95; the reference is a bare text field"
    return Result("keystrokes", p95, reference, "milliseconds", p95 / reference, "p95 <= 100", p95 <= 100, ran)


def _time_typing(page: Page, label: str) -> list[float]:
    field = page.get_by_label(label, exact=True)
    field.click()
    field.press("Control+End")
    field.evaluate(_WATCH)
    for n in range(KEYS):
        page.keyboard.press("Space" if _WORDS[n % len(_WORDS)] == " " else _WORDS[n % len(_WORDS)])
        page.wait_for_function("n => window.took.length > n", arg=n)
    found: list[float] = page.evaluate("window.took")
    return found
