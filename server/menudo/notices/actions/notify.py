"""Tell people something, once: in the product, and outside it the way each wishes."""

from collections.abc import Iterable

from procrastinate.contrib.django import app

from menudo.base import clock
from menudo.base.clock import for_the_engine
from menudo.base.live import tell
from menudo.notices.models import Notice
from menudo.notices.wishes import wishes_of
from menudo_core.notices.when import Way, send_at


def notify(users: Iterable[int], brand: int | None, kind: str, key: str, words: str, path: str) -> int:
    """Keep a notice for each person who hasn't had it, and defer its mail or text message; part of the caller's
    transaction. How many were told."""
    wanted = set(users)
    had = set(Notice.objects.filter(user_id__in=wanted, key=key).values_list("user_id", flat=True))
    fresh = sorted(wanted - had)
    if not fresh:
        return 0
    wishes = wishes_of(fresh)
    rows = [
        Notice(
            user_id=user, brand_id=brand, kind=kind, key=key, words=words[:300], path=path, way=wishes[user].way(kind)
        )
        for user in fresh
    ]  # fmt: skip
    # Two workers may tell the same thing at once: the constraint lets one of them.
    Notice.objects.bulk_create(rows, ignore_conflicts=True)
    now = clock.now()
    for id, user, way in Notice.objects.filter(user_id__in=fresh, key=key, mailed_at=None).values_list(
        "pk", "user_id", "way"
    ):
        if way not in (Way.NOW, Way.TEXT):
            continue
        at = send_at(now, wishes[user].zone, wishes[user].quiet)
        later = for_the_engine(at) if at > now else None
        app.configure_task("mail_notice", queue="sweep", schedule_at=later).defer(notice=id)
    if brand is not None:
        tell(brand, "notice", 0)
    return len(rows)
