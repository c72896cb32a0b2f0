"""The Bench at the API: versions by network and profile, checks, mends, placeholders, link tags, wording, keeping."""

import json
from datetime import timedelta
from typing import Any

import psycopg
import pytest
from django.db import connection
from django.utils import timezone

from menudo.base import clock
from menudo.history.models import HistoryEvent
from menudo.insight.models import Reading
from menudo.library.models import LinkTags
from menudo.posts.actions.bin_post import empty_bin
from menudo.posts.models import Delivery, Post, Version
from menudo.profiles.models import Profile
from tests.server.conftest import picture, post_in
from tests.server.test_posts import pointers, tomorrow
from tests.standins import SITE


def profile(world, network: str, handle: str, **more) -> Profile:
    kind = {"vitrine": "business", "plaza": "page", "waypost": "location"}.get(network, "account")
    return Profile.objects.create(
        brand=world.garden,
        network=network,
        remote_id=handle,
        handle=handle,
        name=handle,
        kind=kind,
        state="by_hand",
        **more,
    )


def check(world, master: dict, versions=(), columns=({"network": "brisk"},), **more) -> list[dict]:
    return world.api()(
        "POST", "check", {"master": master, "versions": list(versions), "columns": list(columns), **more}, status=200
    )


def test_a_profile_split_off_has_a_version_of_its_own_beside_its_networks(world):
    other = profile(world, "brisk", "@talks")
    versions = [
        {"network": "brisk", "overrides": {"text": "For Brisk"}},
        {"network": "brisk", "profile": other.pk, "overrides": {"text": "For the talks"}},
    ]
    post = world.api()(
        "POST", "posts", post_in("Master", profiles=[world.profile.pk, other.pk], versions=versions), status=201
    )
    said = {d.profile_id: d.headline for d in Delivery.objects.filter(post_id=post["id"])}
    assert said == {world.profile.pk: "For Brisk", other.pk: "For the talks"}
    columns = [
        {"network": "brisk", "profiles": [world.profile.pk]},
        {"network": "brisk", "profile": other.pk, "profiles": [other.pk]},
    ]
    seen = check(world, {"text": "Master"}, versions, columns)
    assert [(c["profile"], c["proof"]["visible_text"]) for c in seen] == [
        (None, "For Brisk"),
        (other.pk, "For the talks"),
    ]
    # Back in its network's column: its version goes, also when it had nothing of its own.
    world.api()(
        "PUT",
        f"posts/{post['id']}",
        post_in("Master", profiles=[other.pk], versions=versions[:1]),
        post["revision"],
        200,
    )
    assert list(Version.objects.values_list("profile", flat=True)) == [None]


def test_a_version_of_anothers_profile_or_of_the_wrong_network_is_refused_at_its_field(world):
    photos = profile(world, "vitrine", "photos")
    for network, whose in (("brisk", world.foreign.pk), ("brisk", photos.pk), ("vitrine", 10**9)):
        versions = [{"network": network, "profile": whose, "overrides": {}}]
        assert pointers(world.api()("POST", "posts", post_in(versions=versions), status=422)) == {"/versions/0/profile"}
    twice = [{"network": "brisk", "overrides": {"text": "a"}}, {"network": "brisk", "overrides": {"text": "b"}}]
    assert pointers(world.api()("POST", "posts", post_in(versions=twice), status=422)) == {"/versions/1"}


def test_everything_of_a_version_comes_back_as_it_was_kept(world):
    moss = world.api().upload(picture()).json()["id"]
    shown = {
        str(moss): {
            "turn": 1,
            "crop": {"x": 0.1, "y": 0, "w": 0.5, "h": 1},
            "people": [{"who": "@teo", "x": 0.5, "y": 0.5}],
            "words": "Frost",
        }
    }
    own = {
        "form": "story",
        "shown": shown,
        "card": {"title": "T", "description": "D", "picture": moss},
        "first_comment": "#moss",
    }
    master = {
        "text": "Moss",
        "media": [moss],
        "link": "https://example.org",
        "first_comment": "",
        "shown": {str(moss): {"fit": True}},
    }
    post = world.api()(
        "POST", "posts", {"master": master, "versions": [{"network": "vitrine", "overrides": own}]}, status=201
    )
    kept = world.api()("GET", f"posts/{post['id']}", status=200)
    said = {k: v for k, v in kept["versions"][0]["overrides"].items() if v}
    assert {k: said[k] for k in ("form", "card", "first_comment")} == {
        k: own[k] for k in ("form", "card", "first_comment")
    }
    back = said["shown"][str(moss)]
    assert {k: v for k, v in back.items() if v is not None} == shown[str(moss)]
    assert kept["master"]["shown"][str(moss)]["fit"] is True


