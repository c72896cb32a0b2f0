"""Listings kept fresh: when each location was last posted to, what is about to end, how much of the cap is used."""

from collections import defaultdict
from datetime import datetime, timedelta

from django.db.models import Max

from menudo.delivery import schemas_trouble
from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo_core.networks.sheet import RuleSheet
from menudo_core.sending.quota import ends_at, posts_kept
from menudo_core.signoff.states import DeliveryState

_ENDS_SOON = timedelta(days=2)
_AHEAD = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND, DeliveryState.SENDING]


def listing_freshness(brand: Brand, now: datetime) -> list[schemas_trouble.ListingOut]:
    """Every profile whose network lets its posts end by themselves; the emptiest first. Five statements."""
    sheets = {name: sheet for name, sheet in sheets_of(brand.pk).items() if sheet.life_days}
    profiles = [
        p for p in Profile.objects.filter(brand=brand, network__in=sheets) if p.state != Profile.State.DISCONNECTED
    ]
    # What ended long ago counts no more; of that only the last is told.
    since = now - timedelta(days=max((sheet.life_days or 0 for sheet in sheets.values()), default=0))
    out = Delivery.objects.filter(brand=brand, profile__in=profiles, state=DeliveryState.PUBLISHED)
    sent: dict[int, list[datetime]] = defaultdict(list)
    for profile, at in out.values_list("profile_id").annotate(last=Max("published_at")).filter(last__lt=since):
        sent[profile].append(at)
    recent = out.filter(published_at__gte=since).order_by("published_at")
    for profile, at in recent.values_list("profile_id", "published_at"):
        if at:
            sent[profile].append(at)
    ahead: dict[int, datetime] = {}
    due = Delivery.objects.filter(brand=brand, profile__in=profiles, state__in=_AHEAD, post__deleted_at__isnull=True)
    for profile, at in due.order_by("-due_at").values_list("profile_id", "due_at"):
        if at:
            ahead[profile] = at
    found = [_listing_out(p, sheets[p.network], sent[p.pk], ahead.get(p.pk), now) for p in profiles]
    order = {"empty": 0, "ending": 1, "fresh": 2}
    return sorted(found, key=lambda one: (order[one.state], one.last_at or now, one.profile))


def _listing_out(
    p: Profile, sheet: RuleSheet, sent: list[datetime], ahead: datetime | None, now: datetime
) -> schemas_trouble.ListingOut:
    last = sent[-1] if sent else None
    ends = ends_at(sheet.life_days, last)
    there, cap = posts_kept(sheet.pace, sheet.life_days, sent, now)
    ended = ends is None or ends <= now
    state = "empty" if ended else "ending" if ends is not None and ends - now <= _ENDS_SOON else "fresh"
    return schemas_trouble.ListingOut(
        profile=p.pk,
        handle=p.display_name or p.handle,
        last_at=last,
        ends_at=None if ended else ends,
        next_at=ahead,
        there=there,
        cap=cap,
        state=state,
    )
