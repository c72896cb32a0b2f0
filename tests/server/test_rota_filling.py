"""Rotas filled from elsewhere: quotations, tables, posts that did well. All numbers are invented."""

import io
from datetime import timedelta

import pytest
from django.utils import timezone

from menudo.brandsheet.models import BrandSheet
from menudo.insight.models import Reading
from menudo.library.models import Asset
from menudo.posts.models import Delivery, Post
from menudo.rotas.models import Rota, Turn
from tests.server.conftest import picture
from tests.server.test_posts import pointers
from tests.server.test_rotas import filled, heads, rota_in


@pytest.fixture
def api(world):
    return world.api()


@pytest.fixture
def rota(world, api) -> Rota:
    return Rota.objects.get(pk=api("POST", "rotas", rota_in(world, gap_days=0), status=201)["rota"]["id"])


def table(api, rota: Rota, text: str, status: int):
    file = io.BytesIO(text.encode())
    file.name = "turns.csv"
    answer = api.client.post(f"/api/brands/garden/rotas/{rota.pk}/table", {"file": file})
    assert answer.status_code == status, answer.content.decode()[:500]
    return answer.json()


def test_quotations_are_found_by_what_the_brand_speaks_of_and_become_turns_once_a_day_at_most(world, api, rota):
    BrandSheet.objects.create(brand=world.garden, values={"topics": ["gardens"], "colours": ["#2f6b4a"]})
    found = api("GET", "quotations", status=200)
    assert found["count"] > 400 and {q["subject"] for q in found["quotations"][:10]} == {"nature"}
    assert api("GET", "quotations?words=ishmael", status=200)["count"] == 1
    assert {q["subject"] for q in api("GET", "quotations?subject=sky", status=200)["quotations"]} == {"sky"}
    ids = [q["id"] for q in found["quotations"][:3]]
    sent = {"quotations": ids, "tags": ["reading", "#garden"]}
    assert api("POST", f"rotas/{rota.pk}/quotations", sent, status=201) == {"turns": 3}
    text = Post.objects.filter(wording__turn__rota=rota).first().master["text"]
    assert found["quotations"][0]["author"] in text and text.endswith("#reading #garden")
    # What is in already isn't put in twice, and once a day is the most.
    assert pointers(api("POST", f"rotas/{rota.pk}/quotations", sent, status=422)) == {"/quotations"}
    rota.refresh_from_db()
    assert rota.gap_days == 1
    page = api("GET", f"rotas/{rota.pk}", status=200)
    changed = api("PUT", f"rotas/{rota.pk}", rota_in(world, gap_days=0), page["rota"]["revision"], 422)
    assert pointers(changed) == {"/gap_days"}
    assert pointers(api("POST", f"rotas/{rota.pk}/quotations", {"quotations": ["x"]}, status=422)) == {"/quotations/0"}
    assert pointers(api("POST", f"rotas/{rota.pk}/quotations", {**sent, "tags": ["two words"]}, status=422)) == {
        "/tags/0"
    }


def test_a_quotation_as_a_picture_is_drawn_in_a_shape_its_networks_take_and_read_out_as_alt_text(world, api, rota):
    (one,) = api("GET", "quotations?words=ishmael", status=200)["quotations"]
    api("POST", f"rotas/{rota.pk}/quotations", {"quotations": [one["id"]], "pictures": True}, status=201)
    asset = Asset.objects.get()
    assert (asset.format, asset.width) == ("png", 1080) and "Call me Ishmael" in asset.alt
    assert Post.objects.get(wording__turn__rota=rota).master["media"] == [asset.pk]


def test_a_table_becomes_turns_all_or_none_with_every_bad_row_named(world, api, rota):
    api.upload(picture(), "moss.jpg")
    bad = "text,text 2,picture,link,times,until\nOne,,,,,\n,,gone.jpg,,,\nTwo,,,nowhere,0,soon\n,,,,3,\n"
    answer = table(api, rota, bad, 422)
    assert [e["pointer"] for e in answer["errors"]] == [
        "/file/3",
        "/file/4",
        "/file/4",
        "/file/4",
        "/file/5",
    ] and not Turn.objects.exists()
    good = 'text,text 2,picture,link,times,until\n"One, with a comma",One again,moss.jpg,,2,2027-03-31\nTwo,,,https://fernhollow.example/two,,\n'
    assert table(api, rota, good, 201) == {"turns": 2}
    first, second = rota.turns.all()
    assert [w.post.master["text"] for w in first.wordings.all()] == ["One, with a comma", "One again"]
    assert (first.times, str(first.until)) == (2, "2027-03-31")
    assert second.wordings.get().post.master["link"] == "https://fernhollow.example/two"
    assert table(api, rota, "when,what\n1,2\n", 422)["errors"][0]["code"] == "rota.table_header"


def test_posts_that_did_better_than_usual_are_offered_best_first(world, api):
    now = timezone.now()
    posts = []
    for n, reactions in enumerate([10, 10, 10, 10, 30, 20]):
        post = Post.objects.create(brand=world.garden, master={"text": f"Post {n}"})
        d = Delivery.objects.create(
            post=post,
            profile=world.profile,
            brand=world.garden,
            state="published",
            key=f"{n:032x}",
            due_at=now,
            published_at=now,
        )
        Reading.objects.create(
            delivery=d,
            brand=world.garden,
            profile=world.profile,
            published_at=now - timedelta(days=n),
            read_at=now,
            reactions=reactions,
        )
        posts.append(post)
    found = api("GET", "top-posts", status=200)
    # The usual is the mean, 15: the fifth earned twice that, the sixth a third more.
    assert [(one["headline"], one["times_usual"]) for one in found] == [("Post 4", 2.0), ("Post 5", 1.3)]
    rota = filled(world, api, 0)
    api("POST", f"rotas/{rota.pk}/turns", {"posts": [found[0]["post"]]}, status=201)
    assert heads(api, rota, 1) == ["Post 4"]
    posts[4].deleted_at = now
    posts[4].save()
    assert [one["headline"] for one in api("GET", "top-posts", status=200)] == ["Post 5"]
