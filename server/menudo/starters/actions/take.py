"""Keep a starter as a draft, or throw it away and say why."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.rows import the_one
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.save import make_draft
from menudo.posts.models import Post
from menudo.posts.serializers import load_content
from menudo.starters.actions.supply import supply
from menudo.starters.models import Starter
from menudo_core.networks.content import PostContent
from menudo_core.starters.choose import Reason


def keep(place: Here, id: int) -> Post:
    """It becomes a draft of the person's own, to be finished on the Bench; never planned by itself. Raises NotFound, Conflict."""
    place.needs(May.WRITE)
    with transaction.atomic():
        one = starter_of(place, id)
        if one.state == Starter.State.KEPT and one.post is not None:
            return one.post
        if one.state != Starter.State.PROPOSED:
            raise Conflict("It was thrown away already.")
        content = PostContent(master=load_content(one.master))
        post = make_draft(place, content, (), "began a draft from a starter")
        one.state, one.post, one.by = Starter.State.KEPT, post, place.user
        one.save()
        supply(place.brand)
    return post


def throw(place: Here, id: int, reason: Reason) -> None:
    """It doesn't come back, and what comes follows from why. Raises NotFound, Conflict."""
    place.needs(May.WRITE)
    with transaction.atomic():
        one = starter_of(place, id)
        if one.state != Starter.State.PROPOSED:
            raise Conflict("It was kept or thrown away already.")
        one.state, one.reason, one.by = Starter.State.THROWN, reason, place.user
        one.save()
        supply(place.brand)
        tell(place.brand.pk, "starter", 0)


def starter_of(place: Here, id: int) -> Starter:
    """A starter of the brand, locked. Raises NotFound."""
    return the_one(
        Starter.objects.select_for_update(of=("self",)).select_related("post").filter(brand=place.brand, pk=id)
    )
