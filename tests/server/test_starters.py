"""Starters: proposed from what the brand is and has, kept or thrown away, never planned by themselves. All invented."""

import pytest
from django.utils import timezone

from menudo.brandsheet.models import BrandSheet
from menudo.calendar.models import Almanac
from menudo.catalogue.models import Catalogue, Thing
from menudo.feeds.models import Article, Feed
from menudo.posts.models import Delivery, Post
from menudo.starters.actions.supply import supply
from menudo.starters.models import Starter
from menudo_core.text.placeholders import blanks
from tests.server.test_posts import pointers


@pytest.fixture
def api(world):
    return world.api()


@pytest.fixture
def rich(world):
    """A brand with topics, an article, and a thing."""
    now = timezone.now()
    BrandSheet.objects.create(brand=world.garden, said={"topics": ["moss", "ferns"], "hashtags": ["fernhollow"]})
    Almanac.objects.create(brand=world.garden, observances=False)
    feed = Feed.objects.create(brand=world.garden, address="https://a.example/x", title="Sky notes", next_at=now)
    Article.objects.create(
        feed=feed, known_by="1", title="On moss", link="https://a.example/1", seen=now, fresh=True, link_ok=True
    )
    catalogue = Catalogue.objects.create(brand=world.garden, name="Nursery")
    Thing.objects.create(catalogue=catalogue, key="A", title="Aster", price=9, currency="EUR", seen=now)
    return world.garden


def test_a_supply_comes_from_what_the_brand_has_and_says_why(world, api, rich):
    assert api("GET", "starters", status=200) == []
    found = api("POST", "starters/more", {}, status=200)
    assert {"article", "thing", "topic"} <= {one["kind"] for one in found} and len(found) <= 6
    thing = next(one for one in found if one["kind"] == "thing")
    assert (
        "Aster" in thing["text"] and "#fernhollow" in thing["text"] and thing["why"] == "It is still free in Nursery."
    )
    # None is proposed twice, and none is planned or even a post.
    before = Starter.objects.count()
    supply(rich)
    assert len({s.key for s in Starter.objects.all()}) == Starter.objects.count() >= before
    assert not Post.objects.exists() and not Delivery.objects.exists()


def test_kept_it_is_a_draft_with_its_blanks_and_thrown_away_it_never_comes_back(world, api, rich):
    found = api("POST", "starters/more", {}, status=200)
    article = next(one for one in found if one["kind"] == "article")
    post = api("POST", f"starters/{article['id']}/keep", {}, status=201)["post"]
    assert api("POST", f"starters/{article['id']}/keep", {}, status=201)["post"] == post
    assert Post.objects.get(pk=post).master["card"]["title"] == "On moss"
    assert blanks(Post.objects.get(pk=post).master["text"]) == 1
    topic = next(one for one in found if one["kind"] == "topic")
    api("POST", f"starters/{topic['id']}/throw", {"reason": "not_us"}, status=204)
    api("POST", f"starters/{topic['id']}/throw", {"reason": "not_us"}, status=409)
    api("POST", f"starters/{topic['id']}/keep", {}, status=409)
    ids = {one["id"] for one in api("POST", "starters/more", {}, status=200)}
    assert topic["id"] not in ids and article["id"] not in ids
    assert pointers(api("POST", f"starters/{article['id']}/throw", {"reason": "no"}, status=422)) == {"/reason"}
