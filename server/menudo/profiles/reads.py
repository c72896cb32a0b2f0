"""Networks and profiles, as pages need them."""

import dataclasses
from typing import Any

from django.db.models import Prefetch, QuerySet

from menudo.base.problems import NotFound
from menudo.base.rows import the_one
from menudo.people.here import Here
from menudo.people.models import Brand
from menudo.profiles.models import ConnectLink, Pause, Profile, ProfileSet, Slot
from menudo.profiles.schemas import ConditionOut, FieldOut, KindOut, LookOut, NetworkOut, PaintOut, RatioOut
from menudo.profiles.sheets import OWN, can_connect, sheets_of
from menudo_core.networks.conditions import unmet
from menudo_core.networks.load import plain
from menudo_core.networks.proof import has_grid
from menudo_core.networks.ratios import presets
from menudo_core.networks.sheet import Condition, RuleSheet


def networks(brand: int) -> list[NetworkOut]:
    """Every network to plan for: those one can connect at here, those that profiles of the brand are on all the same, the
    plain one, the brand's own."""
    on = set(Profile.objects.filter(brand_id=brand).values_list("network", flat=True).distinct())
    found = [network_out(sheet) for sheet in sheets_of(brand).values()]
    return [one for one in found if one.connects or one.own or one.plain or one.network in on]


def network_out(sheet: RuleSheet) -> NetworkOut:
    own = sheet.network.startswith(OWN)
    return NetworkOut(
        network=sheet.network, name=sheet.name, letters=sheet.letters, shape=sheet.shape, about=sheet.about, own=own,
        kinds=[
            KindOut(kind=k.kind, name=k.name, direct=k.direct, conditions=[condition_out(c) for c in k.conditions])
            for k in sheet.kinds
        ],
        fields=[
            FieldOut(
                name=f.name, label=f.label, type=f.type, required=f.required, limit=f.limit, choices=list(f.choices),
            )
            for f in sheet.fields
        ],
        takes_link="link" not in sheet.forbidden, takes_comment="first_comment" not in sheet.forbidden,
        takes_stories=sheet.story is not None, takes_people=sheet.media.people is not None, takes_cover=sheet.media.cover,
        has_grid=has_grid(sheet),
        ratios=[RatioOut(words=r.words, ratio=r.ratio, form=r.form) for r in presets(sheet)], look=look_out(sheet),
        connects=not own and can_connect(sheet), plain=sheet.network == plain().network,
    )  # fmt: skip


def look_out(sheet: RuleSheet) -> LookOut:
    light, dark = (PaintOut(**dataclasses.asdict(paint)) for paint in (sheet.look.light, sheet.look.dark))
    return LookOut(light=light, dark=dark, letters=sheet.look.letters)


def condition_out(condition: Condition) -> ConditionOut:
    return ConditionOut(id=condition.id, words=condition.words, mend=condition.mend)


def unmet_of(profile: Profile, sheets: dict[str, RuleSheet]) -> list[ConditionOut]:
    """The profile's conditions that its network's facts speak against."""
    kind = sheets[profile.network].kind(profile.kind) if profile.network in sheets else None
    if kind is None or profile.state != Profile.State.NOT_READY:
        return []
    return [condition_out(c) for c in unmet(kind, profile.facts)]


def profiles(place: Here) -> QuerySet[Profile]:
    """The brand's profiles, with their connection, keeper and slots: two statements."""
    slots = Prefetch("slots", Slot.objects.order_by("weekday", "at"))
    found = Profile.objects.filter(brand=place.brand).select_related("connection__link", "keeper")
    return found.prefetch_related(slots)


def profile(place: Here, id: int) -> Profile:
    """One profile of the brand. Raises NotFound, also for another brand's."""
    return the_one(profiles(place).filter(pk=id))


def sets(place: Here) -> list[dict[str, Any]]:
    """The brand's profile sets with their members: two statements."""
    found = ProfileSet.objects.filter(brand=place.brand).prefetch_related("profiles")
    return [{"id": s.pk, "name": s.name, "profiles": sorted(p.pk for p in s.profiles.all())} for s in found]


def set_members(place: Here, id: int) -> set[int]:
    """The profiles a set names. Raises NotFound, also for another brand's."""
    found = ProfileSet.objects.filter(brand=place.brand, pk=id).first()
    if found is None:
        raise NotFound()
    return set(found.profiles.values_list("pk", flat=True))


def links(place: Here) -> list[ConnectLink]:
    """The brand's client links that lead somewhere still, newest first, with the profiles connected by each."""
    found = ConnectLink.objects.filter(brand=place.brand, revoked=None).order_by("-id").select_related("by")
    return list(found.prefetch_related("connections__profiles"))


def pauses(brand: Brand) -> list[dict[str, Any]]:
    """The pauses in force: the brand's first."""
    found = Pause.objects.filter(brand=brand, ended=None).select_related("by", "profile").order_by("profile_id", "id")
    return [pause_out(p) for p in sorted(found, key=lambda p: p.profile_id is not None)]


def pause_out(row: Pause) -> dict[str, Any]:
    """A pause as pages need it."""
    return {
        "id": row.pk, "profile": row.profile_id, "handle": row.profile.handle if row.profile else "", "since": row.since,
        "until": row.until, "by": row.by.name if row.by else "", "why": row.why,
    }  # fmt: skip


def wishes_out(profile: Profile) -> dict[str, Any]:
    """What a profile wishes of its spacing, and its waking hours."""
    return {
        "most_days": profile.most_days, "least_minutes": profile.least_minutes, "repeat_days": profile.repeat_days,
        "wakes": profile.wakes, "sleeps": profile.sleeps,
    }  # fmt: skip
