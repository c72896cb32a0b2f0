"""Sign-off in a browser: author, approver, client on a phone, published; many at once; and what one is told."""

import re
from collections.abc import Callable, Iterator

import psycopg
import pytest
from playwright.sync_api import Browser, Page, expect
from tools.stack import Stack

from tests.browser.conftest import sign_in, violations
from tests.browser.desk import (
    expect_kept,
    expect_no_sideways_scroll,
    move_time,
    plan,
    send_now,
    tickets,
    write,
)

PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True}


@pytest.fixture
def trust(page: Page) -> Iterator[str]:
    """The garden's rule is the director, then the trust by link; the link's address."""
    ines = sign_in(page)
    ines.goto("/garden/sign-rules")
    ines.get_by_label("For whom").fill("The trust")
    ines.get_by_role("button", name="Make the link").click()
    address = ines.get_by_label("The link", exact=True).input_value()
    rule = ines.get_by_role("group", name="Rule 1")
    rule.get_by_label("Named").select_option(label="The trust (by link)")
    rule.get_by_label("How many of them").select_option("in_order")
    ines.get_by_role("button", name="See what it does").click()
    does = re.compile("planned deliver.* sign-off then|Nothing that is planned changes")
    expect(ines.get_by_text(does)).to_be_visible()
    keep_rules(ines)
    yield address
    ines.goto("/garden/sign-rules")
    ines.get_by_role("button", name=re.compile(r"The trust \(by link\), take out")).click()
    keep_rules(ines)


def keep_rules(page: Page) -> None:
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("The rules are kept.")).to_be_visible()


def expect_sign_words(page: Page, words: str) -> None:
    expect(page.get_by_test_id("sign-words")).to_have_text(words)


def test_an_author_writes_the_director_sends_back_a_client_agrees_on_a_phone_and_it_is_published(
    trust: str, page: Page, someone: Callable[..., Page], stack: Stack
) -> None:
    teo, maud = someone("teo"), someone("maud")
    write(teo, "garden", "Forty mosses on one wall", "@fernhollow")
    expect_sign_words(teo, "A draft: nobody is asked yet.")
    teo.get_by_role("button", name="Put up for sign-off").click()
    expect_sign_words(teo, "Waits on Maud Ellery.")
    bench = teo.url
    post = bench.rsplit("/", 1)[1]
    send_back_from_notices(maud)
    expect(teo.get_by_test_id("sign-words")).to_contain_text("Sent back.")
    mend_and_answer(teo)
    expect_sign_words(teo, "Waits on Maud Ellery.")
    maud.goto(f"/garden/sign?post={post}")
    expect(maud.get_by_test_id("proof-text")).to_contain_text("Thirty-eight")
    maud.get_by_role("button", name=re.compile("^Sign off")).click()
    expect(maud.get_by_text("Signed off.", exact=True)).to_be_visible()
    expect_sign_words(teo, "Waits on The trust (by link).")
    agree_on_a_phone(page.context.browser, f"{trust}?post={post}")
    expect_sign_words(teo, "Signed off.")
    teo.get_by_role("button", name="Sign-off").first.click()
    expect(
        teo.get_by_role("region", name="Sign-off").get_by_text(re.compile(r"^The trust \(says: Amaro Leal\) agreed"))
    ).to_be_visible()

    # What was agreed to goes out; nobody is asked again.
    page.goto(bench)
    send_now(page)
    expect(tickets(page, "Thirty-eight mosses.*, published")).to_be_visible()
    sent = [p["body"]["text"] for p in stack.control("posts") if "mosses on one wall" in p["body"]["text"]]
    assert sent == ["Thirty-eight mosses on one wall"]


