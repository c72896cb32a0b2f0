"""The labels that names stand for."""

from collections.abc import Iterable, Sequence

from django.db.models import Value
from django.db.models.functions import Lower

from menudo.base.live import publish_changes
from menudo.base.problems import Fault, InvalidError
from menudo.base.storable import storage_refusal
from menudo.labels.actions.save_label import MAX_LABELS, too_many_labels
from menudo.labels.models import Ink, Label
from menudo.people.context import BrandContext


def find_or_create_labels(context: BrandContext, names: Sequence[str], pointer: str) -> list[Label]:
    """The brand's labels of these names, whatever their case, each once and in their order; what there isn't yet is made. Empty
    names are left out. Part of the caller's transaction. Raises InvalidError at `pointer`/n."""
    written = [" ".join(name.split()) for name in names]
    if faults := [Fault(f"{pointer}/{n}", words) for n, name in enumerate(written) if (words := storage_refusal(name))]:
        raise InvalidError(faults=faults)
    wanted = list({name.casefold(): name for name in reversed(written) if name}.values())[::-1]
    known = _labels_by_name(context)
    missing = [name for name in wanted if name.casefold() not in known]
    if missing and len(known) + len(missing) > MAX_LABELS:
        raise too_many_labels(pointer)
    made = create_labels(context, missing)
    return [known.get(name.casefold()) or made[name.casefold()] for name in wanted]


def create_labels(context: BrandContext, names: Iterable[str]) -> dict[str, Label]:
    """Labels of these names, in inks one after another, by their names as `str.casefold` has them. Part of the caller's
    transaction."""
    wanted, inks = {name.casefold(): name for name in names}, list(Ink)
    if not wanted:
        return {}
    rows = [Label(brand=context.brand, name=n, ink=inks[i % len(inks)]) for i, n in enumerate(wanted.values())]
    # Somebody else may make one of them just now: whoever comes second takes that.
    Label.objects.bulk_create(rows, ignore_conflicts=True)
    there = _labels_by_name(context)
    found = {key: there.get(key) or _same_in_database(context, name) for key, name in wanted.items()}
    publish_changes(context.brand.pk, "label", [label.pk for label in found.values()])
    return found


def _labels_by_name(context: BrandContext) -> dict[str, Label]:
    # Held, so that none is deleted before what is labelled with it is kept.
    rows = Label.objects.filter(brand=context.brand).order_by("pk").select_for_update(no_key=True)
    return {label.name.casefold(): label for label in rows}


def _same_in_database(context: BrandContext, name: str) -> Label:
    """The label that the database takes for the same, though `str.casefold` doesn't."""
    return Label.objects.alias(low=Lower("name")).get(brand=context.brand, low=Lower(Value(name)))
