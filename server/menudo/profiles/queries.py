"""Networks and profiles, as pages need them."""

from dataclasses import asdict, dataclass
from datetime import datetime

from django.db.models import Count, OuterRef, QuerySet, Subquery

from menudo.base.problems import NotFoundError
from menudo.base.rows import first_or_404
from menudo.people.context import BrandContext
from menudo.people.models import Brand
from menudo.profiles import schemas
from menudo.profiles.models import Connection, ConnectLink, Pause, Profile, ProfileSet
from menudo.profiles.pauses import is_usable
from menudo.profiles.schemas import ConditionOut, FieldOut, KindOut, LookOut, NetworkOut, PaintOut, RatioOut
from menudo.profiles.sheets import CUSTOM_NETWORK, can_connect, sheets_of
from menudo_core.networks.conditions import unmet_conditions
from menudo_core.networks.load import permissive_sheet
from menudo_core.networks.proof import has_grid
from menudo_core.networks.ratios import ratio_presets
from menudo_core.networks.sheet import Condition, RuleSheet
from menudo_core.profiles.default import default_profile
from menudo_core.profiles.expiry import WARNING_DAYS, days_left
from menudo_core.signoff.states import DeliveryState

_PLANNED = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]
_TROUBLE = [DeliveryState.TROUBLE, DeliveryState.MISSED]


def network_list(brand: int) -> list[NetworkOut]:
    """Every network to plan for: those one can connect at here, those that profiles of the brand are on all the same, the
    plain one, the brand's own."""
    on = set(Profile.objects.filter(brand_id=brand).values_list("network", flat=True).distinct())
    found = [network_out(sheet) for sheet in sheets_of(brand).values()]
    return [one for one in found if one.connects or one.is_custom or one.plain or one.network in on]


def network_out(sheet: RuleSheet) -> NetworkOut:
    is_custom = sheet.network.startswith(CUSTOM_NETWORK)
    return NetworkOut(
        network=sheet.network,
        name=sheet.name,
        letters=sheet.letters,
        shape=sheet.shape,
        about=sheet.about,
        is_custom=is_custom,
        kinds=[
            KindOut(kind=k.kind, name=k.name, direct=k.direct, conditions=[condition_out(c) for c in k.conditions])
            for k in sheet.kinds
        ],
        fields=[
            FieldOut(
                name=f.name,
                label=f.label,
                type=f.type,
                required=f.required,
                limit=f.limit,
                choices=list(f.choices),
            )
            for f in sheet.fields
        ],
        takes_link="link" not in sheet.forbidden,
        takes_comment="first_comment" not in sheet.forbidden,
        takes_stories=sheet.story is not None,
        takes_people=sheet.media.people is not None,
        takes_cover=sheet.media.cover,
        has_grid=has_grid(sheet),
        ratios=[RatioOut(label=r.label, ratio=r.ratio, form=r.form) for r in ratio_presets(sheet)],
        look=look_out(sheet),
        connects=not is_custom and can_connect(sheet),
        plain=sheet.network == permissive_sheet().network,
    )


def look_out(sheet: RuleSheet) -> LookOut:
    light, dark = (PaintOut(**asdict(paint)) for paint in (sheet.look.light, sheet.look.dark))
    return LookOut(light=light, dark=dark, letters=sheet.look.letters)


def condition_out(condition: Condition) -> ConditionOut:
    return ConditionOut(id=condition.id, message=condition.message, remedy=condition.remedy)


def unmet_conditions_of(profile: Profile, sheets: dict[str, RuleSheet]) -> list[ConditionOut]:
    """The profile's conditions that its network's facts speak against."""
    kind = sheets[profile.network].profile_kind(profile.kind) if profile.network in sheets else None
    if kind is None or profile.state != Profile.State.NOT_READY:
        return []
    return [condition_out(c) for c in unmet_conditions(kind, profile.facts)]


def brand_profiles(context: BrandContext) -> QuerySet[Profile]:
    """The brand's profiles, with their connection and keeper."""
    return Profile.objects.filter(brand=context.brand).select_related("connection__link", "keeper")


