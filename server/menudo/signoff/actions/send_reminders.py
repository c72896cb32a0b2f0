"""Say that an answer is late: to those who are asked and to those who plan, once for each due time."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.sentences import say
from menudo.notices.actions.notify import notify
from menudo.notices.failures import failure_boundary
from menudo.people.actions.notify_planners import notify_planners
from menudo.people.models import Brand
from menudo.posts.actions.watch import title_of
from menudo.posts.models import Delivery, Post
from menudo.posts.signoff_state import DeliverySignoff, signoffs_by_post
from menudo.signoff.signers import Signers
from menudo_core.signoff.agreement import SignoffState
from menudo_core.signoff.rules import answer_deadline
from menudo_core.signoff.states import DeliveryState

_AHEAD = timedelta(hours=720)


def send_reminders() -> int:
    """Every delivery whose answer was wanted by now and isn't there, while it isn't due yet. How many people were told."""
    count = 0
    for brand in Brand.objects.filter(needs_signoff=True, sign_rules__before_hours__isnull=False).distinct():
        with failure_boundary("remind_signers", f"brand {brand.pk}", brand.pk, "its sign-off"):
            count += _remind_brand(brand)
    return count


def _remind_brand(brand: Brand) -> int:
    now, count = clock.now(), 0
    held = Delivery.objects.filter(
        brand=brand,
        state=DeliveryState.HELD,
        signoff_state=SignoffState.WAITS,
        due_at__gt=now,
        due_at__lte=now + _AHEAD,
        post__deleted_at__isnull=True,
    )
    posts = list(Post.objects.filter(pk__in=held.values("post_id")).select_related("campaign"))
    for post in posts:
        post.brand = brand
    found = signoffs_by_post(brand, posts)
    for post in posts:
        late = [s for s in found[post.pk] if _is_late(s, now)]
        if late:
            count += _notify_late(brand, post, late)
    return count


def _is_late(one: DeliverySignoff, now) -> bool:  # type: ignore[no-untyped-def]
    until, due = answer_deadline(one.rules, one.delivery.due_at), one.delivery.due_at
    waits = one.status.state is SignoffState.WAITS and one.delivery.state == DeliveryState.HELD
    return waits and until is not None and due is not None and until <= now < due


def _notify_late(brand: Brand, post: Post, late: list[DeliverySignoff]) -> int:
    first = min(late, key=lambda s: s.delivery.due_at or clock.now())
    key = f"late:{post.pk}:{first.delivery.due_at}"
    asked = frozenset[str | None]().union(*(s.status.asked for s in late))
    with transaction.atomic():
        signers = Signers.for_brand(brand)
        late_one = say("sign.late", post=title_of(post))
        count = notify(signers.people(asked), brand.pk, "sign", key, late_one, f"/{brand.slug}/sign?post={post.pk}")
        waits = say("sign.still_waits", post=title_of(post), names=", ".join(signers.display_names(asked)))
        return count + notify_planners(brand, "missed", f"{key}:plan", waits, f"calendar?open={first.delivery.pk}")
