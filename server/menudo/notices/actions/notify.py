"""Tell people something, once: in the product, and by e-mail."""

from collections.abc import Iterable

from procrastinate.contrib.django import app

from menudo.base.live import tell
from menudo.notices.models import Notice


def notify(users: Iterable[int], brand: int | None, kind: str, key: str, words: str, path: str) -> int:
    """Keep a notice for each person who hasn't had it, and defer its mail; part of the caller's transaction. How many."""
    wanted = set(users)
    had = set(Notice.objects.filter(user_id__in=wanted, key=key).values_list("user_id", flat=True))
    rows = [
        Notice(user_id=user, brand_id=brand, kind=kind, key=key, words=words[:300], path=path)
        for user in sorted(wanted - had)
    ]
    # Two workers may tell the same thing at once: the constraint lets one of them.
    Notice.objects.bulk_create(rows, ignore_conflicts=True)
    fresh = Notice.objects.filter(user_id__in=wanted - had, key=key, mailed_at=None).values_list("pk", flat=True)
    for id in fresh:
        app.configure_task("mail_notice", queue="sweep").defer(notice=id)
    if rows and brand is not None:
        tell(brand, "notice", 0)
    return len(rows)
