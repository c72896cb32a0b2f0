"""Starters: proposed from what the brand is and has, kept or thrown away, never planned by themselves. All invented."""

from datetime import timedelta

import pytest
from django.utils import timezone

from menudo.brandsheet.models import BrandSheet
from menudo.calendar.models import Almanac
from menudo.catalogue.models import Catalogue, CatalogueItem
from menudo.feeds.models import Article, Feed
from menudo.insight.models import Reading
from menudo.people.models import Brand
from menudo.posts.models import Delivery, Post
from menudo.starters.actions.supply_starters import supply_all, supply_brand
from menudo.starters.ideas import starter_ideas
from menudo.starters.models import Starter
from menudo_core.starters.choose import Kind
from menudo_core.text.placeholders import count_blanks
from tests.server.test_posts import pointers


@pytest.fixture
def api(world):
    return world.api()


@pytest.fixture
def rich(world):
    """A brand with topics, an article, and a thing."""
    now = timezone.now()
    BrandSheet.objects.create(brand=world.garden, values={"topics": ["moss", "ferns"], "hashtags": ["fernhollow"]})
    Almanac.objects.create(brand=world.garden, observances=False)
    feed = Feed.objects.create(brand=world.garden, address="https://a.example/x", title="Sky notes", next_at=now)
    Article.objects.create(
        feed=feed, entry_key="1", title="On moss", link="https://a.example/1", seen_at=now, is_new=True, link_ok=True
    )
    catalogue = Catalogue.objects.create(brand=world.garden, name="Nursery")
    CatalogueItem.objects.create(catalogue=catalogue, key="A", title="Aster", price=9, currency="EUR", last_seen_at=now)
    return world.garden


def test_a_supply_comes_from_what_the_brand_has_and_says_why(world, api, rich):
    assert api("GET", "starters", status=200) == []
    found = api("POST", "starters/more", {}, status=200)
    assert {"article", "thing", "topic"} <= {one["kind"] for one in found} and len(found) <= 6
    thing = next(one for one in found if one["kind"] == "thing")
    assert (
        "Aster" in thing["text"]
        and "#fernhollow" in thing["text"]
        and thing["reason"] == "It is still free in Nursery."
    )
    # None is proposed twice, and none is planned or even a post.
    before = Starter.objects.count()
    supply_brand(rich)
    assert len({s.key for s in Starter.objects.all()}) == Starter.objects.count() >= before
    assert not Post.objects.exists() and not Delivery.objects.exists()


def test_kept_it_is_a_draft_with_its_blanks_and_thrown_away_it_never_comes_back(world, api, rich):
    found = api("POST", "starters/more", {}, status=200)
    article = next(one for one in found if one["kind"] == "article")
    post = api("POST", f"starters/{article['id']}/keep", {}, status=201)["post"]
    assert api("POST", f"starters/{article['id']}/keep", {}, status=201)["post"] == post
    assert Post.objects.get(pk=post).master["card"]["title"] == "On moss"
    assert count_blanks(Post.objects.get(pk=post).master["text"]) == 1
    topic = next(one for one in found if one["kind"] == "topic")
    api("POST", f"starters/{topic['id']}/discard", {"reason": "not_us"}, status=204)
    api("POST", f"starters/{topic['id']}/discard", {"reason": "not_us"}, status=409)
    api("POST", f"starters/{topic['id']}/keep", {}, status=409)
    ids = {one["id"] for one in api("POST", "starters/more", {}, status=200)}
    assert topic["id"] not in ids and article["id"] not in ids
    assert pointers(api("POST", f"starters/{article['id']}/discard", {"reason": "no"}, status=422)) == {"/reason"}


def test_what_did_well_is_proposed_in_other_words_with_its_picture_and_link(world, api, rich):
    now = timezone.now()
    for n, reactions in enumerate([10, 10, 10, 10, 10, 40]):
        text = f"The north wall of the garden holds {n + 3} kinds of moss, and all of them are awake today."
        post = Post.objects.create(
            brand=world.garden, master={"text": text, "link": "https://fernhollow.example/wall", "media": []}
        )
        sent = Delivery.objects.create(
            post=post,
            profile=world.profile,
            brand=world.garden,
            state="published",
            key=f"{n:032x}",
            due_at=now,
            published_at=now,
        )
        Reading.objects.create(
            delivery=sent,
            brand=world.garden,
            profile=world.profile,
            published_at=now - timedelta(days=n),
            read_at=now,
            reactions=reactions,
        )
    found = [one for one in starter_ideas(rich, now) if one.seed.kind is Kind.SUCCESS]
    assert [one.seed.topic for one in found] == [text]
    assert "2.7 times the usual" in found[0].why
    content = found[0].content
    assert content.text != text and "moss" in content.text and content.link == "https://fernhollow.example/wall"


def test_a_day_that_is_over_takes_its_starter_along(world, api, rich):
    Almanac.objects.filter(brand=rich).update(observances=True)
    now = timezone.now()
    kept = [one for one in starter_ideas(rich, now) if one.seed.kind is Kind.ALMANAC]
    assert kept and all(one.expires_on and one.expires_on > now.date() and one.content.text for one in kept)
    common = {"brand": rich, "kind": "almanac", "topic": "x", "why": "y", "master": {}, "created_at": now}
    Starter.objects.create(key="over", expires_on=now.date() - timedelta(days=2), **common)
    ahead = Starter.objects.create(key="ahead", expires_on=now.date() + timedelta(days=2), **common)
    supply_brand(rich)
    assert not Starter.objects.filter(key="over").exists() and Starter.objects.filter(pk=ahead.pk).exists()


def test_a_brand_whose_supply_breaks_stops_none_of_the_others(world, rich, monkeypatch):
    def breaks(brand, most=6):
        if brand == world.bakery:
            raise ValueError("as a mistake of ours would")
        return 3

    monkeypatch.setattr("menudo.starters.actions.supply_starters.supply_brand", breaks)
    assert supply_all() == 3 * (Brand.objects.count() - 1) and Brand.objects.count() > 1
