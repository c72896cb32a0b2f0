"""Let two deliveries of one profile change places: their times swap, their posts don't."""

from zoneinfo import ZoneInfo

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Invalid, Stale
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.resign import as_left, moved
from menudo.posts.actions.schedule import set_due, snapshot, write_deliveries
from menudo.posts.locking import lock_deliveries
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery_out
from menudo.profiles.standing import pauses_of
from menudo_core.signoff.states import DeliveryState, Event, NotPossible, after


def swap(place: Here, one: tuple[int, int], other: tuple[int, int]) -> int:
    """Each (id, revision) takes the other's time. The entry that undoes it. Raises Invalid, Stale, Conflict."""
    place.needs(May.PUBLISH)
    if one[0] == other[0]:
        raise Invalid.at("/other", "Choose two posts.", "same")
    now = clock.now()
    with transaction.atomic():
        found = lock_deliveries(Delivery.objects.filter(brand=place.brand, pk__in=[one[0], other[0]]))
        for id, revision in (one, other):
            if id not in found:
                raise Conflict("It is gone since.")
            if found[id].revision != revision:
                raise Stale(present=delivery_out(found[id]).model_dump(mode="json"))
        a, b = found[one[0]], found[other[0]]
        if a.profile_id != b.profile_id:
            raise Invalid.at("/other", "Only two posts of one profile change places.", "profile")
        for d in (a, b):
            try:
                after(DeliveryState(d.state), Event.MOVE)
            except NotPossible as error:
                raise Conflict(str(error)) from error
            if d.due_at is None or d.due_at <= now:
                raise Conflict("Its time has come already.")
        before = {str(d.pk): snapshot(d) for d in (a, b)}
        times = {a.pk: (b.due_at, b.zone), b.pk: (a.due_at, a.zone)}
        pauses = pauses_of([place.brand.pk])
        for d in (a, b):
            at, zone = times[d.pk]
            if at is not None:
                set_due(d, at, ZoneInfo(zone), Event.MOVE, pauses)
        write_deliveries([a, b])
        moved(place.brand, [a.post_id, b.post_id], place.user.pk)
        words = f"let two posts of {a.profile.handle} change places"
        entry = record(place.brand.pk, place.actor, "swap", "delivery", a.pk, words, as_left(before))
        tell(place.brand.pk, "delivery", 0)
    return entry.pk
