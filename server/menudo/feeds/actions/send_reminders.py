"""Tell people of a few fresh articles on the weekdays they chose."""

from collections.abc import Sequence
from datetime import time, timedelta
from zoneinfo import ZoneInfo

from django.db import transaction

from menudo.base import clock
from menudo.base.sentences import say
from menudo.feeds.models import ShelfReminder
from menudo.feeds.queries import shelved_articles
from menudo.notices.actions.notify import notify
from menudo.notices.failures import failure_boundary
from menudo.people.context import BrandContext

_FEW = 3
_FRESH_DAYS = 7


def save_reminder(context: BrandContext, weekdays: Sequence[int], at: time) -> None:
    """The person's own reminder in this brand, on its wall; without weekdays there is none."""
    mine = ShelfReminder.objects.filter(brand=context.brand, user=context.user)
    if not weekdays:
        mine.delete()
        return
    kept = {"weekdays": sorted(set(weekdays)), "at": at.replace(second=0, microsecond=0, tzinfo=None)}
    ShelfReminder.objects.update_or_create(brand=context.brand, user=context.user, defaults=kept)


def send_reminders() -> int:
    """Whom it is time to tell, each once a day. How many were told."""
    now, count = clock.now(), 0
    for reminder_id in ShelfReminder.objects.values_list("pk", flat=True):
        with failure_boundary("remind_of_the_shelf", f"reminder {reminder_id}"), transaction.atomic():
            one = (
                ShelfReminder.objects.select_for_update(of=("self",), no_key=True)
                .select_related("brand")
                .filter(pk=reminder_id)
                .first()
            )
            if one is None:
                continue
            here = now.astimezone(ZoneInfo(one.brand.zone))
            if one.last_sent_on == here.date() or here.weekday() not in one.weekdays or here.time() < one.at:
                continue
            one.last_sent_on = here.date()
            one.save(update_fields=["last_sent_on"])
            few = list(shelved_articles(one.brand, since=now - timedelta(days=_FRESH_DAYS))[:_FEW])
            if few:
                titles = "; ".join(article.title[:80] for article in few)
                key = f"shelf:{one.pk}:{here.date()}"
                count += notify(
                    [one.user_id],
                    one.brand_id,
                    "shelf",
                    key,
                    say("shelf.fresh", titles=titles),
                    f"/{one.brand.slug}/relays/shelf",
                )
    return count
