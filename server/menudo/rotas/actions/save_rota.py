"""Make, change and delete rotas."""

from collections.abc import Sequence
from datetime import date

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.revisions import require_unchanged
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.labels.models import Ink, Label
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.kernel import change_posts
from menudo.profiles.models import Profile
from menudo.rotas.actions.change_turns import end_evergreen, set_profiles
from menudo.rotas.actions.fill_rota import fill_rota
from menudo.rotas.models import Rota, Turn, Wording
from menudo.rotas.schemas import RotaIn, SeasonIO

_SETTINGS = (
    "active",
    "order",
    "seed",
    "rest_days",
    "gap_days",
    "until",
    "closed_days",
    "signoff_each_copy",
    "ahead_hours",
)


def save_rota(context: BrandContext, rota_id: int | None, data: RotaIn, revision: int | None = None) -> Rota:
    """A new rota (`rota_id` None), or one changed; with its label, for which timetables keep slots. Raises InvalidError with every
    fault at its field, StaleRevisionError, NotFoundError."""
    context.require(Capability.PUBLISH)
    if rota_id is not None:
        rota_of(context, rota_id)
    faults, name = [], " ".join(data.name.split())
    if words := storage_refusal(name) or (None if name else say("rota.nameless")):
        faults.append(Fault("/name", words))
    if data.ink not in Ink.values:
        faults.append(Fault("/ink", say("ink.unknown", ink=data.ink[:20])))
    known = list(Profile.objects.filter(brand=context.brand, pk__in=data.profiles))
    ids = {p.pk for p in known}
    faults += [Fault(f"/profiles/{n}", say("profile.foreign")) for n, one in enumerate(data.profiles) if one not in ids]
    if not data.profiles:
        faults.append(Fault("/profiles", say("profile.none")))
    faults += season_faults(data.seasons)
    if rota_id is not None and data.gap_days < 1 and Turn.objects.filter(rota=rota_id).exclude(quotation="").exists():
        faults.append(Fault("/gap_days", say("rota.daily_at_most")))
    if faults:
        raise InvalidError(faults=faults)
    try:
        with transaction.atomic():
            rota = rota_of(context, rota_id, lock=True) if rota_id is not None else Rota(brand=context.brand)
            if rota_id is not None and revision is not None:
                require_unchanged(revision, rota.revision)
            rota.label = _rota_label(context, rota, name, data.ink)
            rota.name, rota.run_as = name, context.user
            for field in _SETTINGS:
                setattr(rota, field, getattr(data, field))
            rota.seasons = [[list(s.first), list(s.last)] for s in data.seasons]
            rota.revision = rota.revision + 1 if rota_id is not None else 1
            rota.save()
            rota.profiles.set(known)
            with change_posts(context, posts=_post_ids(rota), slots_of=ids) as change:
                set_profiles(change, rota, change.posts.values())
                change.record("keep_rota", "rota", rota.pk, say("rota.kept", name=name))
            publish_change(context.brand.pk, "rota", rota.pk)
            fill_rota(rota.pk)
    except IntegrityError:
        raise InvalidError.at("/name", say("rota.name_taken")) from None
    return rota


def _rota_label(context: BrandContext, rota: Rota, name: str, ink: str) -> Label:
    """The rota's label, of its name and ink: one that there is, or a new one."""
    name = name[:40].strip()
    label = rota.label or Label.objects.filter(brand=context.brand, name__iexact=name).first()
    if label is None:
        return Label.objects.create(brand=context.brand, name=name, ink=ink)
    label.name, label.ink = name, ink
    label.save()
    return label


def season_faults(seasons: Sequence[SeasonIO], pointer: str = "/seasons") -> list[Fault]:
    """Days of the year that there aren't; the 29th of February is one."""
    found = []
    for n, season in enumerate(seasons):
        for end in ("first", "last"):
            month, day = getattr(season, end)
            try:
                date(2024, month, day)
            except ValueError:
                found.append(Fault(f"{pointer}/{n}/{end}", say("season.no_day", day=day, month=month)))
    return found


def delete_rota(context: BrandContext, rota_id: int) -> None:
    """What it has planned stays; its turns are drafts again, its label stays with what bears it."""
    context.require(Capability.PUBLISH)
    with transaction.atomic():
        rota = rota_of(context, rota_id, lock=True)
        with change_posts(context, posts=_post_ids(rota), binned=True) as change:
            end_evergreen(change)
            change.record("delete_rota", "rota", rota.pk, say("rota.deleted", name=rota.name))
        rota.delete()
        publish_change(context.brand.pk, "rota", rota_id)


def _post_ids(rota: Rota) -> list[int]:
    """The ids of the posts that are its turns' wordings."""
    return list(Wording.objects.filter(turn__rota=rota).values_list("post_id", flat=True))


def rota_of(context: BrandContext, rota_id: int, lock: bool = False) -> Rota:
    """A rota of the brand. Raises NotFoundError."""
    rotas = Rota.objects.select_for_update(of=("self",)) if lock else Rota.objects
    return first_or_404(rotas.select_related("label", "brand").filter(brand=context.brand, pk=rota_id))


def turn_of(context: BrandContext, rota: Rota, turn_id: int) -> Turn:
    """A turn of the rota. Raises NotFoundError."""
    return first_or_404(Turn.objects.filter(rota=rota, pk=turn_id))
