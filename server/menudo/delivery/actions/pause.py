"""Pause a profile, a brand, or all one's brands; resume; and say when a pause has run out."""

from collections.abc import Iterable
from datetime import datetime

from django.db import IntegrityError, transaction

from menudo.base import clock
from menudo.base.clock import db_now
from menudo.base.live import publish_change
from menudo.base.problems import ConflictError, InvalidError, NotFoundError
from menudo.base.sentences import Sentence, say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.notices.failures import failure_boundary
from menudo.people.actions.notify_planners import notify_planners
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.enqueue_delivery import parse_wall_time, resolve_due
from menudo.posts.change.recompute_holds import recompute_holds
from menudo.profiles.models import Pause, Profile


def pause(context: BrandContext, profile: Profile | None, until: str, why: str) -> Pause:
    """Stop one profile, or the brand (None): now, until a wall time of the brand's or (empty) until somebody resumes.

    Nothing that is due meanwhile goes out. Raises InvalidError, and ConflictError when it is paused already.
    """
    context.require(Capability.PUBLISH)
    if words := storage_refusal(why):
        raise InvalidError.at("/reason", words)
    now = clock.now()
    end = resolve_due(parse_wall_time(until, "/ends_at"), context.zone, now, "/ends_at").instant if until else None
    whose = profile.handle if profile else context.brand.name
    try:
        with transaction.atomic():
            row = Pause.objects.create(
                brand=context.brand,
                profile=profile,
                starts_at=now,
                ends_at=end,
                created_by=context.user,
                reason=why.strip(),
            )
            recompute_holds(context.brand.pk, _profiles_of(profile))
            record_event(
                context.brand.pk, context.actor, "pause", "pause", row.pk, _pause_sentence(whose, end, context)
            )
            publish_change(context.brand.pk, "profile", profile.pk if profile else 0)
    except IntegrityError as error:
        raise ConflictError(say("profile.paused_already", profile=whose)) from error
    return row


def resume(context: BrandContext, pause_id: int) -> Pause:
    """End a pause. What is due later goes out as planned; what was missed waits for a choice (see catch_up)."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        row = (
            Pause.objects.select_for_update(of=("self",), no_key=True)
            .select_related("profile")
            .filter(brand=context.brand, pk=pause_id, ended_at=None)
            .first()
        )
        if row is None:
            raise NotFoundError()
        row.ended_at = clock.now()
        row.save(update_fields=["ended_at"])
        recompute_holds(context.brand.pk, _profiles_of(row.profile))
        whose = row.profile.handle if row.profile else context.brand.name
        record_event(context.brand.pk, context.actor, "resume", "pause", row.pk, say("pause.ended", whose=whose))
        publish_change(context.brand.pk, "profile", row.profile_id or 0)
    return row


def pause_all(contexts: Iterable[BrandContext], until: str, why: str) -> int:
    """Pause each brand, all or none: `until` is meant in each one's own zone. How many; those paused already stay as they are."""
    count = 0
    with transaction.atomic():
        for context in contexts:
            try:
                pause(context, None, until, why)
                count += 1
            except ConflictError:
                continue
    return count


def resume_all(contexts: Iterable[BrandContext]) -> int:
    """End the pause of each brand. How many."""
    count = 0
    with transaction.atomic():
        for context in contexts:
            for pause_id in Pause.objects.filter(brand=context.brand, profile=None, ended_at=None).values_list(
                "pk", flat=True
            ):
                resume(context, pause_id)
                count += 1
    return count


def end_expired_pauses() -> int:
    """End the pauses whose time has run out, and tell those who publish. How many."""
    over = Pause.objects.select_related("brand", "profile").filter(ended_at=None, ends_at__lte=db_now())
    for row in over:
        with (
            failure_boundary("end_pauses", f"pause {row.pk}", row.brand_id, "a pause that is over"),
            transaction.atomic(),
        ):
            if not Pause.objects.filter(pk=row.pk, ended_at=None).update(ended_at=row.ends_at):
                continue
            recompute_holds(row.brand_id, _profiles_of(row.profile))
            whose = row.profile.handle if row.profile else row.brand.name
            notify_planners(row.brand, "pause", f"pause_over:{row.pk}", say("pause.over", whose=whose), "today")
            publish_change(row.brand_id, "profile", row.profile_id or 0)
    return len(over)


def _profiles_of(profile: Profile | None) -> list[int] | None:
    return [profile.pk] if profile else None


def _pause_sentence(whose: str, end: datetime | None, context: BrandContext) -> Sentence:
    if end is None:
        return say("pause.began", whose=whose)
    return say("pause.began_until", whose=whose, until=end.astimezone(context.zone))
