"""What relays carry from each kind of source: profiles, also what is posted elsewhere; feeds; labels; catalogues. All invented."""

import pytest
from django.core.cache import cache

from menudo.catalogue.models import Catalogue
from menudo.delivery.actions.send import send_due
from menudo.feeds.actions.poll_feed import poll_feed
from menudo.library.models import Asset
from menudo.posts.models import Post
from menudo.profiles.models import Profile
from menudo.relays.actions.run_relay import run_due_relays
from menudo.relays.models import Firing
from tests.server.relaying import published, relay, verdicts
from tests.server.test_feeds import item, put


@pytest.fixture
def api(world):
    cache.clear()
    return world.api()


def test_posts_made_at_the_network_itself_are_seen_and_carried_with_their_pictures(world, api, nursery, standin):
    standin.control("outside", {"network": "brisk", "uid": "fernhollow", "text": "Before", "ago": 3600})
    one = relay(api, f"p{world.profile.pk}", nursery)
    standin.control(
        "outside", {"network": "brisk", "uid": "fernhollow", "text": "Said on the phone", "pictures": ["#2f6b4a"]}
    )
    published(world, "Ours")
    cache.clear()
    assert run_due_relays() == 2
    post = Post.objects.get(firing__relay=one, master__text="Said on the phone")
    assert Asset.objects.get(pk=post.master["media"][0]).format == "jpeg"
    assert not Firing.objects.filter(relay=one, verdict="fires", item__data__text="Before").exists()
    # Our own that is out through the wire isn't taken for somebody else's.
    send_due()
    cache.clear()
    assert run_due_relays() == 0


def test_a_feeds_articles_go_out_with_link_card_and_categories(world, api, nursery, standin):
    feed = api("POST", "feeds", {"address": put(standin, [item(1)])}, status=201)["id"]
    one = relay(
        api, f"f{feed}", nursery, conditions={"tags": ["moss"]}, messages=[{"text": "{title}. {summary 12} {tags 1}"}]
    )
    put(
        standin,
        [
            item(3, "Ferns", tags=["ferns"]),
            item(2, "Moss", tags=["Moss"], summary="All about mosses of the valley"),
            item(1),
        ],
    )
    poll_feed(feed)
    assert run_due_relays() == 1 and sorted(verdicts(one)) == ["fires", "no_tag"]
    master = Post.objects.get(firing__relay=one).master
    assert master["text"] == "Moss. All about… #Moss" and master["link"].endswith("/2")
    assert master["card"]["title"] == "Moss"


def test_a_label_is_a_source_and_a_catalogues_event_brings_a_banner(world, api, nursery, standin):
    label = api("POST", "labels", {"name": "Evergreen", "ink": "moss"}, status=201)["id"]
    by_label = relay(api, f"l{label}", nursery)
    out = published(world, "Labelled")
    out.post.labels.add(label)
    published(world, "Not labelled")
    assert run_due_relays() == 1 and verdicts(by_label) == ["fires"]
    rows = lambda price: f"sku,name,price,image\nA1,Hellebore,{price},{moss}\n"  # noqa: E731
    moss = standin.control(
        "files", {"site": "fernhollow", "path": "h.jpg", "type": "image/jpeg", "picture": "#2f6b4a"}
    )["url"]
    sent = {"site": "fernhollow", "path": "plants.csv", "type": "text/csv"}
    address = standin.control("files", {**sent, "text": rows("12.50")})["url"]
    looked = api("POST", "catalogues/inspect", {"address": address}, status=200)
    made = api(
        "POST",
        "catalogues",
        {"name": "Nursery", "address": address, "mapping": looked["mapping"], "currency": "EUR"},
        status=201,
    )
    lowered = relay(api, f"c{made['id']}", nursery, event="lowered", confirmation="asks")
    standin.control("files", {**sent, "text": rows("9.90")})
    assert api("POST", f"catalogues/{made['id']}/read", {}, status=200)["events"] == 1
    assert run_due_relays() == 1
    (asked,) = api("GET", "relays/questions", status=200)
    assert (
        asked["text"] == "Hellebore is now € 9.90 (it was € 12.50)."
        and asked["firing"]["title"] == "Price lowered: Hellebore"
    )
    drawn = Asset.objects.get(pk=asked["media"][0])
    assert (drawn.format, drawn.width) == ("png", 1080) and "Price lowered, Hellebore, € 9.90" in drawn.alt
    api("POST", f"firings/{asked['firing']['id']}/answer", {"yes": True}, status=200)
    send_due()
    assert standin.posts("nursery")[-1]["body"]["media"] and verdicts(lowered) == ["fires"]
    assert Catalogue.objects.get().items.get().asset_id


def test_nothing_is_posted_twice_when_a_round_is_run_again_after_it_broke_off(world, api, nursery, monkeypatch):
    one = relay(api, f"p{world.profile.pk}", nursery)
    published(world, "Half done")
    monkeypatch.setattr("menudo.relays.actions.run_relay.plan_draft", _breaks)
    assert run_due_relays() == 0 and verdicts(one) == [] and not Post.objects.filter(firing__relay=one).exists()
    monkeypatch.undo()
    assert run_due_relays() == 1 and run_due_relays() == 0 and verdicts(one) == ["fires"]


def _breaks(*_args):
    raise RuntimeError("the machine was switched off")


def test_what_a_relay_carried_is_carried_on_by_others_and_ends(world, api, nursery, standin):
    third = Profile.objects.create(
        brand=world.garden,
        network="brisk",
        remote_id="fernhollow",
        site="x",
        handle="@third",
        name="Third",
        kind="account",
        connection=world.connection,
    )
    legs = [relay(api, f"p{a.pk}", b) for a, b in ((world.profile, nursery), (nursery, third), (third, world.profile))]
    published(world, "Round the valley")
    for _ in range(5):
        cache.clear()
        run_due_relays()
        send_due()
    assert [verdicts(one)[:1] for one in legs] == [["fires"], ["fires"], ["been_there"]]
    assert Firing.objects.filter(verdict="fires").count() == 2


def test_an_entry_whose_link_changes_is_carried_once_also_by_another_feed(world, api, nursery, standin):
    one = api("POST", "feeds", {"address": put(standin, [item(1)])}, status=201)["id"]
    carries = relay(api, f"f{one}", nursery)
    put(standin, [item(2), item(1)])
    poll_feed(one)
    assert run_due_relays() == 1
    # The same guid, another address: the same thing.
    moved = item(2, url="https://fernhollow.example/new/2")
    put(standin, [moved, item(1)])
    poll_feed(one)
    assert (run_due_relays(), verdicts(carries)) == (0, ["fires"])
    # Another feed has it by either address, with an id of its own.
    other = api("POST", "feeds", {"address": put(standin, [item(1)], "other.json")}, status=201)["id"]
    also = relay(api, f"f{other}", nursery)
    again = [{**item(2), "id": "x"}, {**moved, "id": "y"}]
    put(standin, [*again, item(1)], "other.json")
    poll_feed(other)
    assert (run_due_relays(), verdicts(also)) == (0, ["twice", "twice"])


def test_entries_of_one_feed_that_lead_to_one_address_are_as_many_things_as_the_feed_says(world, api, nursery, standin):
    feed = api("POST", "feeds", {"address": put(standin, [item(1)])}, status=201)["id"]
    one = relay(api, f"f{feed}", nursery)
    put(standin, [item(n, url="https://fernhollow.example/news") for n in (4, 3, 2)])
    poll_feed(feed)
    assert (run_due_relays(), verdicts(one)) == (3, ["fires"] * 3)
