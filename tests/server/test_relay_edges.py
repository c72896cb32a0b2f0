"""Where a relay stops, waits, is refused, or finds things otherwise than it left them. All numbers are invented."""

from datetime import timedelta

import pytest
from django.core.cache import cache
from django.utils import timezone

from menudo.base import clock
from menudo.feeds.actions.read_feed import read_feed
from menudo.labels.models import Label
from menudo.library.models import LinkTags
from menudo.notices.models import Notice
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.relays.actions import carry as carrying
from menudo.relays.actions.carry import carry, round_of_relays
from menudo.relays.actions.forget import forget
from menudo.relays.actions.keep import _MOST
from menudo.relays.gather import look_outside
from menudo.relays.models import Appeared, Leg, Relay
from tests.server.relaying import cell, published, relay, verdicts
from tests.server.test_feeds import item, put
from tests.server.test_posts import pointers


@pytest.fixture
def api(world):
    cache.clear()
    return world.api()


def mine(world) -> str:
    return f"p{world.profile.pk}"


def test_a_target_that_is_not_connected_gets_nothing_and_five_in_a_row_pause_it(world, api, nursery):
    one = relay(api, mine(world), nursery)
    nursery.state = Profile.State.RECONNECT
    nursery.save()
    for n in range(4):
        published(world, f"Moss {n}")
    assert round_of_relays() == 0
    one.refresh_from_db()
    assert verdicts(one) == ["stopped"] * 4 and one.fails == 4 and not one.paused
    assert "must be connected first" in one.legs.first().words
    # One that goes through begins the count anew.
    nursery.state = Profile.State.CONNECTED
    nursery.save()
    published(world, "Moss 4")
    assert round_of_relays() == 1
    one.refresh_from_db()
    assert one.fails == 0
    nursery.state = Profile.State.RECONNECT
    nursery.save()
    for n in range(5, 12):
        published(world, f"Moss {n}")
    round_of_relays()
    one.refresh_from_db()
    assert one.paused.startswith("5 things one after another") and verdicts(one).count("stopped") == 9
    assert carry(one.pk) == 0, "a paused relay carries nothing, whoever asks it to"
    assert Notice.objects.filter(words__contains="paused itself").count() == 1


def test_switched_off_in_the_middle_of_a_round_it_posts_nothing_more(world, api, nursery, monkeypatch):
    one = relay(api, mine(world), nursery)
    published(world, "While it was on")
    make = carrying.make

    def off_meanwhile(*args):
        made = make(*args)
        Relay.objects.filter(pk=one.pk).update(on=False)
        return made

    monkeypatch.setattr(carrying, "make", off_meanwhile)
    assert round_of_relays() == 0 and not Post.objects.filter(leg__relay=one).exists()
    assert verdicts(one) == [], "and it isn't noted as seen: switched on with it taken, it can be carried still"
    Relay.objects.filter(pk=one.pk).update(on=True)
    monkeypatch.setattr(carrying, "make", make)
    assert round_of_relays() == 1


def test_one_relay_that_breaks_stops_none_of_the_others(world, api, nursery, monkeypatch):
    third = Profile.objects.create(
        brand=world.garden, network="brisk", remote_id="third", handle="@third", name="Third", kind="account",
        connection=world.connection,
    )  # fmt: skip
    broken, sound = relay(api, mine(world), nursery), relay(api, mine(world), third)
    published(world, "To both")
    make = carrying.make

    def breaks(place, one, appeared):
        if one.pk == broken.pk:
            raise ValueError("as a mistake of ours would")
        return make(place, one, appeared)

    monkeypatch.setattr(carrying, "make", breaks)
    assert round_of_relays() == 1
    assert verdicts(broken) == [] and verdicts(sound) == ["fires"]
    # It is tried again; what goes on breaking pauses it, and is told.
    for _ in range(4):
        broken.refresh_from_db()
        assert not broken.paused
        round_of_relays()
    broken.refresh_from_db()
    assert "mistake" in broken.paused and Notice.objects.filter(words__contains="paused itself").count() == 1