def send_back_from_notices(maud: Page) -> None:
    """Told in her notices, and led to the spot."""
    maud.goto("/garden/calendar")
    maud.get_by_role("button", name=re.compile("^Notices")).click()
    maud.get_by_role("button", name=re.compile("“Forty mosses on one wall” waits for you")).first.click()
    expect(maud.get_by_role("heading", name="Forty mosses on one wall")).to_be_visible()
    maud.keyboard.press("c")
    maud.get_by_label("What should be changed?").press("Control+Enter")
    expect(maud.get_by_text("Write a few words first.")).to_be_visible()
    maud.get_by_label("What should be changed?").fill("Is it forty? The label says 38.")
    maud.get_by_label("On which version").select_option(label="Brisk")
    maud.get_by_label("On which part").select_option(label="the text")
    assert violations(maud) == []
    maud.get_by_role("button", name="Send it back").click()
    expect(maud.get_by_text("Sent back, with what you said.")).to_be_visible()


def mend_and_answer(teo: Page) -> None:
    """The author sees it where it waits on him, mends it and answers."""
    teo.goto("/waiting")
    teo.get_by_test_id("waiting-item").filter(has_text="Forty mosses").filter(has_text="sent back").click()
    talk = teo.get_by_role("dialog", name="Talk")
    expect(talk.get_by_test_id("remark")).to_contain_text("The label says 38.")
    expect(talk.get_by_test_id("remark")).to_contain_text("on Brisk, text")
    talk.get_by_label("Your remark").fill("You are right. @mau")
    talk.get_by_role("option", name="@Maud Ellery").click()
    talk.get_by_role("button", name="Say it").click()
    expect(talk.get_by_text("You are right. @Maud Ellery")).to_be_visible()
    talk.get_by_role("button", name="Settle").first.click()
    expect(talk.get_by_text("settled by Teo Brandt")).to_be_visible()
    teo.keyboard.press("Escape")
    teo.get_by_label("Text of the master").fill("Thirty-eight mosses on one wall")
    teo.get_by_role("button", name="Put up again").click()


def agree_on_a_phone(browser: Browser | None, address: str) -> None:
    """A client, without an account."""
    assert browser
    context = browser.new_context(**PHONE)
    phone = context.new_page()
    phone.goto(address)
    expect(phone.get_by_role("heading", name="Thirty-eight mosses on one wall")).to_be_visible()
    assert violations(phone) == []
    expect_no_sideways_scroll(phone)
    phone.get_by_text("You sign as The trust").click()
    phone.get_by_label("Your name").fill("Amaro Leal")
    phone.get_by_role("button", name="Sign off").click()
    expect(phone.get_by_text("Signed off.", exact=True)).to_be_visible()
    context.close()


def test_a_week_is_signed_off_at_once_and_nothing_that_was_left_out(page: Page, someone: Callable[..., Page]) -> None:
    teo = someone("teo")
    for n in range(3):
        write(teo, "garden", f"Week of moss, part {n}")
        teo.get_by_role("button", name="Put up for sign-off").click()
        expect(teo.get_by_test_id("sign-words")).to_have_text("Waits on Maud Ellery.")
    maud = sign_in(page, "maud")
    maud.goto("/garden/sign")
    maud.get_by_role("button", name=re.compile("at a glance$")).click()
    for box in maud.get_by_role("checkbox", name=re.compile("^Sign off")).all():
        named = box.get_attribute("aria-label") or ""
        if not re.search("part [12]", named):
            box.uncheck()
    maud.get_by_role("button", name=re.compile("^Sign off 2 of")).click()
    expect(maud.get_by_text("Signed off 2 posts.")).to_be_visible()
    expect(teo.get_by_test_id("sign-words")).to_have_text("Signed off.")
    maud.get_by_role("button", name=re.compile("at a glance$")).click()
    expect(maud.get_by_role("checkbox", name="Sign off Week of moss, part 0")).to_be_visible()
    expect(maud.get_by_role("checkbox", name="Sign off Week of moss, part 1")).to_have_count(0)


