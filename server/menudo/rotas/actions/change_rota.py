"""Take a rota and posts to be changed together."""

from collections.abc import Collection, Iterator
from contextlib import contextmanager

from django.db import transaction
from django.db.models import F

from menudo.base.live import publish_change
from menudo.base.rows import first_or_404
from menudo.people.context import BrandContext
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.rotas.models import Rota


@contextmanager
def change_rota(
    context: BrandContext, rota: Rota, posts: Collection[int] = (), binned: bool = False
) -> Iterator[PostChange]:
    """The rota is locked before any post, as by whoever carries it out; its revision moves on. Raises NotFoundError where it is
    gone by now. `posts`, `binned`: see change_posts."""
    with transaction.atomic():
        first_or_404(Rota.objects.select_for_update(no_key=True).filter(pk=rota.pk))
        with change_posts(context, posts=posts, binned=binned) as change:
            yield change
        Rota.objects.filter(pk=rota.pk).update(revision=F("revision") + 1)
        publish_change(rota.brand_id, "rota", rota.pk)
