"""Tell people something, once: in the product, and outside it the way each wishes."""

from collections.abc import Iterable

from menudo.base import clock
from menudo.base.engine import defer_job
from menudo.base.live import publish_change
from menudo.base.sentences import Sentence, render
from menudo.notices.models import Notice
from menudo.notices.preferences import preferences_of
from menudo.notices.sentences import SENTENCES
from menudo.notices.serializers import store_params
from menudo_core.notices.timing import Channel, send_at


def notify(users: Iterable[int], brand: int | None, kind: str, key: str, sentence: Sentence, path: str) -> int:
    """Keep a notice for each person who hasn't had it, and defer its mail or text message; part of the caller's
    transaction. How many were told."""
    wanted = set(users)
    already_told = set(Notice.objects.filter(user_id__in=wanted, key=key).values_list("user_id", flat=True))
    fresh = sorted(wanted - already_told)
    if not fresh:
        return 0
    wishes = preferences_of(fresh)
    words = render(SENTENCES, sentence)[:300]
    rows = [
        Notice(
            user_id=user,
            brand_id=brand,
            kind=kind,
            key=key,
            code=sentence.code,
            params=store_params(sentence),
            summary=words,
            path=path,
            channel=wishes[user].channel(kind),
        )
        for user in fresh
    ]
    # Two workers may tell the same thing at once: the constraint lets one of them.
    Notice.objects.bulk_create(rows, ignore_conflicts=True)
    now = clock.now()
    for notice_id, user, way in Notice.objects.filter(user_id__in=fresh, key=key, mailed_at=None).values_list(
        "pk", "user_id", "channel"
    ):
        if way not in (Channel.NOW, Channel.TEXT):
            continue
        at = send_at(now, wishes[user].zone, wishes[user].quiet)
        defer_job("mail_notice", "sweep", at if at > now else None, notice=notice_id)
    if brand is not None:
        publish_change(brand, "notice", 0)
    return len(rows)
