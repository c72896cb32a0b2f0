"""Tell people of a few fresh articles on the weekdays they chose."""

from collections.abc import Sequence
from datetime import time, timedelta
from zoneinfo import ZoneInfo

from django.db import transaction

from menudo.base import clock
from menudo.feeds.models import ShelfReminder
from menudo.feeds.reads import on_shelf
from menudo.notices.actions.notify import notify
from menudo.notices.mishaps import boundary
from menudo.people.here import Here

_FEW = 3
_FRESH_DAYS = 7


def keep_reminder(place: Here, weekdays: Sequence[int], at: time) -> None:
    """The person's own reminder in this brand, on its wall; without weekdays there is none."""
    mine = ShelfReminder.objects.filter(brand=place.brand, user=place.user)
    if not weekdays:
        mine.delete()
        return
    kept = {"weekdays": sorted(set(weekdays)), "at": at.replace(second=0, microsecond=0, tzinfo=None)}
    ShelfReminder.objects.update_or_create(brand=place.brand, user=place.user, defaults=kept)


def remind() -> int:
    """Whom it is time to tell, each once a day. How many were told."""
    now, told = clock.now(), 0
    for id in ShelfReminder.objects.values_list("pk", flat=True):
        with boundary("remind_of_the_shelf", f"reminder {id}"), transaction.atomic():
            one = ShelfReminder.objects.select_for_update(of=("self",)).select_related("brand").filter(pk=id).first()
            if one is None:
                continue
            here = now.astimezone(ZoneInfo(one.brand.zone))
            if one.told_on == here.date() or here.weekday() not in one.weekdays or here.time() < one.at:
                continue
            one.told_on = here.date()
            one.save(update_fields=["told_on"])
            few = list(on_shelf(one.brand, since=now - timedelta(days=_FRESH_DAYS))[:_FEW])
            if few:
                titles = "; ".join(article.title[:80] for article in few)
                key = f"shelf:{one.pk}:{here.date()}"
                told += notify(
                    [one.user_id],
                    one.brand_id,
                    "shelf",
                    key,
                    f"Fresh on the shelf: {titles}",
                    f"/{one.brand.slug}/relays/shelf",
                )
    return told
