"""Where a relay stops, waits, is refused, or finds things otherwise than it left them. All numbers are invented."""

from datetime import timedelta

import pytest
from django.core.cache import cache
from django.utils import timezone

from menudo.base import clock
from menudo.feeds.actions.poll_feed import poll_feed
from menudo.labels.models import Label
from menudo.library.models import LinkTags
from menudo.notices.models import Notice
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.relays.actions import run_relay as carrying
from menudo.relays.actions.delete_old_items import delete_old_items
from menudo.relays.actions.poll_sources import poll_remote_profile
from menudo.relays.actions.run_relay import run_due_relays, run_relay
from menudo.relays.actions.save_relay import _MOST
from menudo.relays.models import Firing, Relay, SourceItem
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
    assert run_due_relays() == 0
    one.refresh_from_db()
    assert verdicts(one) == ["stopped"] * 4 and one.failure_count == 4 and not one.paused_reason
    assert "must be connected first" in one.firings.first().explanation
    # One that goes through begins the count anew.
    nursery.state = Profile.State.CONNECTED
    nursery.save()
    published(world, "Moss 4")
    assert run_due_relays() == 1
    one.refresh_from_db()
    assert one.failure_count == 0
    nursery.state = Profile.State.RECONNECT
    nursery.save()
    for n in range(5, 12):
        published(world, f"Moss {n}")
    run_due_relays()
    one.refresh_from_db()
    assert one.paused_reason.startswith("5 things one after another") and verdicts(one).count("stopped") == 9
    assert run_relay(one.pk) == 0, "a paused relay carries nothing, whoever asks it to"
    assert Notice.objects.filter(summary__contains="paused itself").count() == 1


def test_switched_off_in_the_middle_of_a_round_it_posts_nothing_more(world, api, nursery, monkeypatch):
    one = relay(api, mine(world), nursery)
    published(world, "While it was on")
    make = carrying.prepare_item

    def off_meanwhile(*args):
        made = make(*args)
        Relay.objects.filter(pk=one.pk).update(active=False)
        return made

    monkeypatch.setattr(carrying, "prepare_item", off_meanwhile)
    assert run_due_relays() == 0 and not Post.objects.filter(firing__relay=one).exists()
    assert verdicts(one) == [], "and it isn't noted as seen: switched on with it taken, it can be carried still"
    Relay.objects.filter(pk=one.pk).update(active=True)
    monkeypatch.setattr(carrying, "prepare_item", make)
    assert run_due_relays() == 1


def test_one_relay_that_breaks_stops_none_of_the_others(world, api, nursery, monkeypatch):
    third = Profile.objects.create(
        brand=world.garden,
        network="brisk",
        remote_id="third",
        handle="@third",
        name="Third",
        kind="account",
        connection=world.connection,
    )
    broken, sound = relay(api, mine(world), nursery), relay(api, mine(world), third)
    published(world, "To both")
    make = carrying.prepare_item

    def breaks(place, one, appeared):
        if one.pk == broken.pk:
            raise ValueError("as a mistake of ours would")
        return make(place, one, appeared)

    monkeypatch.setattr(carrying, "prepare_item", breaks)
    assert run_due_relays() == 1
    assert verdicts(broken) == [] and verdicts(sound) == ["fires"]
    # It is tried again; what goes on breaking pauses it, and is told.
    for _ in range(4):
        broken.refresh_from_db()
        assert not broken.paused_reason
        run_due_relays()
    broken.refresh_from_db()
    assert "mistake" in broken.paused_reason and Notice.objects.filter(summary__contains="paused itself").count() == 1


def test_label_link_tags_and_fields_stand_in_what_is_made(world, api, nursery, standin):
    label = Label.objects.create(brand=world.garden, name="Carried", ink="moss")
    tags = LinkTags.objects.create(
        brand=world.garden, name="From relays", source="menudo", medium="relay", campaign="x"
    )
    feed = api("POST", "feeds", {"address": put(standin, [])}, status=201)["id"]
    one = relay(
        api, f"f{feed}", nursery, confirmation="goes", link_tags=tags.pk, messages=[{"text": "{title} by {author}"}]
    )
    Relay.objects.filter(pk=one.pk).update(label=label)
    put(standin, [item(1, "A valley of mosses")])
    poll_feed(feed)
    assert run_due_relays() == 1
    post = Post.objects.get(firing__relay=one)
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
    one = relay(api, mine(world), nursery, timing=how, delay_minutes=45)
    published(world, "When does it go?")
    assert run_due_relays() == 1
    out = Delivery.objects.get(post__firing__relay=one)
    assert timedelta(minutes=least) < out.due_at - timezone.now() < timedelta(minutes=most)


def test_a_question_whose_draft_is_gone_or_cannot_go_out_says_so(world, api, nursery):
    one = relay(api, mine(world), nursery, confirmation="asks")
    for n in range(4):
        published(world, f"Question {n}")
    assert run_due_relays() == 4
    binned, planned, long, gone = one.firings.select_related("post").order_by("pk")
    Post.objects.filter(pk=binned.post_id).update(deleted_at=timezone.now())
    Delivery.objects.filter(post=planned.post_id).update(state="planned", due_at=timezone.now() + timedelta(days=1))
    Post.objects.filter(pk=long.post_id).update(master={"text": "x" * 5000})
    Delivery.objects.filter(post=gone.post_id).delete()
    for leg, words in (
        (binned, "isn't there"),
        (planned, "planned by itself"),
        (long, "300"),
        (gone, "isn't for that"),
    ):
        problem = api("POST", f"firings/{leg.pk}/answer", {"yes": True}, status=409)
        assert words in problem["detail"]
        leg.refresh_from_db()
        assert leg.verdict == Firing.Asked.ASKED, "it may still be answered no"
    # No to one that was planned by hand meanwhile leaves it where it is.
    api("POST", f"firings/{planned.pk}/answer", {"yes": False}, status=200)
    assert Delivery.objects.get(post=planned.post_id).state == "planned"
    assert Post.objects.get(pk=planned.post_id).deleted_at is None
    api("POST", f"firings/{long.pk}/draft", {}, status=200)
    api("POST", f"firings/{10**9}/answer", {"yes": True}, status=404)