@pytest.mark.parametrize(
    ("master", "pointer"),
    [
        ({"shown": {"1000000": {"turn": 1}}}, "/master/shown/1000000"),
        ({"card": {"picture": 1000000}}, "/master/card/picture"),
        ({"card": {"title": "a\u0000b"}}, "/master/card/title"),
        ({"first_comment": "a\u0007"}, "/master/first_comment"),
        ({"link_tags": 1000000}, "/master/link_tags"),
        ({"shown": {"x": {}}}, "/master/shown/x/[key]"),
        ({"shown": {"1": {"turn": 4}}}, "/master/shown/1/turn"),
        ({"shown": {"1": {"crop": {"x": 0, "y": 0, "w": 0, "h": 1}}}}, "/master/shown/1/crop/w"),
    ],
)
def test_bad_input_is_told_at_its_field_and_nothing_is_kept(world, master, pointer):
    assert pointer in pointers(world.api()("POST", "posts", {"master": {"text": "Moss", **master}}, status=422))
    assert Post.objects.count() == 0


def test_placeholders_and_link_tags_are_filled_in_for_each_network_on_its_day(world):
    tags = LinkTags.objects.create(
        brand=world.garden, name="Usual", source="{network}", content="{profile}", term="{date}"
    )
    master = {
        "text": "{brand} on {day}, {date}: {link} {unknown}",
        "link": "https://example.org/a?x=1#f",
        "link_tags": tags.pk,
    }
    (seen,) = check(world, master, columns=[{"network": "brisk", "profiles": [world.profile.pk]}], day="2026-11-26")
    final = "https://example.org/a?x=1&utm_source=Brisk&utm_content=%40fernhollow&utm_term=2026-11-26#f"
    assert seen["proof"]["link"] == final
    assert seen["proof"]["visible_text"] == f"Fernhollow on Thursday, 26 November: {final} {{unknown}}"
    # A version that says 0 has none; one whose preset is gone goes out without.
    (plain,) = check(world, master, [{"network": "brisk", "overrides": {"link_tags": 0}}])
    assert plain["proof"]["link"] == master["link"]
    tags.delete()
    assert check(world, master)[0]["proof"]["link"] == master["link"]


def test_a_mend_changes_the_version_as_it_is_written_not_as_it_is_filled_in(world):
    text = "{brand}: " + "moss and more of it. " * 20
    asked = {"master": {"text": text}, "columns": [{"network": "brisk"}], "fix": "shorten", "field": "text"}
    own = world.api()("POST", "fix", asked, status=200)
    assert own["text"].startswith("{brand}: moss") and len(own["text"]) <= 300 and own["media"] is None
    assert pointers(world.api()("POST", "fix", {**asked, "fix": "crop"}, status=422)) == {"/fix"}
    assert pointers(world.api()("POST", "fix", {**asked, "columns": []}, status=422)) == {"/columns"}


def test_so_much_is_checked_at_a_time_and_no_more(world):
    master = {"text": "m" * 100_000}
    assert len(check(world, master, columns=[{"network": "brisk"}] * 10)) == 10
    asked = {"master": master, "versions": [], "columns": [{"network": "brisk"}] * 11}
    problem = world.api()("POST", "check", asked, status=422)
    assert pointers(problem) == {"/columns"} and "1,100,000 characters" in problem["detail"]


def test_a_mend_crops_for_one_column_and_the_check_sees_it(world):
    wide = world.api().upload(picture((1500, 600))).json()["id"]
    master, columns = {"text": "Moss", "media": [wide]}, [{"network": "vitrine"}]
    (before,) = check(world, master, columns=columns)
    (finding,) = [f for f in before["findings"] if f["rule"] == "shape"]
    assert finding["fixes"] == [{"fix": "crop", "label": "Crop to fit"}]
    own = world.api()(
        "POST", "fix", {"master": master, "columns": columns, "fix": "crop", "field": finding["field"]}, status=200
    )
    (after,) = check(world, master, [{"network": "vitrine", "overrides": own}], columns)
    assert after["fits"] and after["sizes"] == [{"asset": wide, "width": 1146, "height": 600}]


