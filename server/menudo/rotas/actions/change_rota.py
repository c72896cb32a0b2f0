"""Take a rota and posts to be changed together."""

from collections.abc import Collection, Iterator
from contextlib import contextmanager

from django.db import transaction
from django.db.models import F

from menudo.base.live import tell
from menudo.base.rows import the_one
from menudo.people.here import Here
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.rotas.models import Rota


@contextmanager
def change_rota(place: Here, rota: Rota, posts: Collection[int] = (), binned: bool = False) -> Iterator[PostChange]:
    """The rota is locked before any post, as by whoever carries it out; its revision moves on. Raises NotFound where it is
    gone by now. `posts`, `binned`: see change_posts."""
    with transaction.atomic():
        the_one(Rota.objects.select_for_update().filter(pk=rota.pk))
        with change_posts(place, posts=posts, binned=binned) as change:
            yield change
        Rota.objects.filter(pk=rota.pk).update(revision=F("revision") + 1)
        tell(rota.brand_id, "rota", rota.pk)