def test_label_link_tags_and_fields_stand_in_what_is_made(world, api, nursery, standin):
    label = Label.objects.create(brand=world.garden, name="Carried", ink="moss")
    tags = LinkTags.objects.create(
        brand=world.garden, name="From relays", source="menudo", medium="relay", campaign="x"
    )
    feed = api("POST", "feeds", {"address": put(standin, [])}, status=201)["id"]
    one = relay(api, f"f{feed}", nursery, asks="goes", link_tags=tags.pk, messages=[{"text": "{title} by {author}"}])
    Relay.objects.filter(pk=one.pk).update(label=label)
    put(standin, [item(1, "A valley of mosses")])
    read_feed(feed)
    assert round_of_relays() == 1
    post = Post.objects.get(leg__relay=one)
    assert list(post.labels.values_list("name", flat=True)) == ["Carried"]
    assert post.master["link_tags"] == tags.pk and post.master["card"]["title"] == "A valley of mosses"
    # Link tags that are thrown away go from the relay too, and it carries on.
    tags.delete()
    one.refresh_from_db()
    assert one.link_tags is None


@pytest.mark.parametrize(("how", "least", "most"), [("at_once", -1, 1), ("after", 44, 46), ("slot", 59, 61)])
def test_when_it_goes(world, api, nursery, how, least, most):
    """Without a slot it goes in an hour: it doesn't wait for one that never comes."""
    nursery.slots.all().delete()
    one = relay(api, mine(world), nursery, how=how, minutes=45)
    published(world, "When does it go?")
    assert round_of_relays() == 1
    out = Delivery.objects.get(post__leg__relay=one)
    assert timedelta(minutes=least) < out.due_at - timezone.now() < timedelta(minutes=most)


def test_a_question_whose_draft_is_gone_or_cannot_go_out_says_so(world, api, nursery):
    one = relay(api, mine(world), nursery, asks="asks")
    for n in range(4):
        published(world, f"Question {n}")
    assert round_of_relays() == 4
    binned, planned, long, gone = one.legs.select_related("post").order_by("pk")
    Post.objects.filter(pk=binned.post_id).update(binned=timezone.now())
    Delivery.objects.filter(post=planned.post_id).update(state="planned", due_at=timezone.now() + timedelta(days=1))
    Post.objects.filter(pk=long.post_id).update(master={"text": "x" * 5000})
    Delivery.objects.filter(post=gone.post_id).delete()
    for leg, words in (
        (binned, "isn't there"),
        (planned, "planned by itself"),
        (long, "300"),
        (gone, "isn't for that"),
    ):
        problem = api("POST", f"legs/{leg.pk}/answer", {"yes": True}, status=409)
        assert words in problem["detail"]
        leg.refresh_from_db()
        assert leg.verdict == Leg.Asked.ASKED, "it may still be answered no"
    # No to one that was planned by hand meanwhile leaves it where it is.
    api("POST", f"legs/{planned.pk}/answer", {"yes": False}, status=200)
    assert Delivery.objects.get(post=planned.post_id).state == "planned"
    assert Post.objects.get(pk=planned.post_id).binned is None
    api("POST", f"legs/{long.pk}/draft", {}, status=200)
    api("POST", f"legs/{10**9}/answer", {"yes": True}, status=404)


def test_nothing_is_made_of_what_was_refused_or_of_used_up_messages(world, api, nursery):
    one = relay(
        api, mine(world), nursery, asks="tells", conditions={"words": ["moss"]}, messages=[{"text": "A", "times": 1}]
    )
    published(world, "Of ferns")
    published(world, "Of moss")
    round_of_relays()
    refused, told = one.legs.order_by("pk")
    assert (refused.verdict, told.verdict) == ("no_word", "told")
    assert "Nothing is to be made" in api("POST", f"legs/{refused.pk}/draft", {}, status=409)["detail"]
    one.refresh_from_db()
    Relay.objects.filter(pk=one.pk).update(used={str(one.messages[0]["id"]): 1})
    assert "used up" in api("POST", f"legs/{told.pk}/draft", {}, status=409)["detail"]


