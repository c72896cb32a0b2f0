"""How each person wishes to be told."""

from collections.abc import Iterable
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from django.conf import settings

from menudo.notices.models import NotificationPreferences
from menudo_core.notices.timing import KINDS, Channel, QuietHours


@dataclass(frozen=True, slots=True)
class Preferences:
    """One person's wishes, or what holds for who has said none."""

    row: NotificationPreferences

    def channel(self, kind: str) -> Channel:
        """How a kind of notice leaves the product for them; a text message only where there is a number for it."""
        standard = KINDS[kind][1] if kind in KINDS else Channel.NOW
        way = Channel(self.row.channels.get(kind, standard))
        if way is Channel.TEXT and not (self.row.phone and settings.DEMO):
            return Channel.NOW
        return way

    @property
    def zone(self) -> ZoneInfo:
        return ZoneInfo(self.row.zone)

    @property
    def quiet(self) -> QuietHours | None:
        if self.row.quiet_from is None or self.row.quiet_to is None:
            return None
        return QuietHours(self.row.quiet_from, self.row.quiet_to)


def preferences_of(users: Iterable[int]) -> dict[int, Preferences]:
    """By person: one statement."""
    wanted = list(users)
    kept = {row.user_id: Preferences(row) for row in NotificationPreferences.objects.filter(user__in=wanted)}
    return {user: kept.get(user) or Preferences(NotificationPreferences(user_id=user)) for user in wanted}
