"""The six steps as one story: connect, write, plan, move, publish, and break it."""

import io
import re
from collections.abc import Callable
from pathlib import Path

import pytest
from demo.pictures import draw_fern, draw_loaf, encode_picture
from playwright.sync_api import Page, expect
from tools.stack import Stack
from uniseg.graphemecluster import grapheme_clusters

from tests.browser.board import cell, drag
from tests.browser.conftest import sign_in
from tests.browser.desk import (
    end_trouble,
    expect_kept,
    make_trouble,
    row,
    send_now,
    sign_in_at_network,
    tickets,
    write,
)

TEXT = "Tonight the sky is clear over the ridge 🌌\nBring a scarf. Trae una bufanda. 星空"
PLANNED = "Tonight the sky.*, @cieloalto.sky, planned"
PUBLISHED = "Tonight the sky.*, @cieloalto.sky, published"


def moving() -> bytes:
    out = io.BytesIO()
    draw_loaf((300, 200), 6).save(out, "GIF", save_all=True, append_images=[draw_loaf((300, 200), 7)], duration=300)
    return out.getvalue()


@pytest.fixture(scope="module")
def pictures(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    folder = tmp_path_factory.mktemp("pictures")
    files = {
        "turned.jpg": encode_picture(draw_fern((800, 450), 3), rotated=True),
        "square.png": encode_picture(draw_loaf((500, 500), 4), "PNG"),
        "wide.webp": encode_picture(draw_fern((900, 600), 5), "WEBP"),
        "moving.gif": moving(),
        "not-a-picture.jpg": b"words, words, words",
    }
    for name, data in files.items():
        (folder / name).write_bytes(data)
    return {name: folder / name for name in files}


def test_the_whole_job_once(page: Page, stack: Stack, someone: Callable[..., Page], pictures: dict[str, Path]) -> None:
    sign_in(page)
    connect_two_of_three(page)
    write_with_pictures(page, pictures)
    plan_at_times_that_are_none(page)
    # The other is there already: Undo is offered for ten seconds, and signing in takes its time.
    other = someone("lucia")
    other.goto("/observatory/calendar")
    expect(other.get_by_role("grid")).to_be_visible()
    plan_undo_and_plan(page, other)
    move_by_keyboard_and_mouse(page, other)
    send_and_compare(page, other)


def connect_two_of_three(page: Page) -> None:
    """Refuse first, and be told."""
    page.goto("/observatory/calendar")
    expect(page.get_by_role("heading", name="No profiles yet")).to_be_visible()
    page.get_by_role("link", name="Connect profiles").click()
    page.get_by_role("button", name="Connect profiles").first.click()
    page.get_by_role("button", name="Go to Brisk").click()
    page.get_by_label("Account").fill("cieloalto")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("don't go together")
    sign_in_at_network(page, "cieloalto")
    page.get_by_role("button", name="Refuse").click()
    expect(page.get_by_role("alert")).to_contain_text("You said no at Brisk")
    page.get_by_role("button", name="Connect profiles").first.click()
    page.get_by_role("button", name="Go to Brisk").click()
    expect(page.get_by_role("checkbox")).to_have_count(3)
    page.get_by_label("Sky notes").check()
    page.get_by_label("Visits to Cielo Alto").check()
    page.get_by_role("button", name="Agree").click()
    expect(page.get_by_role("status").filter(has_text="Connected")).to_contain_text("@cieloalto.sky, @cieloalto.visits")
    expect(row(page, "account")).to_have_count(2)


def write_with_pictures(page: Page, pictures: dict[str, Path]) -> None:
    """The Bench, findings as one types, real pictures, the proof in true shapes."""
    page.keyboard.press("n")
    text = page.get_by_label("Text of the master")
    text.fill("x" * 301)
    expect(page.get_by_text("Brisk takes 300 characters; this has 301. Take out 1.")).to_be_visible()
    expect(page.get_by_role("button", name="Plan")).to_be_disabled()
    text.fill(TEXT)
    expect(page.get_by_test_id("fits")).to_have_text("fits")
    length = sum(1 for _ in grapheme_clusters(TEXT))
    expect(page.get_by_text(f"{length} of 300")).to_be_visible()
    add = page.get_by_label("Add pictures or video", exact=True)
    add.set_input_files([pictures["turned.jpg"], pictures["not-a-picture.jpg"], pictures["square.png"]])
    refused = page.get_by_role("alert").filter(has_text="not-a-picture.jpg")
    expect(refused).to_contain_text("not a JPEG, PNG, WebP or GIF")
    expect_true_shapes(page, ["800x450", "500x500"])
    page.get_by_label("Alt text").first.fill("Ferns against the evening sky")
    page.get_by_label("Alt text").nth(1).fill("A loaf, for the walk")
    page.get_by_label("Alt text").nth(1).press("Tab")
    expect(page.get_by_test_id("fits")).to_have_text("fits")
    expect_kept(page)
    expect(page.get_by_test_id("proof-text")).to_have_text(TEXT)
    add.set_input_files([pictures["wide.webp"], pictures["moving.gif"]])
    together = page.locator("[data-finding='together']")
    expect(together).to_contain_text("doesn't take moving pictures (GIF) and pictures in the same post")
    page.get_by_role("button", name="Take moving.gif out of the master").click()
    page.get_by_role("button", name="Take wide.webp out of the master").click()
    expect_kept(page)
    page.reload()
    expect(page.get_by_label("Text of the master")).to_have_value(TEXT)


def expect_true_shapes(page: Page, shapes: list[str]) -> None:
    """The proof shows each picture in its own shape, its EXIF rotation applied."""
    proved = page.locator("[data-proof-picture]")
    expect(proved).to_have_count(len(shapes))
    boxes = "all => all.map(e => { const box = e.querySelector('img').getBoundingClientRect(); return [e.dataset.proofPicture, box.width / box.height]; })"
    found = proved.evaluate_all(boxes)
    assert [shape for shape, _ in found] == shapes
    for shape, ratio in found:
        width, height = map(int, shape.split("x"))
        assert ratio == pytest.approx(width / height, rel=0.02)


def plan_at_times_that_are_none(page: Page) -> None:
    """A time that has passed, and one that does not exist."""
    page.get_by_label("At a day and time").check()
    page.get_by_label("Day", exact=True).fill("2020-02-02")
    page.get_by_role("button", name="Plan").click()
    expect(page.get_by_text("has passed. Choose a later time")).to_be_visible()
    page.get_by_label("Day", exact=True).fill("2027-03-28")
    page.get_by_label("Time, Canary time").fill("01:30")
    page.get_by_role("button", name="Plan").click()
    expect(page.get_by_text("the clocks go forward")).to_be_visible()
    expect(page.get_by_label("Text of the master")).to_have_value(TEXT)
    page.get_by_label("Next free slot").check()


def plan_undo_and_plan(page: Page, other: Page) -> None:
    """Both browsers see it come, go and come to where it was."""
    page.get_by_role("button", name="Plan").click()
    ticket, seen_by_other = tickets(page, PLANNED), tickets(other, PLANNED)
    expect(ticket).to_be_visible()
    expect(seen_by_other).to_be_visible()
    was = ticket.get_attribute("aria-label") or ""
    page.get_by_role("button", name="Undo").click()
    expect(ticket).to_have_count(0)
    expect(seen_by_other).to_have_count(0)
    page.get_by_role("link", name=re.compile("Tonight the sky")).click()
    page.get_by_role("button", name="Plan").click()
    expect(ticket).to_have_attribute("aria-label", was)


def move_by_keyboard_and_mouse(page: Page, other: Page) -> None:
    """One day on and a quarter of an hour later; put back by escape and by z; dragged to another day."""
    ticket = tickets(page, PLANNED)
    was = ticket.get_attribute("aria-label") or ""
    ticket.focus()
    for key in ("Space", "ArrowRight", "Escape"):
        page.keyboard.press(key)
    expect(ticket).to_have_attribute("aria-label", was)
    for key in ("Space", "ArrowRight", "ArrowDown", "Enter"):
        page.keyboard.press(key)
    expect(ticket).not_to_have_attribute("aria-label", was)
    moved = ticket.get_attribute("aria-label") or ""
    expect(tickets(other, PLANNED)).to_have_attribute("aria-label", moved)
    page.keyboard.press("z")
    expect(ticket).to_have_attribute("aria-label", was)
    drag(page, ticket, cell(page, 0, 6))
    page.mouse.up()
    expect(cell(page, 0, 6).locator("[data-ticket]")).to_have_count(1)


def send_and_compare(page: Page, other: Page) -> None:
    """Published in both browsers without reloading; the public page shows the same."""
    tickets(page, PLANNED).click()
    page.get_by_role("button", name="Back to the tray").click()
    page.get_by_role("link", name=re.compile("Tonight the sky")).click()
    send_now(page)
    published = tickets(page, PUBLISHED)
    expect(published).to_be_visible()
    expect(tickets(other, PUBLISHED)).to_be_visible()
    published.click()
    address = page.get_by_role("link", name="See it on Brisk").get_attribute("href") or ""
    page.keyboard.press("Escape")
    public = other.context.new_page()
    public.goto(address)
    expect(public.locator("p.text")).to_have_text(TEXT)
    expect(public.get_by_alt_text("Ferns against the evening sky")).to_be_visible()
    sizes = public.locator("article img").evaluate_all("all => all.map(i => [i.naturalWidth, i.naturalHeight])")
    assert sizes == [[800, 450], [500, 500]]


@pytest.mark.parametrize(
    ("kind", "told"),
    [
        ("slow", "took too long"),
        ("down", "is not answering"),
        ("rate_limiting", "asked to wait"),
        ("answer_lost", None),
    ],
)
def test_break_it_and_it_mends_itself(page: Page, stack: Stack, kind: str, told: str | None) -> None:
    words = f"Bread in spite of {kind.replace('_', ' ')}"
    sign_in(page)
    control = page.context.new_page()
    # So slow that nothing comes of it before the trouble ends: what is told while it lasts doesn't pass by unseen.
    make_trouble(control, stack, kind, seconds=120 if kind == "slow" else 5)
    write(page, "bakery", words, "@hogaza")
    send_now(page)
    if told:
        waiting = tickets(page, f"{words}, @hogaza, planned")
        expect(waiting.and_(page.get_by_label(re.compile(told)))).to_be_visible()
    else:
        # A lost answer is found again within a second; that it was lost is what the stand-in was told to do.
        expect(tickets(page, f"{words}, @hogaza, published")).to_be_visible()
    end_trouble(control, stack)
    expect(tickets(page, f"{words}, @hogaza, published")).to_be_visible()
    assert sum(p["body"]["text"] == words for p in stack.control("posts")) == 1


def test_a_refusal_is_trouble_in_plain_words_and_can_be_sent_again(page: Page, stack: Stack) -> None:
    sign_in(page)
    control = page.context.new_page()
    make_trouble(control, stack, "refusing")
    write(page, "bakery", "Rye, refused", "@hogaza")
    send_now(page)
    ticket = tickets(page, "Rye, refused, @hogaza, in trouble")
    ticket.click()
    expect(page.get_by_role("dialog")).to_contain_text("Brisk refused it: This post breaks the house rules.")
    end_trouble(control, stack)
    page.get_by_role("button", name="Send again").click()
    expect(page.get_by_test_id("delivery-state")).to_have_text("published")


def test_a_worker_killed_while_it_sends_leaves_one_post(page: Page, stack: Stack) -> None:
    sign_in(page)
    stack.control("fault", {"network": "brisk", "kind": "hold_after", "at": "create"})
    write(page, "bakery", "Killed in the middle", "@hogaza")
    send_now(page)
    expect(tickets(page, "Killed in the middle, @hogaza, being sent")).to_be_visible()
    stack.kill("worker")
    stack.control("fault", method="DELETE")
    stack.start_worker()
    expect(tickets(page, "Killed in the middle, @hogaza, published")).to_be_visible()
    assert sum(p["body"]["text"] == "Killed in the middle" for p in stack.control("posts")) == 1
