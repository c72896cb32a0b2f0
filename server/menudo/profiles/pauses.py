"""How profiles stand: usable or not, and which pauses cover them."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime

from menudo.profiles.models import Pause, Profile
from menudo_core.timing import pauses as core

USABLE_STATES = frozenset({Profile.State.CONNECTED, Profile.State.BY_HAND})


@dataclass(frozen=True, slots=True)
class Pauses:
    """The pauses in force, by brand and by profile."""

    of_brand: Mapping[int, list[core.Pause]] = field(default_factory=dict)
    of_profile: Mapping[int, list[core.Pause]] = field(default_factory=dict)

    def at(self, profile: Profile, instant: datetime) -> core.Pause | None:
        """The pause that stops what is due for the profile at the instant; None: none does."""
        mine = [*self.of_brand.get(profile.brand_id, ()), *self.of_profile.get(profile.pk, ())]
        return core.pause_at(mine, instant)


def pauses_of(brands: Iterable[int]) -> Pauses:
    """Every pause of the brands that hasn't been ended: one statement."""
    of_brand: dict[int, list[core.Pause]] = {}
    of_profile: dict[int, list[core.Pause]] = {}
    for row in Pause.objects.filter(brand_id__in=set(brands), ended_at=None):
        pause = core.Pause(row.starts_at, row.ends_at)
        if row.profile_id is None:
            of_brand.setdefault(row.brand_id, []).append(pause)
        else:
            of_profile.setdefault(row.profile_id, []).append(pause)
    return Pauses(of_brand, of_profile)


def is_usable(profile: Profile) -> bool:
    """Whether something can go out to the profile at all, by the wire or by hand."""
    return profile.state in USABLE_STATES
