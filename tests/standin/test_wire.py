"""The stand-in's wire by itself: stories, comments, thumbnails, cards, what rises, and the shared store."""

import base64
import io

import httpx2
import pytest
from PIL import Image

from tests.films import film
from tests.standins import StandIn


class Hand:
    """A sign-in at one network, with one profile."""

    def __init__(self, standin: StandIn, network: str, profile: str) -> None:
        if network == "vitrine":
            standin.control("facts", {"network": network, "uid": profile, "facts": {"tied_page": "administered"}})
        given = standin.control("grant", {"network": network, "login": "desk", "profiles": [profile]})
        self.base, self.profile = f"{standin.url}/{network}", profile
        self.auth = {"Authorization": f"Bearer {given['access_token']}"}

    def file(self, data: bytes) -> str:
        sent = httpx2.post(f"{self.base}/media", files={"file": ("f", data)}, headers=self.auth)
        assert sent.status_code == 201, sent.text
        return sent.headers["Location"]

    def post(self, key: str = "", **properties) -> httpx2.Response:
        entry = {"type": ["h-entry"], "properties": {**properties, "mp-destination": [self.profile]}}
        return httpx2.post(f"{self.base}/micropub", json=entry, headers={**self.auth, "Idempotency-Key": f'"{key}"'})

    def ask(self, **query: str) -> dict:
        return httpx2.get(f"{self.base}/micropub", params=query, headers=self.auth).json()


def picture(size: tuple[int, int] = (900, 1600)) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, "#2f6b4a").save(out, "JPEG")
    return out.getvalue()


@pytest.fixture
def vitrine(standin: StandIn) -> Hand:
    return Hand(standin, "vitrine", "photos")


def test_a_comment_stands_under_its_post_once_and_is_known_by_its_key(standin, vitrine):
    there = vitrine.post("post-1", content=["Moss"], photo=[vitrine.file(picture((900, 900)))]).headers["Location"]
    first = vitrine.post("comment-1", content=["#moss"], **{"in-reply-to": [there]})
    again = vitrine.post("comment-1", content=["#moss"], **{"in-reply-to": [there]})
    assert first.status_code == 201 and first.headers["Location"] == again.headers["Location"] != there
    assert vitrine.ask(q="key", key="comment-1")["url"] == first.headers["Location"]
    assert httpx2.get(there).text.count('class="comment"') == 1
    assert 'class="comment"' in httpx2.get(first.headers["Location"]).text, "a comment's address shows its post"
    assert len(standin.posts("photos")) == 1 and len(standin.control("comments?profile=photos")) == 1


@pytest.mark.parametrize(
    ("network", "profile", "content", "reason"),
    [
        ("vitrine", "photos", "", "an empty comment"),
        ("vitrine", "photos", "x" * 2001, "the limit is 2000"),
        ("vitrine", "photos", " ".join(f"#t{n}a" for n in range(31)), "hashtags with the comment's"),
        ("brisk", "talks", "#moss", "takes no comments"),
    ],
)
def test_a_comment_is_judged_too(standin, network, profile, content, reason):
    hand = Hand(standin, network, profile)
    there = hand.post("p", content=["Moss"], photo=[hand.file(picture((900, 900)))]).headers["Location"]
    refused = hand.post("c", content=[content], **{"in-reply-to": [there]})
    assert refused.status_code == 400 and reason in refused.json()["detail"]


def test_nobody_comments_under_anothers_post_or_where_nothing_is(standin):
    page, group = Hand(standin, "plaza", "page"), Hand(standin, "plaza", "group")
    there = page.post("p", content=["Moss"]).headers["Location"]
    standin.control("facts", {"network": "plaza", "uid": "group", "facts": {"app": "on"}})
    for address in (there, f"{standin.url}/plaza/p/999999"):
        refused = group.post("c", content=["Hello"], **{"in-reply-to": [address]})
        assert refused.status_code == 400 and "no such post" in refused.json()["detail"]