def profile_list(context: BrandContext, now: datetime) -> list[schemas.ProfileOut]:
    """Every profile of the brand, with what is planned for it and what is in trouble: six statements."""
    # Each by itself: an index of its own serves it, and over all deliveries at once none does.
    mine = Profile.objects.filter(brand=context.brand).order_by()
    planned = dict(mine.filter(deliveries__state__in=_PLANNED).values_list("pk").annotate(Count("deliveries")))
    trouble = dict(mine.filter(deliveries__state__in=_TROUBLE).values_list("pk").annotate(Count("deliveries")))
    slots = dict(mine.filter(slots__isnull=False).values_list("pk").annotate(Count("slots")))
    out = Profile.objects.filter(
        pk=OuterRef("pk"), deliveries__state=DeliveryState.PUBLISHED, deliveries__published_at__isnull=False
    )
    last = Subquery(out.order_by("-deliveries__published_at").values("deliveries__published_at")[:1])
    paused = {pause.profile: pause for pause in current_pauses(context.brand)}
    sheets = sheets_of(context.brand.pk)
    rows = list(brand_profiles(context).annotate(last_published=last).order_by("network", "handle", "pk"))
    default = default_profile((p.pk, is_usable(p)) for p in rows)
    return [
        schemas.ProfileOut(
            id=p.pk,
            network=p.network,
            handle=p.handle,
            name=p.name,
            display_name=p.display_name,
            kind=p.kind,
            url=p.url,
            site=p.site,
            followers=p.followers,
            zone=p.zone or context.brand.zone,
            zone_own=bool(p.zone),
            state=p.state,
            usable=is_usable(p),
            is_default=p.pk == default,
            paused=paused.get(p.pk),
            **asdict(_connection_facts(p.connection, now)),
            unmet=unmet_conditions_of(p, sheets),
            keeper=p.keeper_id,
            keeper_name=p.keeper.name if p.keeper else "",
            planned=planned.get(p.pk, 0),
            trouble=trouble.get(p.pk, 0),
            last_published=p.last_published,
            slot_count=slots.get(p.pk, 0),
        )
        for p in rows
    ]


def timetable_of(profile: Profile) -> schemas.TimetableOut:
    """When a profile posts."""
    slots = profile.slots.order_by("weekday", "at")
    return schemas.TimetableOut(
        slots=[schemas.SlotOut(weekday=s.weekday, at=s.at, label=s.label_id) for s in slots],
        spacing=spacing_out(profile),
    )


@dataclass(frozen=True, slots=True)
class _ConnectionFacts:
    account: str = ""
    connection: int | None = None
    connection_expires_at: datetime | None = None
    expires_in_days: int | None = None
    warning: bool = False
    by_link: str = ""


def _connection_facts(connection: Connection | None, now: datetime) -> _ConnectionFacts:
    if connection is None:
        return _ConnectionFacts()
    left = days_left(connection.expires_at, now) if connection.expires_at else None
    return _ConnectionFacts(
        connection.account,
        connection.pk,
        connection.expires_at,
        left,
        left is not None and left <= max(WARNING_DAYS),
        connection.link.display_name if connection.link else "",
    )


def profile_of(context: BrandContext, profile_id: int) -> Profile:
    """One profile of the brand. Raises NotFoundError, also for another brand's."""
    return first_or_404(brand_profiles(context).filter(pk=profile_id))


def set_list(context: BrandContext) -> list[schemas.SetOut]:
    """The brand's profile sets with their members: two statements."""
    found = ProfileSet.objects.filter(brand=context.brand).prefetch_related("profiles")
    return [schemas.SetOut(id=s.pk, name=s.name, profiles=sorted(p.pk for p in s.profiles.all())) for s in found]


def profile_ids_of_set(context: BrandContext, set_id: int) -> set[int]:
    """The profiles a set names. Raises NotFoundError, also for another brand's."""
    found = ProfileSet.objects.filter(brand=context.brand, pk=set_id).first()
    if found is None:
        raise NotFoundError()
    return set(found.profiles.values_list("pk", flat=True))


def open_links(context: BrandContext) -> list[ConnectLink]:
    """The brand's client links that lead somewhere still, newest first, with the profiles connected by each."""
    found = (
        ConnectLink.objects.filter(brand=context.brand, revoked_at=None).order_by("-id").select_related("created_by")
    )
    return list(found.prefetch_related("connections__profiles"))


def current_pauses(brand: Brand) -> list[schemas.PauseOut]:
    """The pauses in force: the brand's first."""
    found = (
        Pause.objects.filter(brand=brand, ended_at=None)
        .select_related("created_by", "profile")
        .order_by("profile_id", "id")
    )
    return [pause_out(p) for p in sorted(found, key=lambda p: p.profile_id is not None)]


def pause_out(row: Pause) -> schemas.PauseOut:
    """A pause as pages need it."""
    return schemas.PauseOut(
        id=row.pk,
        profile=row.profile_id,
        handle=row.profile.handle if row.profile else "",
        starts_at=row.starts_at,
        ends_at=row.ends_at,
        created_by=row.created_by.name if row.created_by else "",
        reason=row.reason,
    )


def spacing_out(profile: Profile) -> schemas.SpacingIO:
    """What a profile wishes of its spacing, and its waking hours."""
    return schemas.SpacingIO(
        max_gap_days=profile.max_gap_days,
        min_gap_minutes=profile.min_gap_minutes,
        min_repeat_days=profile.min_repeat_days,
        waking_from=profile.waking_from,
        waking_until=profile.waking_until,
    )