def test_nothing_is_made_of_what_was_refused_or_of_used_up_messages(world, api, nursery):
    one = relay(
        api,
        mine(world),
        nursery,
        confirmation="tells",
        conditions={"words": ["moss"]},
        messages=[{"text": "A", "times": 1}],
    )
    published(world, "Of ferns")
    published(world, "Of moss")
    run_due_relays()
    refused, told = one.firings.order_by("pk")
    assert (refused.verdict, told.verdict) == ("no_word", "told")
    assert "Nothing is to be made" in api("POST", f"firings/{refused.pk}/draft", {}, status=409)["detail"]
    one.refresh_from_db()
    Relay.objects.filter(pk=one.pk).update(message_counts={str(one.messages[0]["id"]): 1})
    assert "used up" in api("POST", f"firings/{told.pk}/draft", {}, status=409)["detail"]


def test_more_settings_that_are_wrong_and_how_many_a_brand_may_have(world, api, nursery):
    strange = LinkTags.objects.create(brand=world.bakery, name="Not yours", source="x", medium="y", campaign="z")
    bad = cell(
        mine(world),
        nursery,
        link_tags=strange.pk,
        adaptation={"link_to": "{nosuch}"},
        messages=[{"text": "fine\x00"}],
        hours_from="09:00",
        hours_until="09:00",
    )
    assert pointers(api("POST", "relays", bad, status=422)) == {
        "/link_tags",
        "/adaptation/link_to",
        "/messages/0/text",
        "/hours_until",
    }
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
            "has": ["picture", "link"],
            "words": ["moss", "fern"],
            "but": ["sold"],
            "tags": ["nursery"],
            "languages": ["en"],
            "hours": ["22:00", "06:30"],
        },
        "timing": "after",
        "delay_minutes": 90,
        "confirmation": "asks",
        "daily_limit": 2,
        "hours_from": "08:00",
        "hours_until": "20:00",
    }
    made = api("POST", "relays", cell(mine(world), nursery, **settings), status=201)
    assert made["summary"] == (
        "Of what comes with a link and a picture, that says moss or fern, without sold, tagged nursery, in en, between 22:00 "
        "and 06:30: asks first, then goes out 90 minutes later (2 a day at most, from 08:00 until 20:00)."
    )
    plain = api("PUT", f"relays/{made['id']}", {"confirmation": "tells"}, made["revision"], 200)
    assert plain["summary"] == "Of everything: only tells you."


def test_a_sample_says_of_each_why_it_would_not_go(world, api, nursery):
    for text in ("On moss", "On ferns", "On moss again, " + "x" * 400):
        published(world, text)
    settings = {
        "conditions": {"words": ["moss"]},
        "adaptation": {"adapts": False},
        "messages": [{"text": "{text}", "times": 1}],
    }
    found = api("POST", "relays/sample", cell(mine(world), nursery, **settings), status=200)
    by_title = {one["title"][:12]: one for one in found}
    assert by_title["On moss"]["fires"]
    assert "word" in by_title["On ferns"]["reason"]
    assert by_title["On moss agai"]["reason"].startswith(("It could not be posted", "All its messages"))
    assert sum(one["fires"] for one in found) == 1 and not SourceItem.objects.exists()


def test_a_profile_that_cannot_be_asked_tells_nothing_and_is_asked_seldom(world, api, nursery, monkeypatch):
    assert poll_remote_profile(10**9) == 0
    Profile.objects.filter(pk=nursery.pk).update(state=Profile.State.RECONNECT)
    assert poll_remote_profile(nursery.pk) == 0
    Profile.objects.filter(pk=nursery.pk).update(state=Profile.State.CONNECTED)
    asked = []
    monkeypatch.setattr("menudo.networks.micropub.Micropub.posts", lambda *args: asked.append(1) or [])
    assert poll_remote_profile(nursery.pk) == 0 and asked == [], "it was asked for a moment ago"
    cache.clear()
    poll_remote_profile(nursery.pk)
    poll_remote_profile(nursery.pk)
    assert asked == [1]


def test_what_appeared_long_ago_is_forgotten_and_cannot_come_as_new(world, api, nursery, standin, settings):
    feed = api("POST", "feeds", {"address": put(standin, [])}, status=201)["id"]
    one = relay(api, f"f{feed}", nursery, confirmation="goes", conditions={"words": ["moss"]})
    put(standin, [item(1, "Of moss"), item(2, "Of ferns")])
    poll_feed(feed)
    assert run_due_relays() == 1 and sorted(verdicts(one)) == ["fires", "no_word"]
    assert delete_old_items(clock.now() + timedelta(days=119)) == 0
    settings.CLOCK_OFFSET = timedelta(days=121)
    assert delete_old_items(clock.now()) == 1
    assert verdicts(one) == ["fires"], "what became a post stays, and where it has been"
    # Its article still stands in the feed, and the relay takes everything now: it is old all the same.
    Relay.objects.filter(pk=one.pk).update(conditions={})
    assert run_due_relays() == 0 and SourceItem.objects.count() == 1
    # Something new goes as ever.
    put(standin, [item(1, "Of moss"), item(2, "Of ferns"), item(3, "Of lichen")])
    poll_feed(feed)
    assert run_due_relays() == 1
