"""Look again at a large office's open posts after its rules of sign-off changed, piece by piece."""

from django.db import transaction

from menudo.notices.failures import failure_boundary
from menudo.people.models import Brand
from menudo.posts.change.kernel import System
from menudo.posts.change.locks import pass_gate
from menudo.posts.change.recheck_signoff import POSTS_AT_ONCE, recheck_signoff
from menudo.signoff.models import RulesRecheck
from menudo.signoff.open_posts import open_posts


def recheck_rules() -> int:
    """Of every brand whose rules changed: what is left of its open posts. How many deliveries stand otherwise than before."""
    changed = 0
    for brand in Brand.objects.filter(pk__in=RulesRecheck.objects.values("brand_id")).order_by("pk"):
        with failure_boundary("recheck_rules", f"brand {brand.pk}", brand.pk, "its sign-off"):
            changed += _recheck_brand(brand)
    return changed


def _recheck_brand(brand: Brand) -> int:
    changed, more = 0, True
    while more:
        with transaction.atomic():
            # Whoever changes the rules waits for this piece, and begins anew with all of them.
            pass_gate(brand.pk)
            left = RulesRecheck.objects.filter(brand=brand).first()
            if left is None:
                return changed
            piece = list(
                open_posts(brand.pk)
                .filter(pk__gt=left.after)
                .order_by("pk")
                .values_list("pk", flat=True)[:POSTS_AT_ONCE]
            )
            changed += recheck_signoff(System(brand), piece)
            more = len(piece) == POSTS_AT_ONCE
            if more:
                left.after = piece[-1]
                left.save(update_fields=["after"])
            else:
                left.delete()
    return changed
