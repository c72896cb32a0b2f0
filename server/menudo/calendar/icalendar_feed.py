"""The calendar as other programs read it (RFC 5545)."""

from datetime import UTC, datetime, timedelta

import icalendar
from django.conf import settings
from django.db.models import Q
from django.db.models.functions import Coalesce
from django.http import HttpRequest, HttpResponse

from menudo.base import clock
from menudo.base.limits import count_attempt
from menudo.base.problems import ProblemError, on_problem
from menudo.calendar.actions.subscribe import open_subscription
from menudo.calendar.cards import HELD_WORDS
from menudo.calendar.models import Subscription
from menudo.posts.models import Delivery
from menudo.profiles.sheets import sheets_of
from menudo_core.signoff.states import DeliveryState

_BACK, _AHEAD, _MOST = timedelta(days=92), timedelta(days=400), 5000
_LASTS = timedelta(minutes=15)
_CANCELLED = {DeliveryState.OFF, DeliveryState.UNPLANNED, DeliveryState.DOWN}
_SURE = {DeliveryState.PUBLISHED, DeliveryState.SENDING, DeliveryState.PLANNED}


def subscription_feed(request: HttpRequest, token: str) -> HttpResponse:
    """A subscription as text/calendar. Open to whoever has the address, and counted."""
    try:
        count_attempt(request, "calendar_feed")
        found = open_subscription(token)
        body = build_calendar(found, clock.now())
    except ProblemError as problem:
        return on_problem(request, problem)
    response = HttpResponse(body, content_type="text/calendar; charset=utf-8")
    response["Content-Disposition"] = 'inline; filename="menudo.ics"'
    response["Cache-Control"] = "private, max-age=300"
    return response


def build_calendar(subscription: Subscription, now: datetime) -> bytes:
    """Every delivery of the last three months and the next thirteen: two statements.

    An event's UID is its delivery's key, which never changes; SEQUENCE is the delivery's revision, and LAST-MODIFIED when
    that or the wording changed last; what was called off or taken off is CANCELLED (RFC 5545, 3.8.7.4, 3.8.7.3 and 3.8.1.11).
    """
    calendar = icalendar.Calendar()
    calendar.add("prodid", "-//Menudo//Calendar//EN")
    calendar.add("version", "2.0")
    calendar.add("calscale", "GREGORIAN")
    calendar.add("method", "PUBLISH")
    calendar.add("name", f"Menudo: {subscription.name}")
    calendar.add("x-wr-calname", f"Menudo: {subscription.name}")
    calendar.add("refresh-interval", timedelta(minutes=15), {"VALUE": "DURATION"})
    networks = {network: sheet.name for network, sheet in sheets_of(subscription.brand_id).items()}
    for delivery in _deliveries_of(subscription, now):
        calendar.add_component(_event_of(delivery, subscription.brand.slug, networks, now))
    return bytes(calendar.to_ical())


def _deliveries_of(subscription: Subscription, now: datetime) -> list[Delivery]:
    rows = Delivery.objects.filter(brand=subscription.brand, post__deleted_at__isnull=True)
    if subscription.profile_set_id is not None:
        rows = rows.filter(profile__sets=subscription.profile_set_id)
    if subscription.mine:
        rows = rows.filter(Q(post__author=subscription.user) | Q(profile__keeper=subscription.user))
    rows = rows.annotate(stood=Coalesce("due_at", "was_due")).filter(stood__gte=now - _BACK, stood__lt=now + _AHEAD)
    return list(rows.select_related("profile", "post").order_by("stood", "pk")[:_MOST])


def _event_of(delivery: Delivery, brand: str, networks: dict[str, str], now: datetime) -> icalendar.Event:
    at = delivery.due_at or delivery.was_due or now
    state = DeliveryState(delivery.state)
    network = networks.get(delivery.profile.network, delivery.profile.network)
    event = icalendar.Event()
    event.add("uid", f"{delivery.key}@menudo")
    event.add("sequence", delivery.revision)
    event.add("dtstamp", now)
    event.add("dtstart", at.astimezone(UTC))
    event.add("dtend", (at + _LASTS).astimezone(UTC))
    event.add(
        "summary", f"{delivery.profile.display_name or delivery.profile.handle}: {delivery.headline or 'no words yet'}"
    )
    event.add("last-modified", max(delivery.updated_at, delivery.post.updated_at).astimezone(UTC))
    status = "CANCELLED" if state in _CANCELLED else "CONFIRMED" if state in _SURE else "TENTATIVE"
    event.add("status", status)
    event.add("transp", "TRANSPARENT")
    event.add("categories", [network, state.value.replace("_", " ")])
    why = HELD_WORDS.get(delivery.held_for, "")
    event.add("description", f"{network}, {state.value.replace('_', ' ')}{f': {why}' if why else ''}")
    event.add("url", delivery.remote_url or f"{settings.PUBLIC_URL}/{brand}/calendar?open={delivery.pk}")
    return event
