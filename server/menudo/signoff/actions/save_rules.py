"""Keep a brand's rules of sign-off."""

from django.db import transaction

from menudo.base.engine import enqueue
from menudo.base.live import publish_change
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Brand
from menudo.posts.change.locks import shut_gate
from menudo.posts.change.recheck_signoff import POSTS_AT_ONCE, recheck_signoff
from menudo.signoff.models import RulesRecheck, SignRule
from menudo.signoff.open_posts import open_posts, posts_due_first
from menudo.signoff.rules_in import build_rules
from menudo.signoff.schemas import RulesIn

# The periodic task that runs recheck_rules.
RECHECK = "recheck_rules"


def save_rules(context: BrandContext, data: RulesIn) -> list[SignRule]:
    """The whole list, as it is from now on, and whether sign-off is needed at all. What is open is looked at again: it
    may be held now, or go. Raises InvalidError, with each fault at its rule.

    A large office's posts are looked at in pieces (`recheck_rules`), those that are due first at once, so that nobody who plans waits for all
    of it. Meanwhile nothing goes out against the rules: sending looks at them itself.
    """
    context.require(Capability.MANAGE_PEOPLE)
    rules = build_rules(context, data)
    with transaction.atomic():
        shut_gate([context.brand.pk])
        brand = Brand.objects.select_for_update(no_key=True).get(pk=context.brand.pk)
        brand.needs_signoff, brand.signoff_on_move = data.needed, data.signoff_on_move
        brand.earlier_signoff_counts = data.earlier_signoff_counts
        brand.save(update_fields=["needs_signoff", "signoff_on_move", "earlier_signoff_counts"])
        SignRule.objects.filter(brand=brand).delete()
        rows = SignRule.objects.bulk_create(rules)
        recheck_signoff(context, posts_due_first(brand.pk, POSTS_AT_ONCE))
        RulesRecheck.objects.filter(brand=brand).delete()
        if open_posts(brand.pk).count() > POSTS_AT_ONCE:
            RulesRecheck.objects.create(brand=brand)
            enqueue(RECHECK)
        record_event(
            brand.pk,
            context.actor,
            "rules",
            "brand",
            brand.pk,
            say("rules.changed", count=len(rows)) if data.needed else say("rules.ended"),
        )
        publish_change(brand.pk, "brand", brand.pk)
        publish_change(brand.pk, "post", 0)
    return rows
