"""What was kept before an upgrade is whole after it."""

import uuid
from collections.abc import Generator, Iterator
from contextlib import contextmanager
from importlib import import_module

import pytest
from django.apps import apps
from django.apps.registry import Apps
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from menudo.feeds.actions.poll_feed import poll_feed
from menudo.labels.models import Label
from menudo.library.models import Asset, Use
from menudo.posts.models import Delivery, Post
from menudo.relays.actions.run_relay import run_due_relays
from menudo.relays.models import SeenItem, SourceItem
from tests.server.conftest import picture
from tests.server.relaying import relay, verdicts
from tests.server.test_feeds import item, put

# The migrations that gave models and fields the names they have now.
RENAMING = ("standard_names", "standard_model_names")
# What has come since, and isn't kept by going back.
LATER = ("code", "params")
# What the cases mend.
MENDED = {"Post", "Version", "SeenItem", "SourceItem", "Use"}
# What was kept; then, given the old models, what is done with them; then what is looked at.
Case = Generator[None, Apps, None]


@contextmanager
def with_old_names() -> Iterator[Apps]:
    """The database as it was before the renaming, with its models; afterwards it is migrated as far as it goes again."""
    executor = MigrationExecutor(connection)
    graph, ours = executor.loader.graph, {config.label for config in apps.get_app_configs() if "menudo" in config.name}
    renaming = [key for key in graph.nodes if key[0] in ours and key[1].endswith(RENAMING)]
    since = {key for node in renaming for key in graph.backwards_plan(node) if key[0] in ours}
    there = {
        app: max((n for a, n in graph.nodes if a == app and (a, n) not in since), default=None) for app, _ in since
    }
    try:
        executor.migrate(list(there.items()))
        kept = [(app, name) for app, name in there.items() if name is not None]
        yield executor.loader.project_state(kept).apps
    finally:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())


@pytest.fixture
def api(world):
    return world.api()


def rows() -> dict[str, list]:
    """Every row of every table of ours, as it stands in the database, but for what came after the renaming."""
    ours = [model for model in apps.get_models() if model.__module__.startswith("menudo.")]
    return {
        model.__name__: [
            {
                name: value
                for name, value in row.items()
                if model.__name__ not in ("HistoryEvent", "Notice") or name not in LATER
            }
            for row in model.objects.order_by("pk").values()
        ]
        for model in ours
    }


def posts_from_before_say_which_media_they_use(world) -> Case:
    mine, theirs = (world.api().upload(picture((640, 480 + n))).json()["id"] for n in range(2))
    post = Post.objects.create(brand=world.garden, title="Old", master={"text": "Old moss", "media": [mine, 10**9]})
    post.versions.create(network="brisk", overrides={"media": [theirs], "text": "Brisk's"})
    Post.objects.create(brand=world.garden, master={})
    module = import_module("menudo.posts.migrations.0004_note_uses")
    old = yield
    for _ in range(2):
        module.note_uses(old, None)
    yield
    found = {(u.asset_id, u.post_id, u.excerpt) for u in Use.objects.all()}
    assert found == {(mine, post.pk, "Old moss\nBrisk's"), (theirs, post.pk, "Old moss\nBrisk's")}
    assert "used in 1 post" in world.api()("POST", "media/bin", {"ids": [mine]}, status=409)["detail"]


def a_story_brought_in_before_opens_on_the_bench(world) -> Case:
    post = Post.objects.create(brand=world.garden, master={"text": "Moss", "form": "story"})
    Delivery.objects.create(post=post, profile=world.profile, brand=world.garden, key=uuid.uuid4())
    post.versions.create(network="plaza", overrides={"text": "Plaza's"})
    module = import_module("menudo.posts.migrations.0015_a_storys_form_in_its_versions")
    old = yield
    for _ in range(2):
        module.move_forms(old, None)
    yield
    versions = world.api()("GET", f"posts/{post.pk}", status=200)["versions"]
    assert {v["network"]: (v["overrides"]["form"], v["overrides"]["text"]) for v in versions} == {
        "brisk": ("story", None),
        "plaza": ("story", "Plaza's"),
    }


def what_was_carried_before_things_had_ids_is_not_carried_again(api, nursery, standin) -> Case:
    feed = api("POST", "feeds", {"address": put(standin, [item(1)])}, status=201)["id"]
    one = relay(api, f"f{feed}", nursery)
    put(standin, [item(2), item(1)])
    poll_feed(feed)
    assert run_due_relays() == 1
    # As it was kept then: by its address alone.
    address = "link:https://fernhollow.example/2"
    SourceItem.objects.filter(source=f"f{feed}").update(origin=address, addresses=[])
    SeenItem.objects.exclude(origin=address).delete()
    SeenItem.objects.update(source="")
    old = yield
    import_module("menudo.relays.migrations.0002_origin_by_id").name_by_id(old, None)
    yield
    assert {(h.origin, h.source) for h in SeenItem.objects.all()} == {
        (address, f"f{feed}"),
        (f"feed:{feed}:id:2", f"f{feed}"),
    }
    assert (run_due_relays(), verdicts(one)) == (0, ["fires"])


def names_were_changed_and_nothing_was_lost() -> Case:
    """Every row is as it was, but for those that the other cases mend meanwhile."""
    before = rows()
    assert sum(map(len, before.values())) > 30 and before["Firing"] and before["SeenItem"] and before["HistoryEvent"]
    old = yield
    legs = old.get_model("relays", "Leg").objects.all()
    assert [one.appeared.seen is not None for one in legs] == [True]
    # The database still keeps what is planned out of the bin.
    assert "binned" in bin_guard()
    yield
    after = rows()
    assert {name for name in before if after[name] != before[name]} == MENDED
    assert "deleted_at" in bin_guard()


def bin_guard() -> str:
    with connection.cursor() as cursor:
        cursor.execute("SELECT prosrc FROM pg_proc WHERE proname = 'menudo_delivery_in_bin'")
        return str(cursor.fetchone()[0])


def test_what_was_kept_is_whole_and_mended_after_the_way_back_and_forth(world, api, nursery, standin):
    """Each case keeps something, does something among the old names, and looks at it afterwards. The way takes long: one does."""
    cases = [
        posts_from_before_say_which_media_they_use(world),
        a_story_brought_in_before_opens_on_the_bench(world),
        what_was_carried_before_things_had_ids_is_not_carried_again(api, nursery, standin),
        names_were_changed_and_nothing_was_lost(),
    ]
    for case in cases:
        next(case)
    with with_old_names() as old:
        for case in reversed(cases):
            case.send(old)
    assert [next(case, "looked at") for case in reversed(cases)] == ["looked at"] * len(cases)


def test_what_media_were_labelled_with_becomes_the_brands_labels(world):
    first, second = (world.api().upload(picture((640, 480 + n))).json()["id"] for n in range(2))
    winter = Label.objects.create(brand=world.garden, name="Winter", ink="moss")
    executor = MigrationExecutor(connection)
    executor.migrate([("library", "0004_standard_names")])
    old = executor.loader.project_state([("library", "0004_standard_names")]).apps.get_model("library", "Asset")
    old.objects.filter(pk=first).update(labels=["winter", " ", "x" * 60])
    old.objects.filter(pk=second).update(labels=["WINTER"])
    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())
    labels = {asset.pk: [label.name for label in asset.labels.all()] for asset in Asset.objects.all()}
    assert labels == {first: ["Winter", "x" * 40], second: ["Winter"]}
    assert {label.pk for label in Asset.objects.get(pk=second).labels.all()} == {winter.pk}