def test_what_a_small_profile_cannot_do_is_held_against_the_smallest(world):
    small, large = (
        profile(world, "vitrine", "small", followers=900),
        profile(world, "vitrine", "large", followers=20_000),
    )
    asset = world.api().upload(picture((900, 1600))).json()["id"]
    own = {"network": "vitrine", "overrides": {"form": "story"}}
    master = {"media": [asset], "link": "https://example.org"}
    both = check(world, master, [own], [{"network": "vitrine", "profiles": [small.pk, large.pk]}])
    one = check(world, master, [own], [{"network": "vitrine", "profiles": [large.pk]}])
    assert [f["rule"] for f in both[0]["findings"] if f["level"] == "stops"] == ["followers"] and one[0]["fits"]


def test_wording_help_proposes_shows_the_differences_and_changes_nothing(world):
    text = "We're counting moss. Lots of folks come along. " * 10
    found = world.api()("POST", "wording", {"task": "shorten", "text": text, "network": "brisk", "seed": 3}, status=200)
    assert 1 <= len(found) <= 3
    for proposal in found:
        assert len(proposal["text"]) <= 300
        assert "".join(s["text"] for s in proposal["segments"] if s["change"] != "new") == text
    assert found == world.api()(
        "POST", "wording", {"task": "shorten", "text": text, "network": "brisk", "seed": 3}, status=200
    )
    assert pointers(world.api()("POST", "wording", {"task": "vary", "text": " "}, status=422)) == {"/text"}
    assert Post.objects.count() == 0


def test_another_writer_is_plugged_in_by_setting(world, settings, monkeypatch):
    from menudo.posts import writing

    class Loud:
        def propose(self, wish, seed):
            return [f"{wish.text.upper()} {wish.voice.brand}"]

    monkeypatch.setattr(writing, "import_string", lambda path: Loud)
    writing.configured_writer.cache_clear()
    (found,) = world.api()("POST", "wording", {"task": "vary", "text": "moss"}, status=200)
    writing.configured_writer.cache_clear()
    assert found["text"] == "MOSS Fernhollow"


def test_hashtags_come_from_topics_the_past_and_what_rises(world, standin):
    standin.control("seed", {"rising": [{"network": "brisk", "tag": "glasshouse", "posts": 41}]})
    world.api()("PUT", "sheet", {"topics": ["moss"], "hashtags": ["fernhollow"]}, 0, 200)
    for n in range(2):
        post = Post.objects.create(brand=world.garden, master={"text": "x"})
        out = Delivery.objects.create(
            post=post,
            profile=world.profile,
            brand=world.garden,
            key=f"00000000-0000-4000-8000-00000000000{n}",
            state="published",
            due_at=timezone.now(),
            published_at=timezone.now(),
            sent_content={"text": "Old #wall", "first_comment": "#wall"},
        )
        earned = {"published_at": out.published_at, "read_at": out.published_at, "reactions": 20 + 20 * n}
        Reading.objects.create(delivery=out, brand=world.garden, profile=world.profile, **earned)
    found = world.api()("POST", "hashtags", {"text": "Moss on the glasshouse wall"}, status=200)
    why = {f["tag"]: " ".join(f["why"]) for f in found}
    assert "topic" in why["moss"] and "brand sheet" in why["fernhollow"]
    assert "2 published posts, 30 reactions each" in why["wall"] and "41 posts" in why["glasshouse"]


def test_a_network_that_does_not_answer_leaves_its_rising_tags_out(world, standin):
    standin.fault("down")
    assert world.api()("POST", "hashtags", {"text": "Moss"}, status=200) == []


def test_a_links_card_is_read_and_a_broken_picture_left_out(world, standin):
    pages = [
        {"slug": "moss", "title": "Moss week", "description": "Forty kinds."},
        {"slug": "gone", "title": "Gone", "description": "Words.", "broken": True},
    ]
    standin.control("seed", {"sites": [{**SITE, "pages": pages}]})
    card = world.api()("POST", "card", {"link": f"{standin.url}/site/fernhollow/read/moss"}, status=200)
    assert (
        card["card"]["title"] == "Moss week"
        and card["card"]["description"] == "Forty kinds."
        and card["site"] == SITE["title"]
    )
    assert world.api()("GET", f"assets/{card['card']['picture']}", status=200)["width"] == 1200
    broken = world.api()("POST", "card", {"link": f"{standin.url}/site/fernhollow/read/gone"}, status=200)["card"]
    assert broken == {"title": "Gone", "description": "Words.", "picture": None}
    assert pointers(world.api()("POST", "card", {"link": "http://127.0.0.1:1/"}, status=422)) == {"/link"}