def test_more_settings_that_are_wrong_and_how_many_a_brand_may_have(world, api, nursery):
    strange = LinkTags.objects.create(brand=world.bakery, name="Not yours", source="x", medium="y", campaign="z")
    bad = cell(
        mine(world), nursery, link_tags=strange.pk, shape={"link_to": "{nosuch}"}, messages=[{"text": "fine\x00"}],
        goes_from="09:00", goes_until="09:00",
    )  # fmt: skip
    assert pointers(api("POST", "relays", bad, status=422)) == {
        "/link_tags", "/shape/link_to", "/messages/0/text", "/goes_until",
    }  # fmt: skip
    for key, event in ((mine(world), "new"), ("c1", ""), ("x1", ""), ("p0", "")):
        found = pointers(api("POST", "relays", cell(key, nursery, event=event), status=422))
        assert found == {"/source/key"}, key
    label = Label.objects.create(brand=world.garden, name="Many", ink="moss")
    Relay.objects.bulk_create(
        Relay(
            brand=world.garden, label=Label.objects.create(brand=world.garden, name=f"L{n}", ink="moss"), target=nursery
        )
        for n in range(_MOST)
    )
    problem = api("POST", "relays", cell(f"l{label.pk}", nursery), status=422)
    assert pointers(problem) == {"/target"} and str(_MOST) in problem["errors"][0]["detail"]


def test_its_cell_is_read_out_in_a_sentence(world, api, nursery):
    settings = {
        "conditions": {
            "has": ["picture", "link"], "words": ["moss", "fern"], "but": ["sold"], "tags": ["nursery"],
            "languages": ["en"], "hours": ["22:00", "06:30"],
        },
        "how": "after", "minutes": 90, "asks": "asks", "per_day": 2, "goes_from": "08:00", "goes_until": "20:00",
    }  # fmt: skip
    made = api("POST", "relays", cell(mine(world), nursery, **settings), status=201)
    assert made["words"] == (
        "Of what comes with a link and a picture, that says moss or fern, without sold, tagged nursery, in en, between 22:00 "
        "and 06:30: asks first, then goes out 90 minutes later (2 a day at most, from 08:00 until 20:00)."
    )
    plain = api("PUT", f"relays/{made['id']}", {"asks": "tells"}, made["revision"], 200)
    assert plain["words"] == "Of everything: only tells you."


def test_a_sample_says_of_each_why_it_would_not_go(world, api, nursery):
    for text in ("On moss", "On ferns", "On moss again, " + "x" * 400):
        published(world, text)
    settings = {
        "conditions": {"words": ["moss"]},
        "shape": {"adapts": False},
        "messages": [{"text": "{text}", "times": 1}],
    }
    found = api("POST", "relays/sample", cell(mine(world), nursery, **settings), status=200)
    by_title = {one["title"][:12]: one for one in found}
    assert by_title["On moss"]["fires"]
    assert "word" in by_title["On ferns"]["words"]
    assert by_title["On moss agai"]["words"].startswith(("It could not be posted", "All its messages"))
    assert sum(one["fires"] for one in found) == 1 and not Appeared.objects.exists()


def test_a_profile_that_cannot_be_asked_tells_nothing_and_is_asked_seldom(world, api, nursery, monkeypatch):
    assert look_outside(10**9) == 0
    Profile.objects.filter(pk=nursery.pk).update(state=Profile.State.RECONNECT)
    assert look_outside(nursery.pk) == 0
    Profile.objects.filter(pk=nursery.pk).update(state=Profile.State.CONNECTED)
    asked = []
    monkeypatch.setattr("menudo.networks.micropub.Micropub.posts", lambda *args: asked.append(1) or [])
    assert look_outside(nursery.pk) == 0 and asked == [], "it was asked for a moment ago"
    cache.clear()
    look_outside(nursery.pk)
    look_outside(nursery.pk)
    assert asked == [1]


def test_what_appeared_long_ago_is_forgotten_and_cannot_come_as_new(world, api, nursery, standin, settings):
    feed = api("POST", "feeds", {"address": put(standin, [])}, status=201)["id"]
    one = relay(api, f"f{feed}", nursery, asks="goes", conditions={"words": ["moss"]})
    put(standin, [item(1, "Of moss"), item(2, "Of ferns")])
    read_feed(feed)
    assert round_of_relays() == 1 and sorted(verdicts(one)) == ["fires", "no_word"]
    assert forget(clock.now() + timedelta(days=119)) == 0
    settings.CLOCK_OFFSET = timedelta(days=121)
    assert forget(clock.now()) == 1
    assert verdicts(one) == ["fires"], "what became a post stays, and where it has been"
    # Its article still stands in the feed, and the relay takes everything now: it is old all the same.
    Relay.objects.filter(pk=one.pk).update(conditions={})
    assert round_of_relays() == 0 and Appeared.objects.count() == 1
    # Something new goes as ever.
    put(standin, [item(1, "Of moss"), item(2, "Of ferns"), item(3, "Of lichen")])
    read_feed(feed)
    assert round_of_relays() == 1
