"""Make posts of what comes next: each turn whose slot is near becomes a copy, planned at its time."""

from collections import defaultdict
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction

from menudo.base import clock
from menudo.notices.mishaps import boundary
from menudo.people.actions.tell_planners import tell_planners
from menudo.posts.actions.duplicate import copied
from menudo.posts.actions.plan import requested, stops_of
from menudo.posts.change.decision import Decision, NewPost
from menudo.posts.change.kernel import System, change_posts
from menudo.posts.change.locks import lock_slots, pass_gate
from menudo.posts.models import Delivery, Post, SignOff
from menudo.posts.rendering import content_for
from menudo.posts.serializers import load_post_contents
from menudo.profiles.models import Profile
from menudo.rotas.actions.turns import set_profiles
from menudo.rotas.laying import Ahead, Coming, ahead, whole, zone_at
from menudo.rotas.models import Place, Rota, Wording
from menudo_core.signoff.agreement import Verdict
from menudo_core.signoff.schedule import schedule_at
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
        # Before any post is locked: see posts/change/locks.py.
        pass_gate(rota.brand_id)
        lock_slots(coming.profile.pk for group in groups.values() for coming in group)
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
    profiles = [coming.profile.pk for coming in fits]
    with change_posts(System(rota.brand)) as change:
        content = copied(load_post_contents([wording.post])[wording.post_id])
        if rota.label_id is not None:
            content = replace(content, labels=content.labels | {rota.label_id})
        [post] = change.create([NewPost(content, profiles, rota.by)])
        of_profile = {delivery.profile_id: delivery for delivery in change.deliveries_of(post)}
        schedules, answers = {}, []
        for coming in fits:
            _note(rota, coming, made=post, done=True, trouble="")
            delivery, zone = of_profile[coming.profile.pk], zone_at(rota.brand, coming.profile)
            schedule = schedule_at(change.schedule(delivery), coming.spot.at, zone, Event.PLAN)
            schedules[delivery.pk] = schedule
            if not rota.each_time:
                answers += _agreed_before(rota, wording.pk, delivery, schedule.due_at, now)
        status = {post.pk: requested(change, post)}
        change.apply(Decision(schedules=schedules, statuses=status, answers=answers))
        words = f"planned {len(schedules)} deliver{'y' if len(schedules) == 1 else 'ies'} of the rota {rota.name}"
        change.record("plan", "post", post.pk, words)
    return len(schedules)


def _note(rota: Rota, coming: Coming, **what: Any) -> None:
    said = {"turn": coming.turn, "round": coming.round, "wording": coming.wording, **what}
    Place.objects.update_or_create(rota=rota, profile=coming.profile, at=coming.spot.at, defaults=said)


def _stopped(rota: Rota, wording: Wording, profile: Profile) -> str | None:
    """Why the wording can't go to the profile as it stands, or None."""
    mine = Delivery.objects.select_related("post__campaign", "profile", "brand").filter(
        post=wording.post, profile=profile
    )
    if not mine.exists():
        with change_posts(System(rota.brand), posts=[wording.post_id]) as change:
            set_profiles(change, rota, change.posts.values())
    delivery = mine.get()
    return stops_of(rota.brand_id, [delivery], {delivery.pk: content_for(delivery)}).get(delivery.pk)


def _agreed_before(
    rota: Rota, wording: int, delivery: Delivery, due_at: datetime | None, now: datetime
) -> list[SignOff]:
    """Who agreed to the last copy for the same profile is taken to agree to this one. It counts only while it says the same:
    an answer bears the fingerprint of what was agreed to."""
    earlier = Post.objects.filter(rota_places__rota=rota, rota_places__wording=wording).exclude(pk=delivery.post_id)
    answers = SignOff.objects.filter(
        delivery__post__in=earlier, profile_id=delivery.profile_id, verdict=Verdict.AGREED
    ).order_by("-at")
    last: dict[str, SignOff] = {}
    for answer in answers:
        last.setdefault(answer.signer, answer)
    return [
        SignOff(
            delivery=delivery, profile_id=a.profile_id, signer=a.signer, name=a.name, verdict=a.verdict,
            says=a.says, said=a.said, due_at=due_at, at=now,
        )
        for a in last.values()
    ]  # fmt: skip


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