def test_one_says_how_one_is_told_and_a_text_message_comes_instead_of_a_mail(
    page: Page, someone: Callable[..., Page]
) -> None:
    teo = sign_in(page, "teo")
    teo.goto("/account")
    teo.get_by_label("Somebody mentions me").select_option(label="a text message")
    teo.get_by_label("Nothing is sent from").fill("22:00")
    wishes = teo.get_by_role("region", name="How you are told")
    wishes.get_by_role("button", name="Keep", exact=True).click()
    expect(teo.get_by_text("A text message needs a number.")).to_be_visible()
    teo.get_by_label("Number for text messages").fill("+34 600 000 111")
    teo.get_by_label("Nothing is sent from").fill("")
    wishes.get_by_role("button", name="Keep", exact=True).click()
    expect(teo.get_by_text("So you are told from now on.")).to_be_visible()
    maud = someone("maud")
    maud.goto("/garden/sign")
    maud.get_by_role("button", name="Ask for a change").click()
    maud.get_by_label("What should be changed?").fill("@Teo Brandt which wall is this?")
    maud.get_by_role("button", name="Only say it").click()
    expect(maud.get_by_text("Said.")).to_be_visible()
    teo.goto("/mail-tray")
    expect(
        teo.get_by_role("article").filter(has_text="which wall is this").filter(has_text="To +34 600 000 111")
    ).to_have_count(1)


def test_trouble_is_found_by_its_cause_mended_in_place_and_goes_out(
    page: Page, stack: Stack, someone: Callable[..., Page]
) -> None:
    sign_in(page)
    page.goto("/garden/today")
    page.get_by_role("link", name="All of it, by cause").click()
    refused = page.get_by_role("region", name="Brisk refused it")
    item = refused.get_by_test_id("trouble-item").filter(has_text="Fern fronds, close up")
    expect(item).to_contain_text("This post breaks the house rules.")
    assert violations(page) == []
    # The network still says no: it is back, with the network's present words.
    stack.control(
        "fault", {"network": "brisk", "kind": "refusing", "profile": "fernhollow-nursery", "words": "No ferns today."}
    )
    item.get_by_role("button", name=re.compile("^Send again")).click()
    expect(item).to_contain_text("No ferns today.")
    stack.control("fault?network=brisk", method="DELETE")
    item.get_by_role("link", name=re.compile("^Change it")).click()
    page.get_by_label("Text of the master").fill("Fern fronds: the whole plant in one leaf.")
    expect_kept(page)
    expect(page.get_by_test_id("sign-words")).to_have_text("Waits on Maud Ellery.")

    # Agreed to as it is now, it is sent again from where it was found, and is trouble no more.
    maud = someone("maud")
    maud.goto(f"/garden/sign?post={page.url.rsplit('/', 1)[1].split('?')[0]}")
    expect(maud.get_by_test_id("proof-text").first).to_contain_text("the whole plant")
    maud.get_by_role("button", name=re.compile("^Sign off")).click()
    expect(maud.get_by_text("Signed off.", exact=True)).to_be_visible()
    page.goto("/garden/trouble")
    mended = page.get_by_test_id("trouble-item").filter(has_text="the whole plant in one leaf")
    mended.get_by_role("button", name=re.compile("^Send again")).click()
    expect(mended).to_have_count(0)
    page.goto("/garden/calendar?states=published&view=list")
    expect(page.locator("[data-ticket]").filter(has_text="Fern fronds: the whole plant in one leaf.")).to_have_count(1)
    out = [p["body"]["text"] for p in stack.control("posts?profile=fernhollow-nursery")]
    assert out.count("Fern fronds: the whole plant in one leaf.") == 1