def test_a_copy_keeps_wording_and_versions_and_its_times_only_when_wished(world):
    post = world.api()(
        "POST",
        "posts",
        post_in(profiles=[world.profile.pk], versions=[{"network": "brisk", "overrides": {"text": "B"}}], title="Moss"),
        status=201,
    )
    planned = world.api()(
        "POST", f"posts/{post['id']}/plan", {"when": {"kind": "at", "wall_time": tomorrow()}}, post["revision"], 200
    )
    plain = world.api("teo")("POST", f"posts/{post['id']}/duplicate", {}, status=201)
    assert plain["title"] == "Moss (copy)" and plain["versions"] == post["versions"] and plain["author"] == "Teo"
    assert [(d["state"], d["wall_time"]) for d in plain["deliveries"]] == [("unplanned", None)]
    timed = world.api()("POST", f"posts/{post['id']}/duplicate", {"times": True}, status=201)
    wall = planned["post"]["deliveries"][0]["wall_time"]
    assert [(d["state"], d["wall_time"]) for d in timed["deliveries"]] == [("unplanned", wall)]
    done = world.api()("POST", f"posts/{timed['id']}/plan", {"when": {"kind": "kept"}}, timed["revision"], 200)
    assert done["post"]["deliveries"][0]["state"] == "planned" and done["post"]["deliveries"][0]["wall_time"] == wall
    problem = world.api()("POST", f"posts/{plain['id']}/plan", {"when": {"kind": "kept"}}, plain["revision"], 422)
    assert pointers(problem) == {"/when"}


@pytest.mark.parametrize("offset", [timedelta(0), timedelta(hours=7), timedelta(hours=-7)])
def test_history_joins_what_one_person_types_and_leads_back_to_any_state(world, settings, offset):
    settings.CLOCK_OFFSET = offset
    post = world.api()("POST", "posts", post_in("One", profiles=[world.profile.pk]), status=201)
    for text in ("One two", "One two three"):
        post = world.api()(
            "PUT", f"posts/{post['id']}", post_in(text, profiles=[world.profile.pk]), post["revision"], 200
        )
    post = world.api("maud")(
        "PUT", f"posts/{post['id']}", post_in("Maud's", profiles=[world.profile.pk]), post["revision"], 200
    )
    past = world.api()("GET", f"posts/{post['id']}/history", status=200)
    assert [(e["actor"], e["state"]) for e in past] == [("Maud", True), ("Ines", True), ("Ines", True)]
    back = world.api()("POST", f"posts/{post['id']}/restore/{past[1]['id']}", {}, post["revision"], 200)
    assert back["master"]["text"] == "One two three" and back["revision"] == post["revision"] + 1
    world.api()("POST", f"posts/{post['id']}/restore/{past[2]['id']}", {}, post["revision"], 412)
    first = world.api()("POST", f"posts/{post['id']}/restore/{past[2]['id']}", {}, back["revision"], 200)
    assert first["master"]["text"] == "One"
    world.api()("POST", f"posts/{post['id']}/restore/{10**9}", {}, first["revision"], 404)


def test_going_back_leaves_labels_and_campaign_and_what_is_asked_because_of_them(world):
    """Labels decide who signs off: a way back in the wording must be no way past that."""
    api = world.api()
    label = api("POST", "labels", {"name": "Legal", "ink": "plum"}, status=201)["id"]
    campaign = {"name": "Moss week", "starts_on": "2026-12-01", "ends_on": "2026-12-31", "ink": "plum"}
    campaign = api("POST", "campaigns", campaign, status=201)["id"]
    rule = {"name": "What is legal", "labels": [label]}
    api("PUT", "sign-rules", {"needed": True, "signoff_on_move": False, "rules": [rule]}, status=200)
    more = {"profiles": [world.profile.pk], "labels": [label], "campaign": campaign}
    post = api("POST", "posts", post_in("One", **more), status=201)
    wall = (timezone.now() + timedelta(days=2)).strftime("%Y-%m-%dT12:00")
    plan = {"when": {"kind": "at", "wall_time": wall}}
    post = api("POST", f"posts/{post['id']}/plan", plan, post["revision"], 200)["post"]
    post = world.api("maud")("PUT", f"posts/{post['id']}", post_in("Two", **more), post["revision"], 200)
    (*_, first) = [e for e in api("GET", f"posts/{post['id']}/history", status=200) if e["state"]]
    back = api("POST", f"posts/{post['id']}/restore/{first['id']}", {}, post["revision"], 200)
    assert (back["master"]["text"], back["labels"], back["campaign"]) == ("One", [label], campaign)
    assert back["deliveries"][0]["state"] == "held"


