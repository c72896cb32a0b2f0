"""What was kept before an upgrade is whole after it."""

import importlib
import uuid

from django.apps import apps

from menudo.library.models import Use
from menudo.posts.models import Delivery, Post
from tests.server.conftest import picture


def test_posts_from_before_say_which_media_they_use(world):
    mine, theirs = (world.api().upload(picture((640, 480 + n))).json()["id"] for n in range(2))
    post = Post.objects.create(brand=world.garden, title="Old", master={"text": "Old moss", "media": [mine, 10**9]})
    post.versions.create(network="brisk", own={"media": [theirs], "text": "Brisk's"})
    Post.objects.create(brand=world.garden, master={})
    module = importlib.import_module("menudo.posts.migrations.0004_note_uses")
    for _ in range(2):
        module.note_uses(apps, None)
    found = {(u.asset_id, u.post_id, u.words) for u in Use.objects.all()}
    assert found == {(mine, post.pk, "Old moss\nBrisk's"), (theirs, post.pk, "Old moss\nBrisk's")}
    assert "used in 1 post" in world.api()("POST", "media/bin", {"ids": [mine]}, status=409)["detail"]


def test_a_story_brought_in_before_opens_on_the_bench(world):
    post = Post.objects.create(brand=world.garden, master={"text": "Moss", "form": "story"})
    Delivery.objects.create(post=post, profile=world.profile, brand=world.garden, key=uuid.uuid4())
    post.versions.create(network="plaza", own={"text": "Plaza's"})
    module = importlib.import_module("menudo.posts.migrations.0015_a_storys_form_in_its_versions")
    for _ in range(2):
        module.move_forms(apps, None)
    versions = world.api()("GET", f"posts/{post.pk}", status=200)["versions"]
    assert {v["network"]: (v["own"]["form"], v["own"]["text"]) for v in versions} == {
        "brisk": ("story", None), "plaza": ("story", "Plaza's"),
    }  # fmt: skip
