"""Say how one wishes to be told outside the product."""

import re
from datetime import time
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.conf import settings

from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.notices.models import NotificationPreferences
from menudo_core.notices.timing import KINDS, Channel

_PHONE = re.compile(r"^\+?[\d ()/.-]{6,30}$", re.ASCII)


def save_preferences(
    user: int, ways: dict[str, str], zone: str, quiet: tuple[str, str], digest: str, phone: str
) -> NotificationPreferences:
    """Keep a person's wishes. `quiet` and `digest` are times of the wall (HH:MM) in `zone`; quiet hours may be empty.
    Raises InvalidError."""
    faults = []
    for kind, way in ways.items():
        if kind not in KINDS or way not in set(Channel):
            faults.append(Fault(f"/channels/{kind}", say("preferences.channel")))
        elif way == Channel.TEXT and not settings.DEMO:
            faults.append(Fault(f"/channels/{kind}", say("preferences.no_texts")))
        elif way == Channel.TEXT and not phone.strip():
            faults.append(Fault("/phone", say("preferences.phoneless")))
    try:
        ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        faults.append(Fault("/zone", say("zone.unknown", zone=zone[:60])))
    if phone.strip() and not _PHONE.match(phone.strip()):
        faults.append(Fault("/phone", say("preferences.phone")))
    begin, end = _parse_time(quiet[0], "/quiet_from", faults), _parse_time(quiet[1], "/quiet_to", faults)
    if (begin is None) != (end is None) and not faults:
        faults.append(Fault("/quiet_to" if begin else "/quiet_from", say("preferences.quiet_hours")))
    at = _parse_time(digest, "/digest_at", faults)
    if at is None and not faults:
        faults.append(Fault("/digest_at", say("preferences.digest")))
    if faults or at is None:
        raise InvalidError(faults=faults)
    row, _ = NotificationPreferences.objects.update_or_create(
        user_id=user,
        defaults={
            "channels": ways,
            "zone": zone,
            "quiet_from": begin,
            "quiet_to": end,
            "digest_at": at,
            "phone": phone.strip(),
        },
    )
    return row


def _parse_time(text: str, pointer: str, faults: list[Fault]) -> time | None:
    if not text.strip():
        return None
    try:
        return time.fromisoformat(text.strip()).replace(tzinfo=None)
    except ValueError:
        faults.append(Fault(pointer, say("preferences.time")))
        return None