def test_a_binned_post_waits_thirty_days_and_then_is_gone_for_good(world, monkeypatch):
    post = world.api()("POST", "posts", post_in("Old moss"), status=201)
    world.api()("DELETE", f"posts/{post['id']}", status=204)
    (row,) = world.api()("GET", "bin", status=200)
    assert row["headline"] == "Old moss" and row["purged_at"] > row["deleted_at"]
    assert empty_bin() == 0
    world.api()("POST", f"posts/{post['id']}/restore", status=200)
    assert world.api()("GET", "bin", status=200) == []
    world.api()("DELETE", f"posts/{post['id']}", status=204)
    now = clock.now()
    monkeypatch.setattr(clock, "now", lambda: now + timedelta(days=31))
    assert empty_bin() == 1 and not Post.objects.exists()
    assert HistoryEvent.objects.filter(verb="bin").count() == 2, "what happened is still told"


def test_two_people_at_one_post_see_each_other_until_one_leaves(world):
    post = world.api()("POST", "posts", post_in(), status=201)
    here = f"posts/{post['id']}/presence"
    assert world.api()("POST", here, status=200) == []
    assert [p["name"] for p in world.api("maud")("POST", here, status=200)] == ["Ines"]
    assert [p["name"] for p in world.api()("POST", here, status=200)] == ["Maud"]
    world.api("maud")("DELETE", here, status=204)
    assert world.api()("POST", here, status=200) == []


def test_places_are_found_by_name_and_code(world):
    found = world.api().client.get("/api/places?words=portu").json()
    assert found[0] == {"code": "PT", "name": "Portugal"}
    assert world.api().client.get("/api/places?codes=ES,XX").json() == [{"code": "ES", "name": "Spain"}]


@pytest.mark.parametrize(
    ("said", "full"),
    [
        # RFC 3986, 5.4.1 and 5.4.2, against the base http://a/b/c/d;p?q.
        ("g", "http://a/b/c/g"),
        ("./g", "http://a/b/c/g"),
        ("g/", "http://a/b/c/g/"),
        ("/g", "http://a/g"),
        ("//g", "http://g"),
        ("?y", "http://a/b/c/d;p?y"),
        ("g?y", "http://a/b/c/g?y"),
        ("#s", "http://a/b/c/d;p?q#s"),
        ("g#s", "http://a/b/c/g#s"),
        ("g?y#s", "http://a/b/c/g?y#s"),
        (";x", "http://a/b/c/;x"),
        ("g;x", "http://a/b/c/g;x"),
        ("", "http://a/b/c/d;p?q"),
        (".", "http://a/b/c/"),
        ("./", "http://a/b/c/"),
        ("..", "http://a/b/"),
        ("../", "http://a/b/"),
        ("../g", "http://a/b/g"),
        ("../..", "http://a/"),
        ("../../", "http://a/"),
        ("../../g", "http://a/g"),
        ("../../../g", "http://a/g"),
        ("/./g", "http://a/g"),
        ("/../g", "http://a/g"),
        ("g.", "http://a/b/c/g."),
        (".g", "http://a/b/c/.g"),
        ("./../g", "http://a/b/g"),
        ("g/./h", "http://a/b/c/g/h"),
        ("g;x=1/../y", "http://a/b/c/y"),
        ("g?y/../x", "http://a/b/c/g?y/../x"),
        ("g#s/../x", "http://a/b/c/g#s/../x"),
    ],
)
def test_a_cards_picture_is_where_its_page_says_it_is(said, full):
    from menudo.base.html import parse_html
    from menudo.posts.writing import picture_addresses

    page = parse_html("")
    assert picture_addresses(page, {"og:image": said}, "http://a/b/c/d;p?q") == ([full] if said else [])