def test_a_story_keeps_the_order_it_was_sent_in_and_shows_its_words(vitrine):
    still, moving = vitrine.file(picture()), vitrine.file(film(seconds=1))
    words = {"words": "6 below", "words-at": "middle"}
    made = vitrine.post(
        "s",
        content=[""],
        form=["story"],
        photo=[{"value": still, "alt": "Frost", **words}],
        video=[{"value": moving, "alt": ""}],
        order=[moving, still],
    )
    page = httpx2.get(made.headers["Location"]).text
    assert page.index("<video") < page.index("<img") and '<b class="middle">6 below</b>' in page


@pytest.mark.parametrize(
    ("size", "form", "reason"),
    [
        ((900, 1500), "story", "a story is 9:16"),
        ((900, 1600), "post", "the shape"),
        ((900, 900), "reel", "knows no reel"),
    ],
)
def test_frames_and_forms_that_do_not_fit_are_refused(vitrine, size, form, reason):
    refused = vitrine.post("s", content=["x"], form=[form], photo=[vitrine.file(picture(size))])
    assert refused.status_code == 400 and reason in refused.json()["detail"]


def test_a_thumbnail_a_card_and_people_are_on_the_posts_page(standin, vitrine):
    moving, cover = vitrine.file(film(seconds=1)), vitrine.file(picture())
    made = vitrine.post("v", content=["Round"], video=[{"value": moving, "alt": "Round", "cover": cover}])
    assert f'poster="{cover}"' in httpx2.get(made.headers["Location"]).text
    people = [{"who": "@teo", "x": 0.5, "y": 0.5}, {"x": 1}]
    made = vitrine.post(
        "t", content=["Who"], photo=[{"value": vitrine.file(picture((900, 900))), "alt": "", "people": people}]
    )
    assert "With @teo" in httpx2.get(made.headers["Location"]).text
    brisk = Hand(standin, "brisk", "talks")
    art = brisk.file(picture((1200, 630)))
    card = {"type": ["h-cite"], "properties": {"name": ["<b>Moss</b>"], "summary": ["Forty"], "photo": [art]}}
    page = httpx2.get(
        brisk.post("c", content=["Look"], link=["https://example.org"], card=[card]).headers["Location"]
    ).text
    assert "&lt;b&gt;Moss&lt;/b&gt;" in page and f'src="{art}"' in page


def test_a_file_that_is_neither_picture_nor_video_is_not_taken(vitrine):
    sent = httpx2.post(f"{vitrine.base}/media", files={"file": ("a.jpg", b"words")}, headers=vitrine.auth)
    assert sent.status_code == 400 and "neither a picture nor a video" in sent.json()["detail"]


def test_what_rises_is_told_most_first_and_nothing_where_nothing_does(standin, vitrine):
    rows = [{"network": "vitrine", "tag": "moss", "posts": 3}, {"network": "vitrine", "tag": "wall", "posts": 9}]
    standin.control("seed", {"rising": rows})
    assert [r["tag"] for r in vitrine.ask(q="rising")["rising"]] == ["wall", "moss"]
    assert Hand(standin, "brisk", "talks").ask(q="rising") == {"rising": []}


def test_the_shared_store_is_read_with_its_password_and_never_written(standin):
    standin.control("seed", {"shared": {"a/b.txt": base64.b64encode(b"moss").decode()}})
    store, who = f"{standin.url}/store", ("desk", "starlight")
    assert httpx2.get(f"{store}/a/b.txt").status_code == 401
    assert httpx2.get(f"{store}/a/b.txt", auth=("desk", "x")).status_code == 401
    assert httpx2.get(f"{store}/a/b.txt", auth=who).content == b"moss"
    assert httpx2.request("PROPFIND", f"{store}/", auth=who, headers={"Depth": "1"}).status_code == 207
    assert httpx2.put(f"{store}/a/c.txt", auth=who, content=b"x").status_code in (403, 405)
    assert httpx2.get(f"{store}/../standin.sqlite3", auth=who).status_code == 404
