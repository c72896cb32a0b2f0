"""Make posts of what comes next: each turn whose slot is near becomes a copy, planned at its time."""

from collections import defaultdict
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.history.actions.record import MENUDO, record
from menudo.notices.mishaps import boundary
from menudo.people.actions.tell_planners import tell_planners
from menudo.posts.actions.add_deliveries import add_deliveries, deliveries_of
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.duplicate import copy_of
from menudo.posts.actions.plan import put_up, stopped_by
from menudo.posts.actions.resign import resign
from menudo.posts.actions.schedule import set_due, write_deliveries
from menudo.posts.locking import lock_slots
from menudo.posts.models import Delivery, Post, SignOff
from menudo.profiles.models import Profile
from menudo.profiles.standing import pauses_of
from menudo.rotas.actions.turns import for_its_profiles
from menudo.rotas.laying import Ahead, Coming, ahead, whole, zone_at
from menudo.rotas.models import Place, Rota, Wording
from menudo_core.signoff.agreement import Verdict
from menudo_core.signoff.states import Event

# Weeks.
_SOON = 2


def carry_out_all() -> int:
    """Every rota that is on; what breaks over one stops none of the others. How many deliveries were planned."""
    planned = 0
    for id, brand, name in Rota.objects.filter(on=True).order_by("pk").values_list("pk", "brand", "name"):
        with boundary("carry_out_rotas", f"rota {id}", brand, f"the rota {name}"):
            planned += carry_out(id)
    return planned


def carry_out(id: int) -> int:
    """Plan a copy for each slot of the rota within its hours ahead that has none yet; the same wording on the same day is
    one post for all its profiles. How many deliveries were planned.

    The rota is locked meanwhile and each slot noted with its copy: run twice, or by two at once, nothing is made twice.
    """
    now = clock.now()
    with transaction.atomic():
        Rota.objects.select_for_update().get(pk=id)
        rota = whole(Rota.objects.filter(pk=id)).get()
        if not rota.on:
            return 0
        until = now + timedelta(hours=rota.ahead_hours)
        laid = ahead([rota], now)
        groups: dict[tuple, list[Coming]] = defaultdict(list)
        for coming in (c for one in laid for c in one.coming):
            done = coming.place is not None and coming.place.done
            if coming.wording is not None and not done and coming.spot.at < until:
                groups[coming.wording.pk, coming.spot.day].append(coming)
        planned = sum(_make(rota, group, now) for group in groups.values())
        _tell_dry(rota, laid)
        return planned


def _make(rota: Rota, group: list[Coming], now: datetime) -> int:
    """One copy of a wording for those of its profiles that it fits; the others note why not, and are tried again."""
    wording = group[0].wording
    if wording is None:
        return 0
    fits: list[Coming] = []
    for coming in group:
        if words := _stopped(rota, wording, coming.profile):
            _note(rota, coming, trouble=words[:300])
            _tell_trouble(rota, coming, words)
        else:
            fits.append(coming)
    if not fits:
        return 0
    lock_slots(coming.profile.pk for coming in fits)
    post = copy_of(wording.post, rota.by, wording.post.title)
    if rota.label is not None:
        post.labels.add(rota.label)
    pauses, planned = pauses_of([rota.brand_id]), []
    made = add_deliveries(rota.brand_id, [(post.pk, coming.profile.pk) for coming in fits])
    of_profile = {delivery.profile_id: delivery for delivery in deliveries_of(made)}
    for coming in fits:
        _note(rota, coming, made=post, done=True, trouble="")
        delivery = of_profile[coming.profile.pk]
        set_due(delivery, coming.spot.at, zone_at(rota.brand, coming.profile), Event.PLAN, pauses)
        planned.append(delivery)
    write_deliveries(planned)
    write_cards(post)
    if not rota.each_time:
        for delivery in planned:
            _agreed_before(rota, wording.pk, delivery, now)
    put_up(post, now)
    post.save(update_fields=["up_at"])
    resign(rota.brand, [post.pk])
    words = f"planned {len(planned)} deliver{'y' if len(planned) == 1 else 'ies'} of the rota {rota.name}"
    record(rota.brand_id, MENUDO, "plan", "post", post.pk, words)
    tell(rota.brand_id, "post", post.pk)
    return len(planned)


def _note(rota: Rota, coming: Coming, **what: Any) -> None:
    said = {"turn": coming.turn, "round": coming.round, "wording": coming.wording, **what}
    Place.objects.update_or_create(rota=rota, profile=coming.profile, at=coming.spot.at, defaults=said)


def _stopped(rota: Rota, wording: Wording, profile: Profile) -> str | None:
    """Why the wording can't go to the profile as it stands, or None."""
    mine = Delivery.objects.select_related("post", "profile", "brand").filter(post=wording.post, profile=profile)
    if not mine.exists():
        for_its_profiles(rota, [wording.post])
    return stopped_by(mine.get())


def _agreed_before(rota: Rota, wording: int, delivery: Delivery, now: datetime) -> None:
    """Who agreed to the last copy for the same profile is taken to agree to this one. It counts only while it says the same:
    an answer bears the fingerprint of what was agreed to."""
    earlier = Post.objects.filter(rota_places__rota=rota, rota_places__wording=wording).exclude(pk=delivery.post_id)
    answers = SignOff.objects.filter(
        delivery__post__in=earlier, profile_id=delivery.profile_id, verdict=Verdict.AGREED
    ).order_by("-at")
    last: dict[str, SignOff] = {}
    for answer in answers:
        last.setdefault(answer.signer, answer)
    SignOff.objects.bulk_create(
        [
            SignOff(
                delivery=delivery, profile_id=a.profile_id, signer=a.signer, name=a.name, verdict=a.verdict,
                says=a.says, said=a.said, due_at=delivery.due_at, at=now,
            )
            for a in last.values()
        ]
    )  # fmt: skip


def _tell_trouble(rota: Rota, coming: Coming, words: str) -> None:
    key = f"rota:{rota.pk}:{coming.profile.pk}:{coming.spot.at:%Y%m%d%H%M}"
    told = f"The rota {rota.name} has a turn that can't go out. {words}"
    tell_planners(rota.brand, "trouble", key, told, f"rotas/{rota.pk}")


def _tell_dry(rota: Rota, laid: list[Ahead]) -> None:
    """A rota that runs dry soon is told of, once for each day on which it would."""
    found = [a.dry for a in laid if a.dry is not None and a.dry.weeks < _SOON]
    if found:
        day = min(d.day for d in found)
        told = f"The rota {rota.name} runs dry on {day.day} {day:%B}: it has fewer turns than slots."
        tell_planners(rota.brand, "dry", f"dry:{rota.pk}:{day}", told, f"rotas/{rota.pk}")