def test_a_column_says_what_its_version_has_of_its_own_and_what_it_inherits(world):
    card = {"title": "Moss week", "description": "", "picture": None}
    master = {"text": "Moss", "link": "https://a.example/", "card": card, "first_comment": "More"}
    versions = [
        {"network": "brisk", "overrides": {"text": "Brisk's"}},
        {"network": "plaza", "overrides": {"link": "https://b.example/"}},
    ]
    brisk, plaza = check(world, master, versions, ({"network": "brisk"}, {"network": "plaza"}))
    assert [brisk["written"][part] for part in ("text", "link", "first_comment")] == [
        "Brisk's",
        "https://a.example/",
        "More",
    ]
    assert brisk["written"]["card"]["title"] == "Moss week"
    # A link of its own has another card.
    assert (plaza["written"]["text"], plaza["written"]["card"]) == ("Moss", None)


def test_a_new_post_goes_to_the_first_profile_for_which_something_can_be_planned(world):
    def default() -> list[int]:
        return [p["id"] for p in world.api()("GET", "profiles") if p["is_default"]]

    assert default() == [world.profile.pk]
    other = profile(world, "plaza", "@talks")
    world.profile.state = "disconnected"
    world.profile.save()
    assert default() == [other.pk]
    other.delete()
    assert default() == []


def heard_of(kind: str, act) -> list[dict]:
    """What every browser hears of a kind while it is done."""
    with psycopg.connect(
        connection.connection.info.dsn, password=connection.settings_dict["PASSWORD"], autocommit=True
    ) as line:
        told: list[str] = []
        line.add_notify_handler(lambda notice: told.append(notice.payload))
        line.execute("LISTEN menudo")
        act()
        line.execute("NOTIFY menudo, 'end'")
        while "end" not in told:
            line.execute("SELECT 1")
    heard = [json.loads(payload) for payload in told if payload != "end"]
    return [one for one in heard if one.get("kind") == kind]


def test_every_browser_hears_which_delivery_changed_of_which_post_and_profile_and_for_when(world):
    """Those that show neither needn't look again."""
    post = world.api()("POST", "posts", post_in("Moss", profiles=[world.profile.pk]), status=201)
    at = {"when": {"kind": "at", "wall_time": tomorrow()}}
    heard = heard_of("delivery", lambda: world.api()("POST", f"posts/{post['id']}/plan", at, post["revision"], 200))
    delivery = Delivery.objects.get()
    there = {
        "brand": world.garden.pk,
        "kind": "delivery",
        "id": delivery.pk,
        "post": post["id"],
        "profile": world.profile.pk,
    }
    assert heard == [{**there, "at": delivery.due_at.isoformat()}]
    # What stands on the calendar, called off, goes to the bin and comes out of it with its post.
    world.api()("POST", f"deliveries/{delivery.pk}/call-off", None, delivery.revision, 200)
    told = [{**there, "at": delivery.due_at.isoformat()}]
    assert heard_of("delivery", lambda: world.api()("DELETE", f"posts/{post['id']}", status=204)) == told
    assert heard_of("delivery", lambda: world.api()("POST", f"posts/{post['id']}/restore", status=200)) == told


def test_every_browser_hears_whether_a_post_that_changed_has_anything_on_the_calendar(world):
    """What shows the calendar's posts needn't look again while a draft is typed."""
    api = world.api()
    post = api("POST", "posts", post_in("Moss", profiles=[world.profile.pk]), status=201)

    def told(*asked: Any) -> bool | None:
        heard = heard_of("post", lambda: api(*asked))
        return heard[0].get("undated") if heard else None

    path = f"posts/{post['id']}"
    assert told("PUT", path, post_in("Fern", profiles=[world.profile.pk]), post["revision"], 200) is True
    revision = api("GET", path, status=200)["revision"]
    at = {"when": {"kind": "at", "wall_time": tomorrow()}}
    planned = api("POST", f"{path}/plan", at, revision, 200)
    revision = api("GET", path, status=200)["revision"]
    assert planned and told("PUT", path, post_in("Sedge", profiles=[world.profile.pk]), revision, 200) is False
    # Off the calendar: that was told of its delivery. What goes to the bin may have stood anywhere.
    [delivery] = Delivery.objects.all()
    assert told("POST", f"deliveries/{delivery.pk}/unschedule", None, delivery.revision, 200) is None
    assert told("DELETE", path) is False
