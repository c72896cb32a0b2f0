"""Keep a starter as a draft, or throw it away and say why."""

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import ConflictError
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.save_post import create_draft
from menudo.posts.models import Post
from menudo.posts.serializers import load_content
from menudo.starters.actions.supply_starters import supply_brand
from menudo.starters.models import Starter
from menudo_core.networks.content import PostContent
from menudo_core.starters.choose import Reason


def keep_starter(context: BrandContext, starter_id: int) -> Post:
    """It becomes a draft of the person's own, to be finished on the Bench; never planned by itself. Raises NotFoundError, ConflictError."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        one = starter_of(context, starter_id)
        if one.state == Starter.State.KEPT and one.post is not None:
            return one.post
        if one.state != Starter.State.PROPOSED:
            raise ConflictError(say("starter.thrown_away"))
        content = PostContent(master=load_content(one.master))
        post = create_draft(context, content, (), say("draft.from_starter"))
        one.state, one.post, one.decided_by = Starter.State.KEPT, post, context.user
        one.save()
        supply_brand(context.brand)
    return post


def discard_starter(context: BrandContext, starter_id: int, reason: Reason) -> None:
    """It doesn't come back, and what comes follows from why. Raises NotFoundError, ConflictError."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        one = starter_of(context, starter_id)
        if one.state != Starter.State.PROPOSED:
            raise ConflictError(say("starter.answered"))
        one.state, one.reason, one.decided_by = Starter.State.THROWN, reason, context.user
        one.save()
        supply_brand(context.brand)
        publish_change(context.brand.pk, "starter", 0)


def starter_of(context: BrandContext, starter_id: int) -> Starter:
    """A starter of the brand, locked. Raises NotFoundError."""
    return first_or_404(
        Starter.objects.select_for_update(of=("self",), no_key=True)
        .select_related("post")
        .filter(brand=context.brand, pk=starter_id)
    )
