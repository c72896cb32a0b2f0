"""What goes through the wire: crops, stories, people, thumbnails, cards; and the first comment, a step of its own."""

import io
import uuid
from datetime import timedelta

import httpx2
import pytest
from django.utils import timezone
from PIL import Image

from menudo.delivery import with_connection
from menudo.delivery.actions.send import send_due
from menudo.delivery.actions.send_comment import send_comment, sweep_comments
from menudo.delivery.models import FirstComment
from menudo.library.models import Asset
from menudo.library.rendering import render_outgoing
from menudo.posts.models import Delivery, Post
from menudo.posts.serializers import load_presentation
from menudo.profiles.models import Pause, Profile
from menudo_core.media.facts import MediaKind
from menudo_core.media.presentation import Box, MediaPresentation, presented_facts
from menudo_core.networks.load import shipped_sheets
from tests.films import film
from tests.server.conftest import picture
from tests.server.test_connect import at_the_network, back, set_out


@pytest.fixture(autouse=True)
def quick(settings):
    settings.WIRE_TIMEOUT = 3
    settings.BACKOFF_BASE = timedelta(seconds=60)


@pytest.fixture
def photos(world, standin) -> Profile:
    standin.control("facts", {"network": "vitrine", "uid": "photos", "facts": {"tied_page": "administered"}})
    back(world, at_the_network(set_out(world, "vitrine"), profiles=("photos",)))
    return Profile.objects.get(network="vitrine")


def sent(world, profile: Profile, master: dict, own: dict | None = None) -> Delivery:
    post = Post.objects.create(brand=world.garden, master=master, state="signed_off")
    if own is not None:
        post.versions.create(network=profile.network, overrides=own)
    delivery = Delivery.objects.create(
        post=post,
        profile=profile,
        brand=world.garden,
        key=uuid.uuid4(),
        state="planned",
        due_at=timezone.now() - timedelta(seconds=1),
    )
    send_due()
    delivery.refresh_from_db()
    return delivery


def gradient(size: tuple[int, int]) -> bytes:
    out = io.BytesIO()
    column = Image.linear_gradient("L").resize(size)
    Image.merge("RGB", (column, column.transpose(Image.Transpose.ROTATE_180), column)).save(out, "PNG")
    return out.getvalue()


def test_a_crop_is_drawn_when_sent_and_the_original_stays_untouched(world, standin, photos):
    asset_id = world.api().upload(gradient((1600, 900)), "wide.png").json()["id"]
    whole = Asset.objects.get(pk=asset_id)
    shown = {str(asset_id): {"turn": 1, "crop": {"x": 0, "y": 0.25, "w": 1, "h": 0.5}}}
    delivery = sent(world, photos, {"text": "Moss", "media": [asset_id]}, {"shown": shown})
    (post,) = standin.posts("photos")
    assert delivery.state == "published"
    assert [(m["width"], m["height"]) for m in post["body"]["media"]] == [(900, 800)]
    assert delivery.sent_content["shown"] == shown
    assert Asset.objects.get(pk=asset_id).sha256 == whole.sha256 and Asset.objects.count() == 1


@pytest.mark.parametrize("network", ["brisk", "vitrine", "waypost", "tackboard"])
def test_what_is_made_to_fit_is_within_every_limit_of_the_sheet(world, network):
    rule = shipped_sheets()[network].media.kinds[MediaKind.PICTURE]
    noise = Image.effect_noise((2600, 2200), 90).convert("RGB")
    out = io.BytesIO()
    noise.save(out, "PNG")
    asset_id = world.api().upload(out.getvalue(), "noise.png").json()["id"]
    asset = Asset.objects.get(pk=asset_id)
    assert asset.size > rule.max_bytes or network in ("tackboard", "brisk")
    drawn = render_outgoing(asset, MediaPresentation(fit=True, crop=Box(0, 0, 0.9, 1)), rule)
    seen = Image.open(io.BytesIO(drawn.source))
    assert len(drawn.source) <= rule.max_bytes and drawn.format in rule.formats
    assert seen.format.lower() == drawn.format and min(seen.size) >= (rule.min_width or 1)
    # The core's shape and the drawn one are the same, give or take the pixels that bytes cost.
    assert seen.width / seen.height == pytest.approx(
        presented_facts(asset.facts, MediaPresentation(crop=Box(0, 0, 0.9, 1)), rule).ratio, rel=0.01
    )


def test_turning_goes_clockwise_and_a_crop_is_of_what_was_turned():
    left_red = Image.new("RGB", (40, 20), "blue")
    left_red.paste("red", (0, 0, 20, 20))
    from menudo.library.rendering import apply_presentation

    turned = apply_presentation(left_red, 1, Box(0, 0, 1, 0.5))
    # A quarter clockwise brings the left side to the top.
    assert turned.size == (20, 20) and turned.getpixel((10, 10)) == (255, 0, 0)


