"""Make posts of what comes next: each turn whose slot is near becomes a copy, planned at its time."""

from collections import defaultdict
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any

from django.db import transaction

from menudo.base import clock
from menudo.base.sentences import say
from menudo.notices.failures import failure_boundary
from menudo.people.actions.notify_planners import notify_planners
from menudo.posts.actions.duplicate_post import copy_content
from menudo.posts.actions.plan_post import content_blocks, requested_status
from menudo.posts.change.decision import Decision, NewPost
from menudo.posts.change.kernel import System, change_posts
from menudo.posts.change.locks import lock_slots, pass_gate
from menudo.posts.models import Delivery, Post
from menudo.posts.rendering import render_for
from menudo.posts.serializers import load_post_contents
from menudo.profiles.models import Profile
from menudo.rotas.actions.change_turns import set_profiles
from menudo.rotas.forecast import RotaForecast, Upcoming, forecast, profile_zone, with_turns
from menudo.rotas.models import Placement, Rota, Wording
from menudo.signoff.models import SignOff
from menudo_core.signoff.agreement import Verdict
from menudo_core.signoff.schedule import schedule_at
from menudo_core.signoff.states import Event

# Weeks.
_SOON = 2


def fill_all_rotas() -> int:
    """Every rota that is on; what breaks over one stops none of the others. How many deliveries were planned."""
    planned = 0
    for rota_id, brand, name in Rota.objects.filter(active=True).order_by("pk").values_list("pk", "brand", "name"):
        with failure_boundary("carry_out_rotas", f"rota {rota_id}", brand, f"the rota {name}"):
            planned += fill_rota(rota_id)
    return planned


def fill_rota(rota_id: int) -> int:
    """Plan a copy for each slot of the rota within its hours ahead that has none yet; the same wording on the same day is
    one post for all its profiles. How many deliveries were planned.

    The rota is locked meanwhile and each slot noted with its copy: run twice, or by two at once, nothing is made twice.
    """
    now = clock.now()
    with transaction.atomic():
        Rota.objects.select_for_update(no_key=True).get(pk=rota_id)
        rota = with_turns(Rota.objects.filter(pk=rota_id)).get()
        if not rota.active:
            return 0
        until = now + timedelta(hours=rota.ahead_hours)
        forecasts = forecast([rota], now)
        groups: dict[tuple[int, date], list[Upcoming]] = defaultdict(list)
        for upcoming in (c for one in forecasts for c in one.upcoming):
            done = upcoming.placement is not None and upcoming.placement.filled
            if upcoming.wording is not None and not done and upcoming.slot.at < until:
                groups[upcoming.wording.pk, upcoming.slot.day].append(upcoming)
        # Before any post is locked: see posts/change/locks.py.
        pass_gate(rota.brand_id)
        lock_slots(upcoming.profile.pk for group in groups.values() for upcoming in group)
        planned = sum(_create_copy(rota, group, now) for group in groups.values())
        _notify_exhaustion(rota, forecasts)
        return planned


def _create_copy(rota: Rota, group: list[Upcoming], now: datetime) -> int:
    """One copy of a wording for those of its profiles that it fits; the others note why not, and are tried again."""
    wording = group[0].wording
    if wording is None:
        return 0
    fits: list[Upcoming] = []
    for upcoming in group:
        if words := _blocking_reason(rota, wording, upcoming.profile):
            _record_placement(rota, upcoming, last_error=words[:300])
            _notify_trouble(rota, upcoming, words)
        else:
            fits.append(upcoming)
    if not fits:
        return 0
    profiles = [upcoming.profile.pk for upcoming in fits]
    with change_posts(System(rota.brand)) as change:
        content = copy_content(load_post_contents([wording.post])[wording.post_id])
        if rota.label_id is not None:
            content = replace(content, labels=content.labels | {rota.label_id})
        [post] = change.create([NewPost(content, profiles, rota.run_as)])
        of_profile = {delivery.profile_id: delivery for delivery in change.deliveries_of(post)}
        schedules, answers = {}, []
        for upcoming in fits:
            _record_placement(rota, upcoming, post=post, filled=True, last_error="")
            delivery, zone = of_profile[upcoming.profile.pk], profile_zone(rota.brand, upcoming.profile)
            schedule = schedule_at(change.schedule(delivery), upcoming.slot.at, zone, Event.PLAN)
            schedules[delivery.pk] = schedule
            if not rota.signoff_each_copy:
                answers += _earlier_agreements(rota, wording.pk, delivery, schedule.due_at, now)
        status = {post.pk: requested_status(change, post)}
        change.apply(Decision(schedules=schedules, statuses=status, answers=answers))
        change.record("plan", "post", post.pk, say("rota.planned", count=len(schedules), name=rota.name))
    return len(schedules)


def _record_placement(rota: Rota, upcoming: Upcoming, **changes: Any) -> None:
    values = {"turn": upcoming.turn, "round_number": upcoming.round, "wording": upcoming.wording, **changes}
    Placement.objects.update_or_create(rota=rota, profile=upcoming.profile, slot_at=upcoming.slot.at, defaults=values)


def _blocking_reason(rota: Rota, wording: Wording, profile: Profile) -> str | None:
    """Why the wording can't go to the profile as it stands, or None."""
    mine = Delivery.objects.select_related("post__campaign", "profile", "brand").filter(
        post=wording.post, profile=profile
    )
    if not mine.exists():
        with change_posts(System(rota.brand), posts=[wording.post_id]) as change:
            set_profiles(change, rota, change.posts.values())
    delivery = mine.get()
    return content_blocks(rota.brand_id, [delivery], {delivery.pk: render_for(delivery)}).get(delivery.pk)


def _earlier_agreements(
    rota: Rota, wording: int, delivery: Delivery, due_at: datetime | None, now: datetime
) -> list[SignOff]:
    """Who agreed to the last copy for the same profile is taken to agree to this one. It counts only while it says the same:
    an answer bears the fingerprint of what was agreed to."""
    earlier = Post.objects.filter(rota_placements__rota=rota, rota_placements__wording=wording).exclude(
        pk=delivery.post_id
    )
    answers = SignOff.objects.filter(
        delivery__post__in=earlier, profile_id=delivery.profile_id, verdict=Verdict.AGREED
    ).order_by("-answered_at")
    last: dict[str, SignOff] = {}
    for answer in answers:
        last.setdefault(answer.signer, answer)
    return [
        SignOff(
            delivery=delivery,
            profile_id=a.profile_id,
            signer=a.signer,
            name=a.name,
            verdict=a.verdict,
            fingerprint=a.fingerprint,
            content=a.content,
            due_at=due_at,
            answered_at=now,
        )
        for a in last.values()
    ]


def _notify_trouble(rota: Rota, upcoming: Upcoming, words: str) -> None:
    key = f"rota:{rota.pk}:{upcoming.profile.pk}:{upcoming.slot.at:%Y%m%d%H%M}"
    message = say("rota.trouble", name=rota.name, reason=words)
    notify_planners(rota.brand, "trouble", key, message, f"rotas/{rota.pk}")


def _notify_exhaustion(rota: Rota, forecasts: list[RotaForecast]) -> None:
    """A rota that runs dry soon is told of, once for each day on which it would."""
    found = [a.dry for a in forecasts if a.dry is not None and a.dry.weeks < _SOON]
    if found:
        day = min(d.day for d in found)
        message = say("rota.exhausted", name=rota.name, day=day)
        notify_planners(rota.brand, "dry", f"dry:{rota.pk}:{day}", message, f"rotas/{rota.pk}")
