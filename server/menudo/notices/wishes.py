"""How each person wishes to be told."""

from collections.abc import Iterable
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from django.conf import settings

from menudo.notices.models import Wishes
from menudo_core.notices.when import KINDS, Quiet, Way


@dataclass(frozen=True, slots=True)
class Wished:
    """One person's wishes, or what holds for who has said none."""

    row: Wishes

    def way(self, kind: str) -> Way:
        """How a kind of notice leaves the product for them; a text message only where there is a number for it."""
        standard = KINDS[kind][1] if kind in KINDS else Way.NOW
        way = Way(self.row.ways.get(kind, standard))
        if way is Way.TEXT and not (self.row.phone and settings.DEMO):
            return Way.NOW
        return way

    @property
    def zone(self) -> ZoneInfo:
        return ZoneInfo(self.row.zone)

    @property
    def quiet(self) -> Quiet | None:
        if self.row.quiet_from is None or self.row.quiet_to is None:
            return None
        return Quiet(self.row.quiet_from, self.row.quiet_to)


def wishes_of(users: Iterable[int]) -> dict[int, Wished]:
    """By person: one statement."""
    wanted = list(users)
    said = {row.user_id: Wished(row) for row in Wishes.objects.filter(user__in=wanted)}
    return {user: said.get(user) or Wished(Wishes(user_id=user)) for user in wanted}
