"""Say that an answer is late: to those who are asked and to those who plan, once for each due time."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.notices.actions.notify import notify
from menudo.notices.mishaps import boundary
from menudo.people.actions.tell_planners import tell_planners
from menudo.people.models import Brand
from menudo.posts.actions.watch import called
from menudo.posts.models import Delivery, Post
from menudo.posts.signing import Signing, signings
from menudo.signoff.signers import Signers
from menudo_core.signoff.agreement import Sign
from menudo_core.signoff.rules import wanted_by
from menudo_core.signoff.states import DeliveryState

_AHEAD = timedelta(hours=720)


def remind() -> int:
    """Every delivery whose answer was wanted by now and isn't there, while it isn't due yet. How many people were told."""
    told = 0
    for brand in Brand.objects.filter(needs_signoff=True, sign_rules__before_hours__isnull=False).distinct():
        with boundary("remind_signers", f"brand {brand.pk}", brand.pk, "its sign-off"):
            told += _remind(brand)
    return told


def _remind(brand: Brand) -> int:
    now, told = clock.now(), 0
    held = Delivery.objects.filter(
        brand=brand, state=DeliveryState.HELD, signing=Sign.WAITS, due_at__gt=now, due_at__lte=now + _AHEAD,
        post__binned__isnull=True,
    )  # fmt: skip
    posts = list(Post.objects.filter(pk__in=held.values("post_id")).select_related("campaign"))
    for post in posts:
        post.brand = brand
    found = signings(brand, posts)
    for post in posts:
        late = [s for s in found[post.pk] if _late(s, now)]
        if late:
            told += _tell(brand, post, late)
    return told


def _late(one: Signing, now) -> bool:  # type: ignore[no-untyped-def]
    until, due = wanted_by(one.rules, one.delivery.due_at), one.delivery.due_at
    waits = one.standing.sign is Sign.WAITS and one.delivery.state == DeliveryState.HELD
    return waits and until is not None and due is not None and until <= now < due


def _tell(brand: Brand, post: Post, late: list[Signing]) -> int:
    first = min(late, key=lambda s: s.delivery.due_at or clock.now())
    key = f"late:{post.pk}:{first.delivery.due_at}"
    asked = frozenset[str | None]().union(*(s.standing.asked for s in late))
    with transaction.atomic():
        signers = Signers.of(brand)
        words = f"{called(post)} should have been signed off by now, and goes nowhere until it is"
        told = notify(signers.people(asked), brand.pk, "sign", key, words, f"/{brand.slug}/sign?post={post.pk}")
        waits = f"{called(post)} still waits for {', '.join(signers.called(asked))}"
        return told + tell_planners(brand, "missed", f"{key}:plan", waits, f"calendar?open={first.delivery.pk}")
