"""What rules of sign-off would do to what is planned."""

import copy

from menudo.base import clock
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.holds import refresh_holds
from menudo.posts.models import Delivery, Post
from menudo.posts.rendering import PostRenderer
from menudo.posts.signoff_state import load_rule, signoffs_of
from menudo.profiles.pauses import pauses_of
from menudo.signoff.open_posts import open_posts, posts_due_first
from menudo.signoff.rules_in import build_rules
from menudo.signoff.schemas import RulesEffect, RulesIn
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState

# Half a second's work.
_MOST = 1000


def simulate_rules(context: BrandContext, data: RulesIn) -> RulesEffect:
    """What keeping the rules would do to the posts that are due first. Nothing is written, and nobody waits for it. Raises InvalidError as
    keeping does."""
    context.require(Capability.MANAGE_PEOPLE)
    brand = copy.copy(context.brand)
    brand.needs_signoff, brand.signoff_on_move = data.needed, data.signoff_on_move
    brand.earlier_signoff_counts = data.earlier_signoff_counts
    rules = [load_rule(row) for row in build_rules(context, data)] if data.needed else []
    posts = {
        row.pk: row for row in Post.objects.filter(pk__in=posts_due_first(brand.pk, _MOST)).select_related("campaign")
    }
    rows = list(
        Delivery.objects.filter(post__in=posts)
        .defer("sent_content", "attempted_content")
        .prefetch_related("profile")
        .order_by("pk")
    )
    before = _waiting(rows)
    for signings in signoffs_of(brand, posts, rows, PostRenderer.for_posts(brand, posts.values()), rules).values():
        for one in signings:
            one.delivery.signoff_state = one.status.state
    refresh_holds(rows, pauses_of([brand.pk]), clock.now())
    after = _waiting(rows)
    more = len(posts) == _MOST and open_posts(brand.pk).count() > _MOST
    return RulesEffect(held=len(after - before), free=len(before - after), posts=_MOST if more else None)


def _waiting(rows: list[Delivery]) -> set[int]:
    return {row.pk for row in rows if row.state == DeliveryState.HELD and row.held_for == Hold.SIGNOFF}