def test_a_story_arrives_frame_by_frame_with_its_words_and_without_text(world, standin, photos):
    frame = world.api().upload(picture((900, 1600)), "frost.jpg").json()["id"]
    short = world.api().upload(film(seconds=2), "round.mp4").json()["id"]
    shown = {str(frame): {"words": "6 below", "words_at": "top"}}
    delivery = sent(world, photos, {"text": "Inherited", "media": [short, frame]}, {"form": "story", "shown": shown})
    (post,) = standin.posts("photos")
    assert post["body"]["form"] == "story" and post["body"]["text"] == ""
    assert [(m["kind"], m["words"]) for m in post["body"]["media"]] == [("video", ""), ("picture", "6 below")]
    page = httpx2.get(delivery.remote_url).text
    assert '<b class="top">6 below</b>' in page and "Inherited" not in page and not FirstComment.objects.exists()


def test_people_and_a_thumbnail_go_where_the_network_takes_them(world, standin, photos):
    moss = world.api().upload(picture((900, 900)), "moss.jpg").json()["id"]
    short = world.api().upload(film(seconds=3), "round.mp4").json()["id"]
    people = [{"who": "@teo", "x": 0.25, "y": 0.5}]
    shown = {str(moss): {"people": people}, str(short): {"cover_at": 2.8}}
    sent(world, photos, {"media": [moss, short], "shown": shown})
    first, second = standin.posts("photos")[0]["body"]["media"]
    assert first["people"] == people and first["cover"] == ""
    cover = Image.open(io.BytesIO(httpx2.get(second["cover"]).content))
    assert cover.size == (360, 640) and cover.getpixel((180, 320))[0] > 180, (
        "a late frame: the film goes from dark to red"
    )
    sent(world, world.profile, {"text": "Moss", "media": [moss], "shown": shown})
    assert standin.posts("fernhollow")[0]["body"]["media"][0]["people"] == [], "Brisk tags nobody"


def test_a_card_goes_with_a_link_alone_and_not_beside_pictures(world, standin):
    art = world.api().upload(picture((1200, 630)), "card.jpg").json()["id"]
    card = {"title": "Moss week", "description": "Forty kinds", "picture": art}
    master = {"text": "Look", "link": "https://example.org/moss", "card": card}
    delivery = sent(world, world.profile, master)
    body = standin.posts()[0]["body"]
    assert body["card"]["name"] == "Moss week" and body["card"]["photo"].startswith("http")
    assert "Forty kinds" in httpx2.get(delivery.remote_url).text
    sent(world, world.profile, {**master, "media": [art]})
    assert standin.posts()[1]["body"]["card"] is None


def test_by_hand_gets_the_picture_as_it_is_shown(world, photos):
    asset_id = world.api().upload(picture((1600, 900)), "wide.jpg").json()["id"]
    post = Post.objects.create(
        brand=world.garden,
        master={"media": [asset_id], "shown": {str(asset_id): {"crop": {"x": 0, "y": 0, "w": 0.5, "h": 1}}}},
    )
    delivery = Delivery.objects.create(post=post, profile=photos, brand=world.garden, key=uuid.uuid4())
    client = world.api().client
    answer = client.get(f"/media/garden/{asset_id}/sent?delivery={delivery.pk}")
    assert Image.open(io.BytesIO(b"".join(answer.streaming_content))).size == (800, 900)
    assert 'filename="wide.jpeg"' in answer["Content-Disposition"]
    for bad in ("", "?delivery=x", "?delivery=0", "?delivery=99999999999999999999"):
        assert client.get(f"/media/garden/{asset_id}/sent{bad}").status_code == 404
    assert world.api("bruno").client.get(f"/media/garden/{asset_id}/sent?delivery={delivery.pk}").status_code == 404


def commented(world, photos, comment: str = "#moss #wall") -> Delivery:
    asset_id = world.api().upload(picture((900, 900)), "moss.jpg").json()["id"]
    return sent(world, photos, {"text": "Moss", "media": [asset_id], "first_comment": comment})


def test_a_first_comment_follows_its_post_once(world, standin, photos):
    delivery = commented(world, photos)
    assert delivery.state == "published" and delivery.comment.state == "waiting"
    for _ in range(3):
        send_comment(delivery.pk)
    (comment,) = standin.control("comments")
    assert comment["body"]["text"] == "#moss #wall" and comment["key"] == str(delivery.comment.key) != str(delivery.key)
    assert "#moss #wall" in httpx2.get(delivery.remote_url).text
    page = world.api()("GET", f"deliveries/{delivery.pk}", status=200)
    assert page["delivery"]["comment"]["state"] == "published" and page["first_comment"] == "#moss #wall"


