"""What was kept before an upgrade is whole after it."""

import importlib

from django.apps import apps

from menudo.library.models import Use
from menudo.posts.models import Post
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
