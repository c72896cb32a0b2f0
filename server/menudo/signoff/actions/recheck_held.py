"""Look again at what is held for sign-off: what it depends on may have changed where nobody looked (a label deleted, a
person who left)."""

from menudo.notices.failures import failure_boundary
from menudo.people.models import Brand
from menudo.posts.change.kernel import System
from menudo.posts.change.recheck_signoff import POSTS_AT_ONCE, recheck_signoff
from menudo.posts.models import Delivery
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState


def recheck_held() -> int:
    """Every post of which something is held for sign-off. How many deliveries stand otherwise than before."""
    held = Delivery.objects.filter(state=DeliveryState.HELD, held_for=Hold.SIGNOFF, post__deleted_at__isnull=True)
    changed = 0
    for brand in Brand.objects.filter(pk__in=held.values("brand_id")).order_by("pk"):
        with failure_boundary("look_again_at_signoff", f"brand {brand.pk}", brand.pk, "its sign-off"):
            posts = sorted({*held.filter(brand=brand).values_list("post_id", flat=True)})
            for start in range(0, len(posts), POSTS_AT_ONCE):
                changed += recheck_signoff(System(brand), posts[start : start + POSTS_AT_ONCE])
    return changed
