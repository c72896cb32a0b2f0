"""Pause a profile, a brand, or all one's brands; resume; and say when a pause has run out."""

from collections.abc import Iterable
from datetime import datetime

from django.db import IntegrityError, transaction

from menudo.base import clock
from menudo.base.clock import db_now
from menudo.base.live import tell
from menudo.base.problems import Conflict, Invalid, NotFound
from menudo.history.actions.record import record
from menudo.notices.mishaps import boundary
from menudo.people.actions.tell_planners import tell_planners
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.change.holds import recompute_holds
from menudo.posts.models import Delivery
from menudo.profiles.models import Pause, Profile
from menudo_core.text.clean import unusable


def pause(place: Here, profile: Profile | None, until: str, why: str) -> Pause:
    """Stop one profile, or the brand (None): now, until a wall time of the brand's or (empty) until somebody resumes.

    Nothing that is due meanwhile goes out. Raises Invalid, and Conflict when it is paused already.
    """
    place.needs(May.PUBLISH)
    if words := unusable(why):
        raise Invalid.at("/why", words)
    now = clock.now()
    end = resolve_due(read_wall(until, "/until"), place.zone, now, "/until").instant if until else None
    whose = profile.handle if profile else place.brand.name
    try:
        with transaction.atomic():
            row = Pause.objects.create(
                brand=place.brand, profile=profile, since=now, until=end, by=place.user, why=why.strip()
            )
            recompute_holds(_hanging(place.brand.pk, profile))
            record(place.brand.pk, place.actor, "pause", "pause", row.pk, f"paused {whose}{_until(end, place)}")
            tell(place.brand.pk, "profile", profile.pk if profile else 0)
    except IntegrityError as error:
        raise Conflict(f"{whose} is paused already.") from error
    return row


def resume(place: Here, id: int) -> Pause:
    """End a pause. What is due later goes out as planned; what was missed waits for a choice (see catch_up)."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        row = (
            Pause.objects.select_for_update(of=("self",))
            .select_related("profile")
            .filter(brand=place.brand, pk=id, ended=None)
            .first()
        )
        if row is None:
            raise NotFound()
        row.ended = clock.now()
        row.save(update_fields=["ended"])
        recompute_holds(_hanging(place.brand.pk, row.profile))
        whose = row.profile.handle if row.profile else place.brand.name
        record(place.brand.pk, place.actor, "resume", "pause", row.pk, f"resumed {whose}")
        tell(place.brand.pk, "profile", row.profile_id or 0)
    return row


def pause_all(places: Iterable[Here], until: str, why: str) -> int:
    """Pause each brand, all or none: `until` is meant in each one's own zone. How many; those paused already stay as they are."""
    count = 0
    with transaction.atomic():
        for place in places:
            try:
                pause(place, None, until, why)
                count += 1
            except Conflict:
                continue
    return count


def resume_all(places: Iterable[Here]) -> int:
    """End the pause of each brand. How many."""
    count = 0
    with transaction.atomic():
        for place in places:
            for id in Pause.objects.filter(brand=place.brand, profile=None, ended=None).values_list("pk", flat=True):
                resume(place, id)
                count += 1
    return count


def tell_pauses_over() -> int:
    """End the pauses whose time has run out, and tell those who publish. How many."""
    over = Pause.objects.select_related("brand", "profile").filter(ended=None, until__lte=db_now())
    for row in over:
        with boundary("end_pauses", f"pause {row.pk}", row.brand_id, "a pause that is over"), transaction.atomic():
            if not Pause.objects.filter(pk=row.pk, ended=None).update(ended=row.until):
                continue
            recompute_holds(_hanging(row.brand_id, row.profile))
            whose = row.profile.handle if row.profile else row.brand.name
            words = f"The pause of {whose} is over. See what was missed, and choose what happens to it"
            tell_planners(row.brand, "pause", f"pause_over:{row.pk}", words, "today")
            tell(row.brand_id, "profile", row.profile_id or 0)
    return len(over)


def _hanging(brand: int, profile: Profile | None):  # type: ignore[no-untyped-def]
    found = Delivery.objects.filter(brand_id=brand)
    return found.filter(profile=profile) if profile else found


def _until(end: datetime | None, place: Here) -> str:
    return f" until {end.astimezone(place.zone):%a %d %b, %H:%M}" if end else ""
