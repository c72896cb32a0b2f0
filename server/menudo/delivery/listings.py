"""Listings kept fresh: when each location was last posted to, what is about to end, how much of the cap is used."""

from datetime import datetime, timedelta

from django.db.models import OuterRef, Subquery

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
    """Every profile whose network lets its posts end by themselves; the emptiest first. Three statements."""
    sheets = {name: sheet for name, sheet in sheets_of(brand.pk).items() if sheet.life_days}
    out = Delivery.objects.filter(state=DeliveryState.PUBLISHED, published_at__isnull=False)
    ahead = Delivery.objects.filter(profile=OuterRef("pk"), state__in=_AHEAD, post__deleted_at__isnull=True)
    last = out.filter(profile=OuterRef("pk")).order_by("-published_at")
    profiles = list(
        Profile.objects.filter(brand=brand, network__in=sheets)
        .exclude(state=Profile.State.DISCONNECTED)
        .annotate(
            next_at=Subquery(ahead.order_by("due_at").values("due_at")[:1]),
            last_at=Subquery(last.values("published_at")[:1]),
        )
    )
    # What ended long ago counts no more; of that only the last is told.
    since = now - timedelta(days=max((sheet.life_days or 0 for sheet in sheets.values()), default=0))
    sent: dict[int, list[datetime]] = {p.pk: [p.last_at] for p in profiles if p.last_at and p.last_at < since}
    recent = out.filter(profile__in=profiles, published_at__gte=since).order_by("published_at")
    for profile, at in recent.values_list("profile_id", "published_at"):
        if at:
            sent.setdefault(profile, []).append(at)
    found = [_listing_out(p, sheets[p.network], sent.get(p.pk, []), p.next_at, now) for p in profiles]
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