def test_the_history_says_who_did_what_and_leads_there(page: Page) -> None:
    sign_in(page)
    page.goto("/garden/history")
    entries = page.get_by_test_id("history-entry")
    expect(entries.first).to_be_visible()
    assert violations(page) == []
    page.get_by_label("In these words").fill("began")
    page.get_by_label("By whom").select_option(label="Teo Brandt")
    expect(entries.filter(has_not_text="Teo Brandt")).to_have_count(0)
    expect(page).to_have_url(re.compile("words=began"))
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Take it out as CSV").click()
    assert "Teo Brandt" in waiting.value.path().read_text("utf-8-sig")
    entries.first.get_by_role("link").click()
    expect(page.get_by_label("Text of the master")).to_be_visible()


def test_axe_finds_nothing_wrong_with_signing_off(someone: Callable[..., Page]) -> None:
    page = someone("ines", color_scheme="light")
    for path, ready in (
        ("/garden/sign?everyone=true", page.get_by_text("Also what waits on others")),
        ("/garden/sign-rules", page.get_by_role("button", name="Make the link")),
        ("/waiting", page.get_by_role("heading", name="Waits on you")),
        ("/account", page.get_by_label("Somebody mentions me")),
    ):
        page.goto(path)
        expect(ready).to_be_visible()
        if "everyone" in path:
            expect(page.get_by_label("Also what waits on others")).to_be_checked()
            expect(page.get_by_role("tab").first).to_be_visible()
        assert violations(page, both=True) == [], path
    # The foot of the page lies over what is below it: all of it is looked at.
    page.set_viewport_size({"width": 1280, "height": 1500})
    page.goto("/garden/calendar")
    page.locator("[data-state='held']").first.click()
    page.get_by_role("link", name="Open on the Bench").click()
    page.get_by_role("button", name="Sign-off").first.click()
    expect(page.get_by_role("region", name="Sign-off").get_by_text(re.compile("Maud"))).not_to_have_count(0)
    assert violations(page, both=True) == []
    page.get_by_role("button", name=re.compile("^Talk")).click()
    expect(page.get_by_role("dialog", name="Talk").get_by_label("Your remark")).to_be_visible()
    assert violations(page, both=True) == []


def test_what_one_has_in_hand_waits_while_its_words_are_not_agreed_to_and_is_theirs_again(
    page: Page, someone: Callable[..., Page], stack: Stack
) -> None:
    sign_in(page)
    write(page, "garden", "A gate in the mist", "Maud at Plaza")
    plan(page)
    with psycopg.connect(stack.cluster.url(stack.database)) as db:
        one = "SELECT id, post_id FROM posts_delivery WHERE headline = 'A gate in the mist'"
        ((delivery, post),) = db.execute(one).fetchall()
    maud = someone("maud")
    maud.goto(f"/garden/sign?post={post}")
    maud.get_by_role("button", name=re.compile("^Sign off")).click()
    expect(maud.get_by_text("Signed off.", exact=True)).to_be_visible()
    move_time(stack, "UPDATE posts_delivery SET due_at = now() - interval '1 day' WHERE id = %s", delivery)
    phone = someone("ines", viewport={"width": 390, "height": 844})
    phone.goto(f"/garden/by-hand/{delivery}")
    expect(phone.get_by_role("button", name="Say that it is done")).to_be_visible()
    page.goto(f"/garden/bench/{post}")
    page.get_by_label("Text of the master").fill("A gate that nobody agreed to")
    # The page in hand follows by itself.
    expect(phone.get_by_test_id("hand-waits")).to_contain_text("It waits for sign-off")
    expect(phone.get_by_test_id("hand-state")).to_contain_text("held")
    expect(phone.get_by_text("nobody agreed to")).to_have_count(0)
    expect(phone.get_by_role("button", name="Say that it is done")).to_have_count(0)
    assert violations(phone) == []
    maud.goto(f"/garden/sign?post={post}")
    expect(maud.get_by_test_id("proof-text")).to_contain_text("nobody agreed to")
    maud.get_by_role("button", name=re.compile("^Sign off")).click()
    expect(phone.get_by_test_id("hand-text")).to_have_text("A gate that nobody agreed to")
    expect(phone.get_by_role("button", name="Say that it is done")).to_be_visible()
