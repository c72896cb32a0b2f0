"""A boundary around each row and each step that Menudo works through by itself: what breaks over one stops no other, and a
person and /health are told."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta

import structlog
from django.contrib.auth import get_user_model
from django.db import OperationalError, transaction
from django.db.models import F, Q

from menudo.base import clock
from menudo.base.sentences import say
from menudo.notices.actions.notify import notify
from menudo.notices.models import JobFailure

log = structlog.get_logger(__name__)
_KEEP_FOR = timedelta(days=14)


@contextmanager
def failure_boundary(step: str, subject: str = "", brand: int | None = None, words: str = "") -> Iterator[None]:
    """What breaks inside is logged, kept, and told once a day to those who manage the installation and to those who publish
    in the brand; then whatever comes after goes on. `subject` names the row ("delivery 12"), `words` says it for people.

    A database that is gone is nobody's row: it goes through (OperationalError), and so does being told to stop.
    """
    try:
        yield
    except OperationalError:
        raise
    except Exception as error:
        log.exception("job.failed", step=step, subject=subject)
        try:
            _save_failure(step, subject, brand, words, f"{type(error).__name__}: {error}")
        except OperationalError:
            raise
        except Exception:
            log.exception("job.failure_not_saved", step=step, subject=subject)


def _save_failure(step: str, subject: str, brand: int | None, words: str, error: str) -> None:
    now = clock.now()
    # NUL can't be kept, and an error may quote anything.
    values = {"error": error.replace("\0", "")[:400], "last_at": now, "brand_id": brand}
    with transaction.atomic():
        _, new = JobFailure.objects.get_or_create(step=step, subject=subject, defaults={**values, "first_at": now})
        if not new:
            JobFailure.objects.filter(step=step, subject=subject).update(**values, count=F("count") + 1)
        about = words or subject
        message = say("job.failed", subject=about) if about else say("job.step_failed", step=step)
        path = "/installation" if brand is None else ""
        notify(
            _people_to_notify(brand), brand, "trouble", f"mishap:{step}:{subject}:{now:%Y%m%d}", message, path or "/"
        )


def _people_to_notify(brand: int | None) -> list[int]:
    manage = Q(manages_installation=True)
    publish = Q(memberships__brand=brand, memberships__capabilities__contains=["publish"]) if brand else Q(pk__in=())
    people = get_user_model().objects.filter(manage | publish, is_active=True)
    return list(people.values_list("pk", flat=True).distinct())


@dataclass(slots=True)
class StepFailures:
    """What broke in one step: over how many subjects, how often, and when last (ISO 8601)."""

    step: str
    subjects: int
    times: int
    last: str


def recent_failures(within: timedelta = timedelta(hours=1)) -> list[StepFailures]:
    """What broke lately, by step. Nothing of any brand's content."""
    by_step: dict[str, StepFailures] = {}
    for row in JobFailure.objects.filter(last_at__gt=clock.now() - within).order_by("step", "-last_at"):
        found = by_step.setdefault(row.step, StepFailures(row.step, 0, 0, row.last_at.isoformat()))
        found.subjects += 1
        found.times += row.count
    return list(by_step.values())


def delete_old_failures(now: datetime) -> int:
    """What has not happened again for two weeks is forgotten. How many."""
    return JobFailure.objects.filter(last_at__lt=now - _KEEP_FOR).delete()[0]