def test_a_comment_that_fails_alone_says_so_and_is_tried_alone(world, standin, photos):
    delivery = commented(world, photos)
    standin.control("fault", {"network": "vitrine", "kind": "refusing", "at": "comment", "words": "no comments today"})
    send_comment(delivery.pk)
    page = world.api()("GET", f"deliveries/{delivery.pk}", status=200)["delivery"]
    assert (
        page["state"] == "published"
        and page["comment"]["state"] == "in_trouble"
        and "comment" in page["allowed_actions"]
    )
    assert "no comments today" in page["comment"]["reason"]
    (trouble,) = world.api()("GET", "today", status=200)["trouble"]
    assert trouble["delivery"] == delivery.pk and trouble["reason"].startswith("Its first comment: Vitrine refused it")
    assert world.api()("GET", "strip", status=200)["trouble"] == 1
    standin.behave()
    world.api("teo")("POST", f"deliveries/{delivery.pk}/comment", {}, page["revision"], 403)
    world.api()("POST", f"deliveries/{delivery.pk}/comment", {}, page["revision"], 200)
    world.api()("POST", f"deliveries/{delivery.pk}/comment", {}, page["revision"], 412)
    send_comment(delivery.pk)
    assert len(standin.control("comments")) == 1 and len(standin.posts("photos")) == 1
    now = world.api()("GET", f"deliveries/{delivery.pk}", status=200)["delivery"]
    assert now["comment"]["state"] == "published" and "comment" not in now["allowed_actions"]


def test_a_comment_whose_answer_is_lost_is_asked_about_and_never_sent_twice(world, standin, photos):
    delivery = commented(world, photos)
    standin.control("fault", {"network": "vitrine", "kind": "answer_lost", "at": "comment"})
    send_comment(delivery.pk)
    comment = FirstComment.objects.get()
    assert (comment.state, comment.begun) == ("waiting", True) and comment.not_before > timezone.now()
    standin.behave()
    FirstComment.objects.update(not_before=None)
    send_comment(delivery.pk)
    assert FirstComment.objects.get().state == "published" and len(standin.control("comments")) == 1


def test_a_comment_whose_worker_died_is_taken_up_by_the_sweep(world, standin, photos):
    delivery = commented(world, photos)
    FirstComment.objects.update(
        state="sending", lease_until=timezone.now() - timedelta(seconds=1), lease_holder="dead:1", begun=True
    )
    assert sweep_comments() == 1
    send_comment(delivery.pk)
    assert FirstComment.objects.get().state == "published" and len(standin.control("comments")) == 1


def test_a_comment_whose_lease_was_lost_is_not_sent(world, standin, photos, monkeypatch):
    """It waited long for a token; meanwhile another worker took it over. With both sending, a network that knows no keys
    would have it twice."""
    delivery = commented(world, photos)
    token = with_connection.working_token

    def slow(*given, **named):
        FirstComment.objects.update(lease_holder="another worker")
        return token(*given, **named)

    monkeypatch.setattr(with_connection, "working_token", slow)
    send_comment(delivery.pk)
    comment = FirstComment.objects.get()
    assert (comment.state, comment.begun, comment.lease_holder) == ("sending", False, "another worker")
    assert standin.control("comments") == []


def test_no_comment_goes_out_while_its_profile_is_paused(world, standin, photos):
    delivery = commented(world, photos)
    pause = Pause.objects.create(brand=world.garden, starts_at=timezone.now() - timedelta(minutes=1))
    send_comment(delivery.pk)
    comment = FirstComment.objects.get()
    assert (comment.state, comment.tries) == ("waiting", 0) and comment.not_before > timezone.now()
    pause.ended_at = timezone.now()
    pause.save()
    FirstComment.objects.update(not_before=None)
    send_comment(delivery.pk)
    assert FirstComment.objects.get().state == "published"


def test_a_network_without_comments_gets_none(world, standin):
    delivery = sent(world, world.profile, {"text": "Moss", "first_comment": ""})
    assert delivery.state == "published" and not FirstComment.objects.exists()


def test_what_is_kept_of_a_showing_comes_back_as_the_core_has_it():
    assert load_presentation({}) == MediaPresentation()
    assert load_presentation({"crop": {"x": 0, "y": 0, "w": 1, "h": 1}, "turn": 0, "cover": 0}) == MediaPresentation(
        crop=Box(), turn=0, cover=0
    )


def test_an_offer_goes_to_each_counter_with_words_of_its_own(world, standin):
    standin.control("facts", {"network": "waypost", "uid": "gate", "facts": {"verified": "yes"}})
    back(world, at_the_network(set_out(world, "waypost"), profiles=("gate",)))
    gate = Profile.objects.get(network="waypost")
    offer = {
        "listing_kind": "offer",
        "title": "Rye for two",
        "start": "2026-12-01T08:00",
        "end": "2026-12-07T20:00",
        "button": "get offer",
        "offer_link": "https://hogaza.example.org/rye",
    }
    delivery = sent(world, gate, {"text": "Two for one on rye"}, {"fields": offer})
    assert delivery.state == "published", delivery.reason
    (post,) = standin.posts("gate")
    assert post["body"]["button"] == "get offer" and post["body"]["fields"]["Link of the offer"] == offer["offer_link"]
    page = httpx2.get(delivery.remote_url).text
    assert 'class="press">get offer' in page and "Rye for two" in page
