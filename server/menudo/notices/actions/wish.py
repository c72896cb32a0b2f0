"""Say how one wishes to be told outside the product."""

import re
from datetime import time
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.conf import settings

from menudo.base.problems import Fault, Invalid
from menudo.notices.models import Wishes
from menudo_core.notices.when import KINDS, Way

_PHONE = re.compile(r"^\+?[\d ()/.-]{6,30}$", re.ASCII)


def wish(user: int, ways: dict[str, str], zone: str, quiet: tuple[str, str], digest: str, phone: str) -> Wishes:
    """Keep a person's wishes. `quiet` and `digest` are times of the wall (HH:MM) in `zone`; quiet hours may be empty.
    Raises Invalid."""
    faults = []
    for kind, way in ways.items():
        if kind not in KINDS or way not in set(Way):
            faults.append(Fault(f"/ways/{kind}", "Choose one of the ways that are offered."))
        elif way == Way.TEXT and not settings.DEMO:
            faults.append(Fault(f"/ways/{kind}", "Text messages can't be sent from here.", "text"))
        elif way == Way.TEXT and not phone.strip():
            faults.append(Fault("/phone", "A text message needs a number.", "missing"))
    try:
        ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        faults.append(Fault("/zone", f"There is no time zone “{zone[:60]}”.", "zone"))
    if phone.strip() and not _PHONE.match(phone.strip()):
        faults.append(Fault("/phone", "Write the number with digits, for instance +34 600 000 000."))
    begin, end = _time(quiet[0], "/quiet_from", faults), _time(quiet[1], "/quiet_to", faults)
    if (begin is None) != (end is None) and not faults:
        faults.append(Fault("/quiet_to" if begin else "/quiet_from", "Quiet hours need a start and an end.", "missing"))
    at = _time(digest, "/digest_at", faults)
    if at is None and not faults:
        faults.append(Fault("/digest_at", "Say when the digest is wanted.", "missing"))
    if faults or at is None:
        raise Invalid(faults=faults)
    row, _ = Wishes.objects.update_or_create(
        user_id=user,
        defaults={
            "ways": ways, "zone": zone, "quiet_from": begin, "quiet_to": end, "digest_at": at, "phone": phone.strip(),
        },
    )  # fmt: skip
    return row


def _time(said: str, pointer: str, faults: list[Fault]) -> time | None:
    if not said.strip():
        return None
    try:
        return time.fromisoformat(said.strip()).replace(tzinfo=None)
    except ValueError:
        faults.append(Fault(pointer, "Write a time like 22:00.", "unreadable"))
        return None
