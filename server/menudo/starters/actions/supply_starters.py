"""Keep a small supply of starters for each brand."""

from datetime import datetime
from zoneinfo import ZoneInfo

from django.db import connection, transaction

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.notices.failures import failure_boundary
from menudo.people.models import Brand
from menudo.posts.serializers import store_master
from menudo.starters.ideas import starter_ideas
from menudo.starters.models import Starter
from menudo_core.starters.choose import Answer, Kind, Reason, Seed, choose_seeds

TARGET_COUNT = 6
_LEARNS_FROM = 200


def supply_all() -> int:
    """Every brand; what breaks over one stops none of the others. How many starters were made."""
    made = 0
    for brand in Brand.objects.order_by("pk"):
        with failure_boundary("supply_starters", f"brand {brand.pk}", brand.pk, "its starters"):
            made += supply_brand(brand)
    return made


def supply_brand(brand: Brand, most: int = TARGET_COUNT) -> int:
    """Those that are over go, and new ones come until there are `most`. How many came."""
    now = clock.now()
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [73_001, brand.pk % 2**31])
        _delete_expired(brand, now)
        known = dict(Starter.objects.filter(brand=brand).values_list("key", "state"))
        there = [
            Seed(Kind(kind), key, topic)
            for kind, key, topic in Starter.objects.filter(brand=brand, state=Starter.State.PROPOSED).values_list(
                "kind", "key", "topic"
            )
        ]
        grown = {one.seed.key: one for one in starter_ideas(brand, now) if one.seed.key not in known}
        chosen = choose_seeds([one.seed for one in grown.values()], recent_answers(brand), there, most)
        rows = [
            Starter(
                brand=brand,
                kind=seed.kind,
                key=seed.key,
                topic=seed.topic,
                why=grown[seed.key].why[:300],
                master=store_master(grown[seed.key].content),
                expires_on=grown[seed.key].expires_on,
                created_at=now,
            )
            for seed in chosen
        ]
        Starter.objects.bulk_create(rows)
        if rows:
            publish_change(brand.pk, "starter", 0)
    return len(rows)


def recent_answers(brand: Brand) -> list[Answer]:
    """What people made of the last starters."""
    rows = Starter.objects.filter(brand=brand).exclude(state=Starter.State.PROPOSED).order_by("-created_at", "-pk")
    return [
        Answer(Kind(kind), topic, Reason(reason) if state == Starter.State.THROWN and reason else None)
        for kind, topic, state, reason in rows.values_list("kind", "topic", "state", "reason")[:_LEARNS_FROM]
    ]


def _delete_expired(brand: Brand, now: datetime) -> None:
    today = now.astimezone(ZoneInfo(brand.zone)).date()
    Starter.objects.filter(brand=brand, state=Starter.State.PROPOSED, expires_on__lt=today).delete()
